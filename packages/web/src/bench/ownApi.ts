import type { FigurePart, Region } from '@dyepot/core';
import { api, lasting } from '../api.ts';
import type { Frame } from '../types.ts';

/** Frames’ own steps. */
export const ownApi = api.injectEndpoints({
  endpoints: (build) => ({
    saveSteps: build.mutation<Frame, { id: number; steps: object | null; version: number }>({
      query: ({ id, ...body }) => lasting({ url: `/frames/${id}/steps`, method: 'PUT', body }),
    }),
    /** the thing in a box: left, top, width, height in shares of the picture */
    cutFigure: build.mutation<FigurePart, { id: number; box: readonly number[] }>({
      query: ({ id, box }) => ({ url: `/frames/${id}/figure`, method: 'POST', body: { box } }),
    }),
    /** what is found of each region on a frame; `stamp` names its groundwork */
    found: build.query<Record<Region, { sure: number; share: number }>, { id: number; stamp: string }>({
      query: ({ id }) => `/frames/${id}/found`,
    }),
  }),
});
export const { useCutFigureMutation, useFoundQuery } = ownApi;
