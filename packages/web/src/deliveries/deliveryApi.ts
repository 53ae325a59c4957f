import { api } from '../api.ts';
import type { FileSettings, Job } from '../types.ts';
import type { Answers } from './OrderQuestion.tsx';

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
/** Who does the frames where workers do: null where this server does. */
export interface Farm {
  address: string;
  answers: boolean;
  workers: { host: string; process: number; threads: number; doing: string[] }[];
}
const deliveryApi = api.injectEndpoints({
  endpoints: (build) => ({
    deliveryPresets: build.query<{ presets: DeliveryPreset[] }, void>({ query: () => '/delivery-presets', providesTags: ['Preset'] }),
    keepDeliveryPreset: build.mutation<object, DeliveryPreset>({
      query: (body) => ({ url: '/delivery-presets', method: 'PUT', body }),
      invalidatesTags: ['Preset'],
    }),
    dropDeliveryPreset: build.mutation<object, string>({
      query: (name) => ({ url: `/delivery-presets?name=${encodeURIComponent(name)}`, method: 'DELETE' }),
      invalidatesTags: ['Preset'],
    }),
    deliver: build.mutation<
      Job,
      {
        shootId: number;
        frameIds: number[] | null;
        folder: string | null;
        file: FileSettings;
        conflict: 'ask' | 'rename' | 'replace';
        pattern: string;
        also?: { name: string; folder: string | null; file: FileSettings; pattern: string }[];
        room: 'ask' | 'deliver';
        doubtful: 'ask' | 'leave out' | 'deliver';
      }
    >({
      query: (body) => ({ url: '/deliveries', method: 'POST', body }),
      invalidatesTags: ['Job'],
    }),
    deliverRest: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/rest`, method: 'POST' }), invalidatesTags: ['Job'] }),
    deliverAgain: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/again`, method: 'POST' }), invalidatesTags: ['Job'] }),
    deliverMoved: build.mutation<Job, { id: number } & Answers>({
      query: ({ id, ...body }) => ({ url: `/jobs/${id}/moved`, method: 'POST', body }),
      invalidatesTags: ['Job'],
    }),
    pauseJob: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/pause`, method: 'POST' }), invalidatesTags: ['Job'] }),
    putJobFirst: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/first`, method: 'POST' }), invalidatesTags: ['Job'] }),
    workers: build.query<{ farm: Farm | null }, void>({ query: () => '/workers' }),
    movedSince: build.query<MovedSince, number>({ query: (id) => `/jobs/${id}/moved`, keepUnusedDataFor: 0 }),
  }),
});
export const {
  useDeliverMutation,
  useDeliverRestMutation,
  useDeliveryPresetsQuery,
  useKeepDeliveryPresetMutation,
  useDropDeliveryPresetMutation,
  useDeliverAgainMutation,
  useDeliverMovedMutation,
  usePauseJobMutation,
  usePutJobFirstMutation,
  useMovedSinceQuery,
  useWorkersQuery,
} = deliveryApi;
