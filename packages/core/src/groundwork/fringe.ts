import type { Vector3 } from '../colour/matrix.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Lens } from './lens.ts';

/** Fringes are narrower than twice this, in pixels of the full picture. */
const radius = 5;
const radiusAt = (level: number): number => Math.round(radius / 2 ** level);
/** How far around a place the taking out of fringes reads, in pixels of the level. */
export const fringeHalo = (level: number): number => 2 * radiusAt(level);

/**
 * Takes purple and green edges out of a piece of plate: what is purple (or green) over a narrow strip only, beside an edge of
 * light, loses that colour; broad areas of the same colour keep it (a morphological top hat: Serra 1982).
 * @param neutral camera RGB of a neutral
 * @returns the piece; at its own border, where the picture goes on, `fringeHalo` is not yet done
 */
export function withoutFringes(kernels: Kernels, lens: Lens, neutral: Vector3, level: number, piece: Plate): Plate {
  const reach = radiusAt(level),
    { width, height } = piece,
    n = width * height,
    data = new Uint16Array(n * 3),
    tile = 224,
    halo = 2 * reach,
    e = kernels.exports;
  if (reach === 0) return piece;
  for (let ty = 0; ty < height; ty += tile)
    for (let tx = 0; tx < width; tx += tile) {
      const w = Math.min(tile, width - tx),
        h = Math.min(tile, height - ty),
        W = w + 2 * halo,
        H = h + 2 * halo,
        stride = ((W + 8) * 4 + 15) & ~15,
        bytes = stride * (H + 2),
        sourcePlane = stride / 2;
      const base = kernels.reserve(bytes * 11 + sourcePlane * 3 + 256),
        planes = base + 64 + stride,
        at = (i: number): number => planes + bytes * i,
        source = base + 64 + bytes * 11,
        numbers = base,
        u16 = kernels.u16();
      kernels.f32().set([plateOffset, 1 / plateScale, ...neutral.map((v) => 1 / v)], numbers / 4);
      for (let j = 0; j < H; j++) {
        const y = Math.min(height - 1, Math.max(0, ty + j - halo));
        for (let c = 0; c < 3; c++) {
          const from = c * n + y * width,
            to = (source + c * sourcePlane) / 2;
          for (let i = 0; i < W; i++) u16[to + i] = piece.data[from + Math.min(width - 1, Math.max(0, tx + i - halo))]!;
        }
        e.fringeStart(source, sourcePlane, planes + j * stride, bytes, W, numbers);
      }
      const [scratch, spare, purple, green, high, low] = [5, 6, 7, 8, 9, 10].map(at) as [number, number, number, number, number, number];
      for (const [from, to] of [
        [at(3), purple],
        [at(4), green],
      ] as const) {
        e.extreme(from, scratch, spare, W, H, stride, reach, false);
        e.extreme(spare, scratch, to, W, H, stride, reach, true);
      }
      e.extreme(at(1), scratch, high, W, H, stride, reach, true);
      e.extreme(at(1), scratch, low, W, H, stride, reach, false);
      for (let j = 0; j < h; j++) {
        const o = (j + halo) * stride + halo * 4;
        e.fringeEnd(
          planes + o,
          bytes,
          purple + o,
          green + o,
          high + o,
          low + o,
          source,
          sourcePlane,
          w,
          numbers,
          lens.purpleFringe / 100,
          lens.greenFringe / 100,
        );
        for (let c = 0; c < 3; c++)
          data.set(u16.subarray((source + c * sourcePlane) / 2, (source + c * sourcePlane) / 2 + w), c * n + (ty + j) * width + tx);
      }
    }
  return { width, height, data };
}
