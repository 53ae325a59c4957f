import type { Repair, RepairKind, Shape, Speck } from '@dyepot/core';
import { api, lasting } from '../../api.ts';
import type { Frame } from '../../types.ts';

export interface SpeckFound {
  x: number;
  y: number;
  radius: number;
}
/** A speck, and the frames it is to be healed in. */
export interface DustWish extends SpeckFound {
  frames: number[];
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
    /** ends what a save of this frame's repairs is doing; that save is refused then */
    stopRepairs: build.mutation<object, number>({ query: (id) => ({ url: `/frames/${id}/repairs/stop`, method: 'POST', body: {} }) }),
    repairSource: build.mutation<{ dx: number; dy: number }, { id: number; shape: Shape; kind: RepairKind; nth: number }>({
      query: ({ id, ...body }) => ({ url: `/frames/${id}/repair-source`, method: 'POST', body }),
    }),
    dust: build.mutation<{ specks: Speck[] }, { id: number; least: number }>({
      query: ({ id, least }) => ({ url: `/frames/${id}/dust?least=${least}` }),
    }),
    mendDust: build.mutation<{ was: Kept[] }, DustWish[]>({
      query: (specks) => ({ url: '/frames/mend-dust', method: 'POST', body: { specks } }),
      invalidatesTags: ['Shoot'],
    }),
    putRepairs: build.mutation<object, Kept[]>({
      query: (frames) => ({ url: '/frames/repairs', method: 'PUT', body: { frames } }),
      invalidatesTags: ['Shoot'],
    }),
  }),
});
export const { useRepairSourceMutation, useDustMutation, useMendDustMutation, usePutRepairsMutation } = repairApi;
