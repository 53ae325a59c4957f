import type { StoredTable } from '@dyepot/core';
import { api } from '../../api.ts';

/** The table that takes one picture to another. */
const pairApi = api.injectEndpoints({
  endpoints: (build) => ({
    fitPair: build.mutation<
      { table: StoredTable; coverage: number; mean: number; worst: number; warnings: string[] },
      { before: string; after: string; size: number }
    >({ query: (body) => ({ url: '/tables/fit', method: 'POST', body }) }),
  }),
});
export const { useFitPairMutation } = pairApi;
