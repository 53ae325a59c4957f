import { api } from '../api.ts';

/** A folder whose new raws come into a shoot by themselves. */
export interface Watch {
  id: number;
  shootId: number;
  folder: string;
  lookId: number | null;
  lookRevision: number | null;
  preset: string;
  trouble: string | null;
}
const watchApi = api.injectEndpoints({
  endpoints: (build) => ({
    watches: build.query<{ watches: Watch[] }, void>({ query: () => '/watches', providesTags: ['Watches'] }),
    watchFolder: build.mutation<Watch, Omit<Watch, 'id' | 'trouble'>>({
      query: (body) => ({ url: '/watches', method: 'POST', body }),
      invalidatesTags: ['Watches'],
    }),
    endWatch: build.mutation<object, number>({
      query: (id) => ({ url: `/watches/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Watches'],
    }),
  }),
});
export const { useWatchesQuery, useWatchFolderMutation, useEndWatchMutation } = watchApi;
