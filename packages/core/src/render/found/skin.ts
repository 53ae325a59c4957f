import { colourRegion } from './colourRegion.ts';
import type { Features } from './features.ts';
import type { Found } from './provided.ts';

/** Skin of any depth: hues of 40 to 65 degrees round OKLab (measured reflectances), of middling chroma, in pieces no larger than a face that fills the frame. */
export const skin = (f: Features): Found =>
  colourRegion(f, {
    hue: [36, 42, 64, 72],
    chroma: [0.028, 0.04, 0.085, 0.11],
    texture: [-1, 0, 0.5, 0.9],
    pieces: [0.0008, 0.12],
    sureAt: 0.004,
  });
