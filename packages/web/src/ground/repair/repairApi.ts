import type { Repair, RepairKind, Shape } from '@dyepot/core';
import { api, lasting } from '../../api.ts';
import type { Frame } from '../../types.ts';

export interface SpeckFound {
  x: number;
  y: number;
  radius: number;
}
export interface DustShared {
  frames: { id: number; name: string; specks: number }[];
  specks: (SpeckFound & { frames: number[] })[];
}
interface Kept {
  id: number;
  repairs: unknown;
  version: number;
}
export const documentOf = (repairs: readonly Repair[]): object | null =>
  repairs.length === 0 ? null : { format: 'dyepot-repairs', version: 1, repairs };
export const repairApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** a frame with all its repairs */
    frame: build.query<Frame, number>({ query: (id) => `/frames/${id}`, keepUnusedDataFor: 0 }),
    saveRepairs: build.mutation<Frame, { id: number; repairs: readonly Repair[]; version: number }>({
      query: ({ id, repairs, version }) =>
        lasting({ url: `/frames/${id}/repairs`, method: 'PUT', body: { repairs: documentOf(repairs), version } }),
    }),
    repairSource: build.mutation<{ dx: number; dy: number }, { id: number; shape: Shape; kind: RepairKind; nth: number }>({
      query: ({ id, ...body }) => ({ url: `/frames/${id}/repair-source`, method: 'POST', body }),
    }),
    dust: build.mutation<{ specks: SpeckFound[] }, { id: number; least: number }>({
      query: ({ id, least }) => ({ url: `/frames/${id}/dust?least=${least}` }),
    }),
    dustAcross: build.mutation<DustShared, number[]>({ query: (ids) => ({ url: '/frames/dust', method: 'POST', body: { ids } }) }),
    mendDust: build.mutation<{ was: Kept[] }, DustShared['specks']>({
      query: (specks) => ({ url: '/frames/mend-dust', method: 'POST', body: { specks } }),
      invalidatesTags: ['Shoot'],
    }),
    putRepairs: build.mutation<object, Kept[]>({
      query: (frames) => ({ url: '/frames/repairs', method: 'PUT', body: { frames } }),
      invalidatesTags: ['Shoot'],
    }),
  }),
});
export const { useRepairSourceMutation, useDustMutation, useDustAcrossMutation, useMendDustMutation, usePutRepairsMutation } = repairApi;
