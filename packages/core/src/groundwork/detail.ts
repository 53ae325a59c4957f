import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import type { Kernels } from '../render/kernels.ts';
import type { NoiseModel } from './noise.ts';

/** Noise and capture sharpening of a frame; sizes in pixels of the full picture. */
export interface Detail {
  /** 0–100 each */
  luminanceNoise: number;
  colourNoise: number;
  /** 0–150; radius 0.5–3 px; fine detail and edges-only 0–100 */
  sharpen: number;
  radiusPx: number;
  fine: number;
  edgesOnly: number;
}
export const plainDetail: Detail = { luminanceNoise: 0, colourNoise: 0, sharpen: 0, radiusPx: 1, fine: 50, edgesOnly: 20 };
export const detailActs = (d: Detail): boolean => d.luminanceNoise > 0 || d.colourNoise > 0 || d.sharpen > 0;

const lumaRadius = 2,
  colourRadius = 6;
interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}
/** Radii at a plate level; 0 where what is to be done lies under that level's pixels. */
function radiiAt(d: Detail, level: number): { luma: number; colour: number; sharpen: number } {
  const k = 2 ** level;
  return {
    luma: d.luminanceNoise > 0 ? Math.round(lumaRadius / k) : 0,
    colour: d.colourNoise > 0 ? Math.round(colourRadius / k) : 0,
    sharpen: d.sharpen > 0 && d.radiusPx / k >= 0.45 ? d.radiusPx / k : 0,
  };
}
/** How far around a place detail reads, in pixels of the level. */
export function detailHalo(d: Detail, level: number, mask = false): number {
  const r = radiiAt(d, level);
  return (
    Math.max(2 * r.luma, r.colour > 0 ? 2 * r.colour + (level === 0 ? 6 : 0) : 0) +
    (r.sharpen > 0 || mask ? 2 * lumaRadius + Math.ceil(r.sharpen * 2) + 2 : 0)
  );
}

/**
 * Takes noise out of a part of a plate and sharpens it. Light is made even in noise first (Anscombe), then luma and colour
 * are each smoothed by a guided filter whose notion of flat is the noise itself; colour over a wider window, at full size
 * by its fast form on means of two by two places (He, Sun 2015, arXiv 1505.00996). Sharpening
 * is of luma alone, held within its neighbours.
 * @param mask gives, instead of the picture, where sharpening acts: 0–1 as light, the same in each colour
 * @param piece the plate's part that holds `area` and, where the plate goes on, `detailHalo` around it; `at` is where it lies
 */
export function detailPlate(
  kernels: Kernels,
  d: Detail,
  noise: NoiseModel,
  level: number,
  piece: Plate,
  at: { x: number; y: number },
  area: Area,
  mask = false,
): Plate {
  const r = radiiAt(d, level),
    halo = detailHalo(d, level, mask),
    n = area.width * area.height,
    data = new Uint16Array(n * 3),
    pn = piece.width * piece.height,
    tile = 192;
  // noise of means over 2^level squares; demosaicing has already halved what is left in luma
  const share = 4 ** level,
    a = noise.slope / share,
    b = noise.floor / share,
    e = kernels.exports;
  for (let ty = 0; ty < area.height; ty += tile)
    for (let tx = 0; tx < area.width; tx += tile) {
      // the tile begins at an even place of the plate, so that means of two by two are the same ones wherever it lies
      const w = Math.min(tile, area.width - tx),
        h = Math.min(tile, area.height - ty),
        left = area.x + tx - halo - ((area.x + tx - halo) & 1),
        top = area.y + ty - halo - ((area.y + ty - halo) & 1),
        padX = area.x + tx - left,
        padY = area.y + ty - top,
        W = (w + padX + halo + 1) & ~1,
        H = (h + padY + halo + 1) & ~1,
        stride = ((W + 8) * 4 + 15) & ~15,
        bytes = stride * (H + 2),
        sourcePlane = stride / 2;
      const base = kernels.reserve(bytes * 9 + sourcePlane * 3 + 256),
        plane = (i: number): number => base + 64 + bytes * i + stride,
        source = base + 64 + bytes * 9,
        numbers = base,
        u16 = kernels.u16(),
        f32 = kernels.f32();
      const [luma, red, blue, slope, offset, scratch, spare, half] = [0, 1, 2, 3, 4, 5, 6, 7].map(plane) as [
        number,
        number,
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      f32.set([plateOffset, 1 / plateScale, a, b, 2 / a, 1 / a, plateScale], numbers / 4);
      for (let j = 0; j < H; j++) {
        const y = Math.min(piece.height - 1, Math.max(0, top + j - at.y)),
          x = left - at.x;
        for (let c = 0; c < 3; c++) {
          const from = c * pn + y * piece.width,
            to = source / 2 + (c * sourcePlane) / 2,
            inside = x >= 0 && x + W <= piece.width;
          if (inside) u16.set(piece.data.subarray(from + x, from + x + W), to);
          else for (let i = 0; i < W; i++) u16[to + i] = piece.data[from + Math.min(piece.width - 1, Math.max(0, x + i))]!;
        }
        e.stabilise(source, sourcePlane, luma + j * stride, red + j * stride, blue + j * stride, W, numbers);
      }
      /** Slope of a plane's guided filter to `spare`, its offset to `slope`. */
      const fit = (of: number, radius: number, flat: number, fw = W, fh = H, fs = stride): void => {
        e.squares(of, spare, fs * fh);
        e.box(of, scratch, slope, fw, fh, fs, radius);
        e.box(spare, scratch, offset, fw, fh, fs, radius);
        e.slopes(slope, offset, fs * fh, flat);
        e.box(slope, scratch, spare, fw, fh, fs, radius);
        e.box(offset, scratch, slope, fw, fh, fs, radius);
      };
      if (r.luma > 0) {
        fit(luma, r.luma, 0.19 * 8 * (d.luminanceNoise / 50) ** 2);
        e.smoothed(luma, spare, slope, stride * H);
      }
      const flatColour = 12 * (d.colourNoise / 50) ** 2,
        small = ((W / 2 + 8) * 4 + 15) & ~15;
      if (mask) {
        fit(luma, lumaRadius, 4);
        for (let j = 0; j < h; j++)
          for (let i = 0; i < w; i++) {
            const edge = d.edgesOnly / 130,
              share = edge <= 0 ? 1 : Math.min(1, Math.max(0, (f32[(spare + (j + padY) * stride) / 4 + padX + i]! - edge) / 0.25)),
              o = (ty + j) * area.width + tx + i;
            for (let c = 0; c < 3; c++) data[c * n + o] = share * plateScale + plateOffset;
          }
        continue;
      }
      if (r.colour > 0)
        for (const colour of [red, blue]) {
          if (level > 0) {
            fit(colour, r.colour, flatColour);
            e.smoothed(colour, spare, slope, stride * H);
            continue;
          }
          e.quarter(colour, half, W / 2, H / 2, stride, small);
          fit(half, r.colour / 2, flatColour / 2, W / 2, H / 2, small);
          e.smoothedHalf(colour, spare, slope, W, H, stride, small);
        }
      if (r.sharpen > 0) {
        // the edge measure, then a Gaussian's stand-in: two box means whose variances add to the radius squared
        fit(luma, lumaRadius, 4);
        const blur = (size: number): void => {
          const whole = Math.max(1, Math.round(size));
          e.box(luma, scratch, offset, W, H, stride, whole);
          e.box(offset, scratch, slope, W, H, stride, whole);
        };
        blur(Math.max(1, Math.sqrt(1 + 6 * r.sharpen ** 2) / 2 - 0.5));
        const amount = (d.sharpen / 100) * 3 * Math.min(1, r.sharpen),
          still = 0.6 + 7 * (1 - d.fine / 100) ** 2;
        for (let j = padY; j < padY + h; j++) {
          const o = j * stride + padX * 4;
          e.sharpen(luma + o, slope + o, spare + o, offset + o, w, stride, amount, d.edgesOnly / 130, still, 0.06);
        }
      }
      const out = r.sharpen > 0 ? offset : luma;
      for (let j = 0; j < h; j++) {
        const o = (j + padY) * stride + padX * 4;
        e.restore(out + o, red + o, blue + o, source, sourcePlane, w, numbers);
        for (let c = 0; c < 3; c++)
          data.set(u16.subarray((source + c * sourcePlane) / 2, (source + c * sourcePlane) / 2 + w), c * n + (ty + j) * area.width + tx);
      }
    }
  return { width: area.width, height: area.height, data };
}
