import type { ColourCorrection, Groundwork } from '@dyepot/core';
import { api } from '../api.ts';

/** How a frame stands off its anchor: EV, mired (over nothing: warmer), Duv, CIEDE2000 of greys and skins, and a*, b* of middle grey. */
export interface Apart {
  ev: number;
  mired: number;
  duv: number;
  difference: number;
  grey: readonly [number, number];
}
export interface EvenFrame {
  id: number;
  name: string;
  /** null until it is compared */
  now: Apart | null;
  proposed: Apart | null;
  /** what is proposed beside the exposure it has */
  exposureEv: number;
  groundwork: Groundwork | null;
  why: string | null;
  /** what it could not be told by */
  note: string | null;
  /** where the patch lies in it, in shares of its plate */
  spot: readonly [number, number] | null;
  /** mean CIEDE2000 of its chart's patches to the anchor's */
  patches: { now: number; proposed: number } | null;
}
/** How frames are matched: by what both show, by near greys, by a patch pointed at, by the chart of 24 patches. */
export type MatchWay = 'statistics' | 'neutral' | 'patch' | 'chart';
/** Which parts proposals bring. */
export interface Parts {
  exposure: boolean;
  balance: boolean;
  ends: boolean;
  contrast: boolean;
}
/** What charts say of a camera's colours: mean CIEDE2000 to the published values, as the profile shows them and with each correction. */
export interface SaidByCharts {
  camera: string;
  /** the frame whose chart it is; null: all charts of that camera together */
  frameId: number | null;
  count: number;
  before: number;
  corrections: {
    correction: ColourCorrection;
    /** of what was left out of the fit: one patch after another, or one chart after another */
    unseen: number;
    /** the shoot's other charts of that camera */
    others: { before: number; after: number } | null;
  }[];
}
/** How all frames of a light would be moved to come to another light. */
export interface LightProposal {
  light: string;
  count: number;
  anchorId: number;
  anchor: string;
  move: { ev: number; mired: number; duv: number };
  by: string;
  groundwork: Groundwork;
}
export interface LightWish {
  to: string;
  exposure: boolean;
  balance: boolean;
}
export interface Spread {
  ev: number;
  mired: number;
  mean: number;
  greatest: number;
}
export interface EvenGroup {
  light: string;
  anchorId: number;
  /** somebody named it; else it is the most typical */
  named: boolean;
  spread: { now: Spread; proposed: Spread } | null;
  frames: EvenFrame[];
}
export interface Evenness {
  look: string;
  tolerance: number;
  by: MatchWay;
  parts: Parts;
  comparing: { done: number; total: number } | null;
  /** frames still to be compared */
  missing: number;
  groups: EvenGroup[];
}
export type Under = 'look' | 'none';
/** What is said of a frame. */
export interface Said {
  id: number;
  light?: string;
  rating?: number;
  mark?: string;
}
export interface Was {
  id: number;
  groundwork: Groundwork | null;
  /** the version that took its place: where it has moved on, nothing is given back */
  version: number;
}

export const evennessApi = api.injectEndpoints({
  endpoints: (build) => ({
    evenness: build.query<Evenness, { id: number; under: Under }>({
      query: ({ id, under }) => `/shoots/${id}/evenness?under=${under}`,
      providesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
    }),
    measure: build.mutation<object, number>({ query: (id) => ({ url: `/shoots/${id}/evenness`, method: 'POST' }) }),
    /** how frames are matched from now on, in which parts, or where a patch is pointed at in one */
    setMatching: build.mutation<
      object,
      { id: number; by?: MatchWay; parts?: Parts; frameId?: number; at?: readonly [number, number] | null }
    >({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}/matching`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
    }),
    takeProposals: build.mutation<{ was: Was[] }, { id: number; ids: number[]; share: number }>({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}/match`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
    }),
    putGroundworks: build.mutation<{ was: Was[] }, { id: number; frames: Was[] }>({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}/groundworks`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
    }),
    /** says something of frames, one by one; what was said before comes back */
    sayOfFrames: build.mutation<{ was: Said[] }, Said[]>({
      query: (frames) => ({ url: '/frames/say', method: 'POST', body: { frames } }),
    }),
    /** ratings and marks beside the raws, as XMP sidecars */
    writeSidecars: build.mutation<{ done: number; troubles: string[] }, number[]>({
      query: (ids) => ({ url: '/frames/sidecars/write', method: 'POST', body: { ids } }),
    }),
    /** what sidecars say otherwise than the frames; nothing is changed yet */
    readSidecars: build.mutation<{ said: Said[]; troubles: string[] }, number[]>({
      query: (ids) => ({ url: '/frames/sidecars/read', method: 'POST', body: { ids } }),
    }),
    chartColours: build.query<{ kept: Record<string, ColourCorrection>; said: SaidByCharts[] }, number>({
      query: (id) => `/shoots/${id}/colours`,
      providesTags: (_r, _e, id) => [{ type: 'Shoot', id }],
    }),
    /** keeps a correction as the shoot's profile of a camera; `frames`: what is given back instead */
    keepColours: build.mutation<
      { was: Was[]; before: ColourCorrection | null },
      { id: number; camera: string; correction: ColourCorrection | null; frames?: Was[] }
    >({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}/colours`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
    }),
    lightProposals: build.query<LightProposal[], LightWish & { id: number }>({
      query: ({ id, ...params }) => ({ url: `/shoots/${id}/light-to-light`, params }),
      keepUnusedDataFor: 0,
    }),
    takeLights: build.mutation<{ was: Was[] }, LightWish & { id: number; lights: readonly string[] }>({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}/light-to-light`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
    }),
    proposedLights: build.query<{ light: string; ids: number[] }[], number>({
      query: (id) => `/shoots/${id}/lights`,
      keepUnusedDataFor: 0,
    }),
    setAnchor: build.mutation<object, { id: number; light: string; frameId: number | null }>({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}/anchor`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
    }),
  }),
});
export const {
  useSayOfFramesMutation,
  useWriteSidecarsMutation,
  useReadSidecarsMutation,
  useLazyProposedLightsQuery,
  useEvennessQuery,
  useMeasureMutation,
  useSetMatchingMutation,
  useChartColoursQuery,
  useKeepColoursMutation,
  useLightProposalsQuery,
  useTakeLightsMutation,
  useTakeProposalsMutation,
  usePutGroundworksMutation,
  useSetAnchorMutation,
} = evennessApi;
