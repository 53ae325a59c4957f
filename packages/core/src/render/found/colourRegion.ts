import { smoothstep } from '../../colour/smoothstep.ts';
import { boxMean } from '../guided.ts';
import type { Features } from './features.ts';
import type { Found } from './provided.ts';
import { piecesOf } from './pieces.ts';

/** What a region's colour and texture are like; each bound is soft, from where it begins to count to where it counts wholly. */
export interface Likeness {
  /** degrees round OKLab */
  hue: readonly [from: number, whole: number, wholeTo: number, to: number];
  chroma: readonly [from: number, whole: number, wholeTo: number, to: number];
  /** spread of light about a place, EV */
  texture: readonly [from: number, whole: number, wholeTo: number, to: number];
  /** pieces smaller or larger, in shares of the picture, are none */
  pieces: readonly [least: number, most: number];
  /** the least share of the picture that makes a region, and the share at which it is sure */
  sureAt: number;
}
const between = (v: number, [from, whole, wholeTo, to]: readonly [number, number, number, number]): number =>
  smoothstep((v - from) / (whole - from)) * (1 - smoothstep((v - wholeTo) / (to - wholeTo)));

/** Places whose colour, whatever their light, and texture are those of a region; pieces too small or too large left out. */
export function colourRegion({ width, height, a, b, texture }: Features, like: Likeness): Found {
  const n = width * height,
    rough = boxMean(texture, width, height, 3),
    likely = Float32Array.from({ length: n }, (_, i) => {
      const chroma = Math.hypot(a[i]!, b[i]!),
        hue = ((Math.atan2(b[i]!, a[i]!) * 180) / Math.PI + 360) % 360;
      return between(hue, like.hue) * between(chroma, like.chroma) * between(rough[i]!, like.texture);
    }),
    smoothed = boxMean(likely, width, height, 1),
    { piece, count } = piecesOf(
      Uint8Array.from(smoothed, (v) => (v > 0.4 ? 1 : 0)),
      width,
    ),
    sizes = new Float64Array(count + 1);
  piece.forEach((k) => sizes[k]!++);
  const shares = smoothed.map((v, i) => {
    const size = sizes[piece[i]!]! / n;
    return piece[i] && size >= like.pieces[0] && size <= like.pieces[1] ? Math.min(1, v * 1.6) : 0;
  });
  const all = shares.reduce((sum, v) => sum + v, 0) / n;
  return { shares, sure: Math.min(1, all / like.sureAt) };
}
