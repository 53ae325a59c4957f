import { api } from '../api.ts';
import type { FileSettings, Job } from '../types.ts';

/** How files are delivered, under a name. */
export interface DeliveryPreset {
  name: string;
  folder: string;
  pattern: string;
  file: FileSettings;
}
export interface MovedSince {
  moved: { frameId: number; name: string; why: string[] }[];
  gone: string[];
  /** rendered by another engine */
  engine: boolean;
}
const deliveryApi = api.injectEndpoints({
  endpoints: (build) => ({
    deliveryPresets: build.query<{ presets: DeliveryPreset[] }, void>({ query: () => '/delivery-presets' }),
    keepDeliveryPresets: build.mutation<object, DeliveryPreset[]>({
      query: (presets) => ({ url: '/delivery-presets', method: 'PUT', body: { presets } }),
      async onQueryStarted(presets, { dispatch, queryFulfilled }) {
        await queryFulfilled;
        dispatch(deliveryApi.util.updateQueryData('deliveryPresets', undefined, () => ({ presets })));
      },
    }),
    deliverAgain: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/again`, method: 'POST' }), invalidatesTags: ['Job'] }),
    movedSince: build.query<MovedSince, number>({ query: (id) => `/jobs/${id}/moved`, keepUnusedDataFor: 0 }),
  }),
});
export const { useDeliveryPresetsQuery, useKeepDeliveryPresetsMutation, useDeliverAgainMutation, useMovedSinceQuery } = deliveryApi;
