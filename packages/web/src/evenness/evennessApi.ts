import type { Groundwork } from '@dyepot/core';
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
    /** how frames are matched from now on, or where a patch is pointed at in one */
    setMatching: build.mutation<object, { id: number; by?: MatchWay; frameId?: number; at?: readonly [number, number] | null }>({
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
  useTakeProposalsMutation,
  usePutGroundworksMutation,
  useSetAnchorMutation,
} = evennessApi;
