import { api } from '../api.ts';
import type { TrashItem, TrashKind } from '../types.ts';

const trashApi = api.injectEndpoints({
  endpoints: (build) => ({
    trash: build.query<TrashItem[], void>({ query: () => '/trash', providesTags: ['Trash'] }),
    letGo: build.mutation<object, { kind: TrashKind; id: number }>({
      query: ({ kind, id }) => ({ url: `/trash/${kind}/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Trash'],
    }),
    emptyTrash: build.mutation<{ gone: number }, void>({
      query: () => ({ url: '/trash', method: 'DELETE' }),
      invalidatesTags: ['Trash'],
    }),
  }),
});
export const { useTrashQuery, useLetGoMutation, useEmptyTrashMutation } = trashApi;
