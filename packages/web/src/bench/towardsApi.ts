import type { Look } from '@dyepot/core';
import { api } from '../api.ts';
import type { Towards } from '../types.ts';

/** A lead beside finished pictures. */
const towardsApi = api.injectEndpoints({
  endpoints: (build) => ({
    asShown: build.query<{ name: string | null }, number>({ query: (id) => `/frames/${id}/as-shown`, keepUnusedDataFor: 0 }),
    towardsPicture: build.mutation<Towards, { frameId: number; look: Look; picture: string | null }>({
      query: ({ frameId, ...body }) => ({ url: `/frames/${frameId}/towards`, method: 'POST', body }),
    }),
  }),
});
export const { useAsShownQuery, useTowardsPictureMutation } = towardsApi;
