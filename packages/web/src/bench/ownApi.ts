import { api, lasting } from '../api.ts';
import type { Frame } from '../types.ts';

/** Frames’ own steps. */
export const ownApi = api.injectEndpoints({
  endpoints: (build) => ({
    saveSteps: build.mutation<Frame, { id: number; steps: object | null; version: number }>({
      query: ({ id, ...body }) => lasting({ url: `/frames/${id}/steps`, method: 'PUT', body }),
    }),
  }),
});
