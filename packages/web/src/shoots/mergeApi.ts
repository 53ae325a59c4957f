import { api } from '../api.ts';

/** What became of a bracket: the file's name, how far each exposure was moved, and what share of it was left out for what moved. */
export interface Merged {
  name: string;
  moved: number[];
  left: number[];
}
export const mergeApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** frames that may be one picture at several exposures */
    brackets: build.query<number[][], number>({ query: (id) => `/shoots/${id}/brackets`, keepUnusedDataFor: 0 }),
    merge: build.mutation<Merged, { id: number; ids: readonly number[] }>({
      query: ({ id, ids }) => ({ url: `/shoots/${id}/merge`, method: 'POST', body: { ids } }),
      invalidatesTags: ['Job'],
    }),
  }),
});
export const { useBracketsQuery, useMergeMutation } = mergeApi;
