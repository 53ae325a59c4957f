import type { Cdl, Groundwork, GroundworkPart, LensProfile, Look, Rendition, StoredTable } from '@dyepot/core';
import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import type { FileSettings, Frame, Job, ShelfLook, Shoot, ShootCard } from './types.ts';

/** What the server says of a place that should be neutral. */
export interface Balanced {
  kelvin: number;
  tintDuv: number;
  multipliers?: [number, number, number];
  camera?: [number, number, number];
}

/** The lens database named, and lenses found in it. */
export interface LensSource {
  folder: string | null;
  lenses: number;
  files: number;
  problems: string[];
}
export interface LensFound {
  key: string;
  maker: string;
  model: string;
  crop: number;
  focalMin: number;
  focalMax: number;
  has: string[];
  inRange: boolean;
}
/** Parts of groundwork under a name, for a camera (null: any) and a range of ISO. */
export interface GroundworkPreset {
  id: number;
  name: string;
  camera: string | null;
  isoFrom: number;
  isoTo: number;
  parts: GroundworkPart[];
  groundwork: Groundwork;
  automatic: boolean;
}

/** The server, as the pages see it. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: ['Shoot', 'Look', 'Job', 'Lens', 'Preset'],
  endpoints: (build) => ({
    shoots: build.query<ShootCard[], void>({ query: () => '/shoots', providesTags: ['Shoot'] }),
    shoot: build.query<Shoot, number>({ query: (id) => `/shoots/${id}`, providesTags: ['Shoot'] }),
    createShoot: build.mutation<Shoot, string>({
      query: (name) => ({ url: '/shoots', method: 'POST', body: { name } }),
      invalidatesTags: ['Shoot'],
    }),
    updateShoot: build.mutation<Shoot, { id: number; name?: string; leadFrameId?: number; rendition?: Rendition }>({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}`, method: 'PATCH', body }),
      invalidatesTags: ['Shoot'],
    }),
    deleteShoot: build.mutation<object, number>({
      query: (id) => ({ url: `/shoots/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Shoot', 'Job'],
    }),
    applyLook: build.mutation<Shoot, { shootId: number; lookId: number | null; revision: number | null }>({
      query: ({ shootId, ...body }) => ({ url: `/shoots/${shootId}/look`, method: 'POST', body }),
      invalidatesTags: ['Shoot'],
    }),
    importFolder: build.mutation<Job, { shootId: number; folder: string }>({
      query: ({ shootId, folder }) => ({ url: `/shoots/${shootId}/folder`, method: 'POST', body: { folder } }),
      invalidatesTags: ['Job'],
    }),
    importUploads: build.mutation<Job, { shootId: number; paths: string[] }>({
      query: ({ shootId, paths }) => ({ url: `/shoots/${shootId}/import`, method: 'POST', body: { paths } }),
      invalidatesTags: ['Job'],
    }),
    setLight: build.mutation<Frame, { id: number; light: string }>({
      query: ({ id, light }) => ({ url: `/frames/${id}`, method: 'PATCH', body: { light } }),
      invalidatesTags: ['Shoot'],
    }),
    findFrame: build.mutation<Frame, { id: number; path: string }>({
      query: ({ id, path }) => ({ url: `/frames/${id}/find`, method: 'POST', body: { path } }),
      invalidatesTags: ['Shoot'],
    }),
    removeFrame: build.mutation<object, number>({
      query: (id) => ({ url: `/frames/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Shoot'],
    }),
    saveGroundwork: build.mutation<Frame, { id: number; groundwork: Groundwork | null }>({
      query: ({ id, groundwork }) => ({ url: `/frames/${id}/groundwork`, method: 'PUT', body: { groundwork } }),
      invalidatesTags: ['Shoot'],
    }),
    balance: build.mutation<Balanced, { id: number; at: { x: number; y: number; size: number } | null; groundwork: Groundwork }>({
      query: ({ id, ...body }) => ({ url: `/frames/${id}/balance`, method: 'POST', body }),
    }),
    lensSource: build.query<LensSource, void>({ query: () => '/lenses', providesTags: ['Lens'] }),
    setLensSource: build.mutation<LensSource, string | null>({
      query: (folder) => ({ url: '/lenses', method: 'PUT', body: { folder } }),
      invalidatesTags: ['Lens'],
    }),
    lenses: build.query<LensFound[], { id: number; words: string }>({
      query: ({ id, words }) => `/frames/${id}/lenses?words=${encodeURIComponent(words)}`,
      providesTags: ['Lens'],
    }),
    lensProfile: build.query<LensProfile, { id: number; key: string }>({ query: ({ id, key }) => `/frames/${id}/lenses/${key}` }),
    readTable: build.mutation<{ table: StoredTable; corrections: { id: string; cdl: Cdl }[]; warnings: string[] }, File>({
      query: (file) => ({
        url: `/tables/read?name=${encodeURIComponent(file.name)}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    }),
    takePicture: build.mutation<{ id: string }, File>({
      query: (file) => ({
        url: `/tables/picture?name=${encodeURIComponent(file.name)}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    }),
    fitPair: build.mutation<
      { table: StoredTable; coverage: number; mean: number; worst: number; warnings: string[] },
      { before: string; after: string; size: number }
    >({ query: (body) => ({ url: '/tables/fit', method: 'POST', body }) }),
    bakeReport: build.query<
      { leftOut: { name: string; reason: string }[]; error: { mean: number; worst: number }; suggestedSize: number },
      { look: Look; format: string; size: number; input: string }
    >({ query: (body) => ({ url: '/tables/bake-report', method: 'POST', body }) }),
    presets: build.query<GroundworkPreset[], void>({ query: () => '/groundwork-presets', providesTags: ['Preset'] }),
    createPreset: build.mutation<GroundworkPreset, Omit<GroundworkPreset, 'id'>>({
      query: (body) => ({ url: '/groundwork-presets', method: 'POST', body }),
      invalidatesTags: ['Preset'],
    }),
    deletePreset: build.mutation<object, number>({
      query: (id) => ({ url: `/groundwork-presets/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Preset'],
    }),
    looks: build.query<ShelfLook[], void>({ query: () => '/looks', providesTags: ['Look'] }),
    createLook: build.mutation<ShelfLook, Look>({ query: (body) => ({ url: '/looks', method: 'POST', body }), invalidatesTags: ['Look'] }),
    saveRevision: build.mutation<ShelfLook, { id: number; look: Look }>({
      query: ({ id, look }) => ({ url: `/looks/${id}/revisions`, method: 'POST', body: look }),
      invalidatesTags: ['Look'],
    }),
    deleteLook: build.mutation<object, number>({ query: (id) => ({ url: `/looks/${id}`, method: 'DELETE' }), invalidatesTags: ['Look'] }),
    jobs: build.query<Job[], void>({ query: () => '/jobs', providesTags: ['Job'] }),
    deliver: build.mutation<Job, { shootId: number; frameIds: number[] | null; folder: string | null; file: FileSettings }>({
      query: (body) => ({ url: '/deliveries', method: 'POST', body }),
      invalidatesTags: ['Job'],
    }),
    cancelJob: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/cancel`, method: 'POST' }), invalidatesTags: ['Job'] }),
  }),
});
export const {
  useShootsQuery,
  useShootQuery,
  useCreateShootMutation,
  useUpdateShootMutation,
  useDeleteShootMutation,
  useApplyLookMutation,
  useImportFolderMutation,
  useImportUploadsMutation,
  useSetLightMutation,
  useFindFrameMutation,
  useRemoveFrameMutation,
  useSaveGroundworkMutation,
  useBalanceMutation,
  useReadTableMutation,
  useTakePictureMutation,
  useFitPairMutation,
  useBakeReportQuery,
  useLensSourceQuery,
  useSetLensSourceMutation,
  useLensesQuery,
  useLazyLensProfileQuery,
  usePresetsQuery,
  useCreatePresetMutation,
  useDeletePresetMutation,
  useLooksQuery,
  useCreateLookMutation,
  useSaveRevisionMutation,
  useDeleteLookMutation,
  useJobsQuery,
  useDeliverMutation,
  useCancelJobMutation,
} = api;

/** The sentence of a failed request. */
export function messageOf(error: unknown): string {
  const data = (error as { data?: { message?: unknown } } | undefined)?.data;
  if (typeof data?.message === 'string') return data.message;
  if ((error as { status?: unknown } | undefined)?.status === 'FETCH_ERROR') return 'Dyepot’s server does not answer. Is it still running?';
  return error instanceof Error ? error.message : 'something went wrong';
}

/** Address of a frame's rendered picture under a look. */
export function pictureUrl(
  frame: { id: number; groundStamp?: string },
  look: { id: number; revision: number } | null,
  edge: 360 | 720 | 1080 = 720,
  rendition: Rendition = 'plain',
): string {
  return `/api/frames/${frame.id}/picture?edge=${edge}${look ? `&look=${look.id}&revision=${look.revision}` : ''}${frame.groundStamp ? `&v=${frame.groundStamp}` : ''}${look === null && rendition !== 'plain' ? `&r=${rendition}` : ''}`;
}
