import type { Features } from './features.ts';
import { piecesOf } from './pieces.ts';
import type { Found } from './provided.ts';

/** How far under the lightest of a picture a sky between things is, and how much what stands before it is darker, in EV. */
const under = 1,
  darker = 1.8;
/** How rough and how colourful it is at most; how small each piece is, how broad at the top, and how far down it reaches. */
const [roughest, warmest, strongest] = [0.3, 0.03, 0.07],
  least = 0.004,
  broadest = 0.25,
  deepest = 0.6;
/** How far beside its edge the light of what stands before it is read, in pixels: past the blur of a lens. */
const beside = 4;

/**
 * A sky of which only strips and gaps are seen, between cloths or walls: pieces that begin at the top, are as light as
 * anything in the picture, pale and even, and fall steeply to what is about them. Numbers from the demo's frames.
 */
export function openings({ width, height, light, texture, a, b }: Features): Found {
  const n = width * height,
    lightest = light.slice().sort()[Math.floor(0.998 * n)]!,
    { piece, count } = piecesOf(
      Uint8Array.from(light, (v, i) =>
        v > lightest - under && texture[i]! < roughest && (b[i]! < warmest || Math.hypot(a[i]!, b[i]!) < strongest) ? 1 : 0,
      ),
      width,
    ),
    pieces = Array.from({ length: count + 1 }, () => ({ size: 0, top: 0, deep: 0, edge: 0, fall: 0 }));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x,
        own = piece[i]!,
        p = pieces[own]!;
      if (own === 0) continue;
      p.size++;
      if (y === 0) p.top++;
      p.deep = y;
      for (const [across, down] of [
        [1, 0],
        [-1, 0],
        [0, 1],
      ] as const) {
        const [u, v] = [x + beside * across, y + beside * down];
        if (u < 0 || u >= width || v >= height) continue;
        if (piece[i + across + down * width] === own || piece[v * width + u] === own) continue;
        p.edge++;
        p.fall += light[i]! - light[v * width + u]!;
      }
    }
  const begins = (p: (typeof pieces)[number]): boolean => p.top > 0 && p.top < broadest * width,
    fits = (p: (typeof pieces)[number]): boolean => p.size > least * n && p.deep < deepest * height,
    is = pieces.map((p, k) => k > 0 && begins(p) && fits(p) && p.fall > darker * p.edge);
  return { shares: Float32Array.from(piece, (k) => (is[k] ? 1 : 0)), sure: is.includes(true) ? 0.7 : 0 };
}
