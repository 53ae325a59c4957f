import { api, lasting } from '../api.ts';

/** Frames across, looks down (0: the neutral response), and what was said of cells, by “frame look”. */
export interface SwatchCard {
  frames: number[];
  looks: number[];
  said: Record<string, 'best' | 'out'>;
}
export const swatchApi = api.injectEndpoints({
  endpoints: (build) => ({
    swatches: build.query<SwatchCard, number>({ query: (id) => `/shoots/${id}/swatches`, keepUnusedDataFor: 0 }),
    saveSwatches: build.mutation<SwatchCard, { id: number; card: SwatchCard }>({
      query: ({ id, card }) => lasting({ url: `/shoots/${id}/swatches`, method: 'PUT', body: card }),
      onQueryStarted: ({ id, card }, { dispatch, queryFulfilled }) => {
        // what is chosen shows at once; where it cannot be kept it goes back
        const patch = dispatch(swatchApi.util.updateQueryData('swatches', id, () => card));
        queryFulfilled.catch(patch.undo);
      },
    }),
  }),
});
export const { useSwatchesQuery, useSaveSwatchesMutation } = swatchApi;
