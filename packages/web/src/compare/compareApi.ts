import type { OwnSteps } from '@dyepot/core';
import { api, lasting } from '../api.ts';

/** A frame's own steps as they are sent to be kept, over those of that version. */
export interface Owned {
  id: number;
  steps: OwnSteps | null;
  version: number;
}
/** What is sent to be kept. */
export const bodyOf = (frames: readonly Owned[]): object => ({
  frames: frames.map((f) => ({ ...f, steps: f.steps && { format: 'dyepot-local', version: 1, ...f.steps } })),
});

export const compareApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** own steps of several frames at once, or of none; what stood before comes back with the versions that took its place */
    saveManySteps: build.mutation<{ was: { id: number; version: number }[] }, readonly Owned[]>({
      query: (frames) => lasting({ url: '/frames/steps', method: 'PUT', body: bodyOf(frames) }),
    }),
  }),
});
