import type { Start } from '@dyepot/core';
import { api } from '../api.ts';

export const startApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** what groundwork Dyepot would begin with; `stamp` names the groundwork there is */
    start: build.query<Start, { id: number; stamp: string }>({ query: ({ id }) => `/frames/${id}/start` }),
  }),
});
export const { useLazyStartQuery } = startApi;
