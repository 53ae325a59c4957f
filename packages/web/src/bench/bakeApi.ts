import type { Look } from '@dyepot/core';
import { api } from '../api.ts';

/** What a baked table would leave out, and how far off it would be. */
const bakeApi = api.injectEndpoints({
  endpoints: (build) => ({
    bakeReport: build.query<
      { leftOut: { name: string; reason: string }[]; error: { mean: number; worst: number }; suggestedSize: number },
      { look: Look; format: string; size: number; input: string }
    >({ query: (body) => ({ url: '/tables/bake-report', method: 'POST', body }) }),
  }),
});
export const { useBakeReportQuery } = bakeApi;
