import type { Region } from '@dyepot/core';
import { api, lasting } from '../api.ts';
import type { Frame } from '../types.ts';

/** Frames’ own steps. */
export const ownApi = api.injectEndpoints({
  endpoints: (build) => ({
    saveSteps: build.mutation<Frame, { id: number; steps: object | null; version: number }>({
      query: ({ id, ...body }) => lasting({ url: `/frames/${id}/steps`, method: 'PUT', body }),
    }),
    /** what is found of each region on a frame; `stamp` names its groundwork */
    found: build.query<Record<Region, { sure: number; share: number }>, { id: number; stamp: string }>({
      query: ({ id }) => `/frames/${id}/found`,
    }),
  }),
});
export const { useFoundQuery } = ownApi;
