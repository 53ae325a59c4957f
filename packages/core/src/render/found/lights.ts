import { smoothstep } from '../../colour/smoothstep.ts';
import type { Features } from './features.ts';
import type { Found } from './provided.ts';
import { piecesOf } from './pieces.ts';

/** How much lighter than the picture's middle a source of light begins to be, and surely is, in EV; how large one may be. */
const [begins, surely, largest] = [2.4, 3.4, 0.03];
/** Lamps, flames, the sun, a gleam: small and far lighter than the rest. */
export function lights({ width, height, light }: Features): Found {
  const { piece, count } = piecesOf(
      Uint8Array.from(light, (v) => (v > begins ? 1 : 0)),
      width,
    ),
    sizes = new Float64Array(count + 1);
  piece.forEach((k) => sizes[k]!++);
  const shares = light.map((v, i) =>
      piece[i] && sizes[piece[i]!]! < largest * width * height ? smoothstep((v - begins) / (surely - begins)) : 0,
    ),
    all = shares.reduce((sum, v) => sum + v, 0);
  return { shares, sure: all > 6 ? 1 : 0 };
}
