import { colourRegion } from './colourRegion.ts';
import type { Features } from './features.ts';
import type { Found } from './provided.ts';

/** Grass, leaves, hedges: greens from yellowish to bluish, never of a dyed cloth's strength or smoothness. Bounds from the demo's frames. */
export const foliage = (f: Features): Found =>
  colourRegion(f, {
    hue: [108, 116, 160, 175],
    chroma: [0.016, 0.028, 0.11, 0.15],
    texture: [0.03, 0.055, 1.2, 2],
    pieces: [0.001, 1],
    sureAt: 0.01,
  });
