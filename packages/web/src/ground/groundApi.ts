import type { Groundwork, LensProfile } from '@dyepot/core';
import { api, lasting } from '../api.ts';
import type { Balanced, Frame, GroundworkPreset, LensFound, LensSource } from '../types.ts';

/** Groundwork kept, balances and lenses found, presets. */
export const groundApi = api.injectEndpoints({
  endpoints: (build) => ({
    saveGroundwork: build.mutation<Frame, { id: number; groundwork: Groundwork | null; version: number; history: object }>({
      query: ({ id, ...body }) => lasting({ url: `/frames/${id}/groundwork`, method: 'PUT', body }),
    }),
    groundHistory: build.query<object | null, number>({ query: (id) => `/frames/${id}/history`, keepUnusedDataFor: 0 }),
    saveHistory: build.mutation<object, { id: number; history: object }>({
      query: ({ id, history }) => lasting({ url: `/frames/${id}/history`, method: 'PUT', body: { history } }),
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
    presets: build.query<GroundworkPreset[], void>({ query: () => '/groundwork-presets', providesTags: ['Preset'] }),
    createPreset: build.mutation<GroundworkPreset, Omit<GroundworkPreset, 'id'>>({
      query: (body) => ({ url: '/groundwork-presets', method: 'POST', body }),
      invalidatesTags: ['Preset'],
    }),
    takeOutPreset: build.mutation<object, number>({
      query: (id) => ({ url: `/groundwork-presets/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Preset', 'Trash'],
    }),
  }),
});
export const {
  useBalanceMutation,
  useLensSourceQuery,
  useSetLensSourceMutation,
  useLensesQuery,
  useLazyLensProfileQuery,
  usePresetsQuery,
  useCreatePresetMutation,
  useTakeOutPresetMutation,
} = groundApi;
