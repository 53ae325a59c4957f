import { api } from '../api.ts';
import type { Browsed, Frame, Job } from '../types.ts';

/** Folders looked through, what of them is brought in, and where a file is now. */
const bringApi = api.injectEndpoints({
  endpoints: (build) => ({
    browse: build.query<Browsed, string | null>({
      query: (folder) => `/folders${folder ? `?folder=${encodeURIComponent(folder)}` : ''}`,
      keepUnusedDataFor: 0,
    }),
    importFolder: build.mutation<Job, { shootId: number; folder: string; deep: boolean; finished: boolean }>({
      query: ({ shootId, ...body }) => ({ url: `/shoots/${shootId}/folder`, method: 'POST', body }),
      invalidatesTags: ['Job'],
    }),
    importUploads: build.mutation<Job, { shootId: number; paths: string[] }>({
      query: ({ shootId, paths }) => ({ url: `/shoots/${shootId}/import`, method: 'POST', body: { paths } }),
      invalidatesTags: ['Job'],
    }),
    findFrame: build.mutation<Frame, { id: number; path: string }>({
      query: ({ id, path }) => ({ url: `/frames/${id}/find`, method: 'POST', body: { path } }),
      invalidatesTags: ['Shoot'],
    }),
  }),
});
export const { useBrowseQuery, useImportFolderMutation, useImportUploadsMutation, useFindFrameMutation } = bringApi;
