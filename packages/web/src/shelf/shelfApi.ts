import type { Finding, Look } from '@dyepot/core';
import { api } from '../api.ts';

export interface RevisionLine {
  revision: number;
  createdAt: string;
  strip: string[];
  label: string;
  changes: string[] | null;
}
export interface NearLook {
  id: number;
  name: string;
  revision: number;
  strip: string[];
  distance: number;
  same: boolean;
}
/** What a look does at the ends of a frame's picture, in shares of its pixels. */
export interface OnFrame {
  id: number;
  name: string;
  light: string;
  whites: number;
  blacks: number;
  whitesBefore: number;
  blacksBefore: number;
}
export interface Checked {
  revision: number;
  findings: Finding[];
  frames: OnFrame[];
}
/** How a look of a file stands to those on the shelf. */
export type Standing = { kind: 'new' } | { kind: 'same' | 'older' | 'newer'; id: number; name: string; revision: number };
export interface Arrival {
  look: Look;
  strip: string[];
  standing: Standing;
}
export interface Edit {
  ids: number[];
  favourite?: boolean;
  family?: string;
  addTags?: string[];
  dropTags?: string[];
}
const archive = { 'Content-Type': 'application/octet-stream' };

export const shelfApi = api.injectEndpoints({
  endpoints: (build) => ({
    foundLooks: build.query<{ ids: number[] }, string>({
      query: (words) => `/looks/found?words=${encodeURIComponent(words)}`,
      providesTags: ['Looks'],
    }),
    editLooks: build.mutation<{ changed: number }, Edit>({
      query: (body) => ({ url: '/looks', method: 'PATCH', body }),
      invalidatesTags: ['Looks'],
    }),
    revisionLines: build.query<RevisionLine[], number>({ query: (id) => `/looks/${id}/revisions`, providesTags: ['Looks'] }),
    labelRevision: build.mutation<object, { id: number; revision: number; label: string }>({
      query: ({ id, revision, label }) => ({ url: `/looks/${id}/revisions/${revision}`, method: 'PATCH', body: { label } }),
      invalidatesTags: ['Looks'],
    }),
    nearLooks: build.query<{ looks: NearLook[] }, number>({ query: (id) => `/looks/${id}/near`, providesTags: ['Looks'] }),
    checkedLook: build.query<Checked, { id: number; shoot: number | null }>({
      query: ({ id, shoot }) => `/looks/${id}/check${shoot === null ? '' : `?shoot=${shoot}`}`,
      providesTags: ['Looks'],
    }),
    openParcel: build.mutation<{ looks: Arrival[] }, File>({
      query: (body) => ({ url: '/parcels', method: 'POST', body, headers: archive }),
    }),
    takeParcel: build.mutation<
      { looks: { id: number; name: string; revision: number }[] },
      { file: File; own: number[]; revision: number[] }
    >({
      query: ({ file, own, revision }) => ({
        url: `/parcels/taken?${new URLSearchParams({
          ...(own.length > 0 && { own: own.join() }),
          ...(revision.length > 0 && { revision: revision.join() }),
        }).toString()}`,
        method: 'POST',
        body: file,
        headers: archive,
      }),
      invalidatesTags: ['Looks'],
    }),
  }),
});
export const {
  useFoundLooksQuery,
  useEditLooksMutation,
  useRevisionLinesQuery,
  useLabelRevisionMutation,
  useNearLooksQuery,
  useCheckedLookQuery,
  useOpenParcelMutation,
  useTakeParcelMutation,
} = shelfApi;
