import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import type { Kernels } from '../render/kernels.ts';
import type { NoiseModel } from './noise.ts';
import { quietColour, quietHalo, quietLuma, quietRoom, type TilePlane } from './quiet.ts';

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

/** Window of the edge measure, to either side. */
const edgeRadius = 2;
interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}
/** What is done at a plate level, and how far around a place each part reads, in pixels of the level; 0 where it lies under that level's pixels. */
function reachAt(d: Detail, level: number, mask: boolean): { luma: number; colour: number; sharpenPx: number; sharpen: number } {
  const quiet = quietHalo(level),
    radius = d.radiusPx / 2 ** level,
    sharpenPx = d.sharpen > 0 && radius >= 0.45 ? radius : 0;
  return {
    luma: d.luminanceNoise > 0 ? quiet.luma : 0,
    colour: d.colourNoise > 0 && !mask ? quiet.colour : 0,
    sharpenPx,
    sharpen: sharpenPx > 0 || mask ? 2 * edgeRadius + Math.ceil(sharpenPx * 2) + 2 : 0,
  };
}
/** How far around a place detail reads, in pixels of the level. */
export function detailHalo(d: Detail, level: number, mask = false): number {
  const r = reachAt(d, level, mask);
  return Math.max(r.luma + r.sharpen, r.colour);
}

/** Side of what is worked on at once. */
const tileSide = 448;
/** Where tiles begin and how wide they are is divisible by this, so that blocks are the same ones wherever a tile lies. */
const grid = 16;

/** A tile in the kernels' memory: what it covers of the level, and planes of it by name. */
interface Tile {
  area: Area;
  /** the first pixel of its planes, and of `area` in them */
  left: number;
  top: number;
  padX: number;
  padY: number;
  width: number;
  height: number;
  stride: number;
  luma: number;
  red: number;
  blue: number;
  /** working planes */
  spare: readonly [number, number, number, number];
  halves: TilePlane[];
  source: number;
  sourcePlane: number;
  numbers: number;
  work: number;
}
function layOut(kernels: Kernels, area: Area, halo: number): Tile {
  const left = Math.floor((area.x - halo) / grid) * grid,
    top = Math.floor((area.y - halo) / grid) * grid,
    width = Math.ceil((area.x + area.width + halo - left) / grid) * grid,
    height = Math.ceil((area.y + area.height + halo - top) / grid) * grid,
    stride = width * 4 + 32,
    half = { width: width / 2, height: height / 2, stride: width * 2 + 32 };
  // a row is kept free before and after a plane, since its neighbours are read
  const bytes = stride * (height + 2),
    smallBytes = half.stride * (half.height + 2),
    sourcePlane = stride / 2;
  let at = kernels.reserve(7 * bytes + 2 * smallBytes + 3 * sourcePlane + quietRoom(width) + 512);
  const take = (size: number, before = 0): number => {
    const address = at + before;
    at += (size + 15) & ~15;
    return address;
  };
  const plane = (): number => take(bytes, stride),
    small = (): TilePlane => ({ address: take(smallBytes, half.stride), ...half });
  const numbers = take(64);
  return {
    area,
    left,
    top,
    padX: area.x - left,
    padY: area.y - top,
    width,
    height,
    stride,
    numbers,
    luma: plane(),
    red: plane(),
    blue: plane(),
    spare: [plane(), plane(), plane(), plane()],
    halves: [small(), small()],
    source: take(3 * sourcePlane),
    sourcePlane,
    work: take(quietRoom(width)),
  };
}

/** Lays a tile of a plate's piece out as luma and colour differences whose noise is even (Anscombe 1948); beyond the plate its border goes on. */
function stabilise(kernels: Kernels, t: Tile, piece: Plate, at: { x: number; y: number }): void {
  const u16 = kernels.u16(),
    n = piece.width * piece.height,
    x = t.left - at.x,
    inside = x >= 0 && x + t.width <= piece.width;
  for (let j = 0; j < t.height; j++) {
    const y = Math.min(piece.height - 1, Math.max(0, t.top + j - at.y));
    for (let c = 0; c < 3; c++) {
      const from = c * n + y * piece.width,
        to = (t.source + c * t.sourcePlane) / 2;
      if (inside) u16.set(piece.data.subarray(from + x, from + x + t.width), to);
      else for (let i = 0; i < t.width; i++) u16[to + i] = piece.data[from + Math.min(piece.width - 1, Math.max(0, x + i))]!;
    }
    const o = j * t.stride;
    kernels.exports.stabilise(t.source, t.sourcePlane, t.luma + o, t.red + o, t.blue + o, t.width, t.numbers);
  }
}

/** The slope of luma's guided filter (He, Sun, Tang 2010): near 1 at an edge, near 0 where it is flat. To the second spare plane. */
function edges(kernels: Kernels, t: Tile, luma: number): number {
  const { box, squares, slopes } = kernels.exports,
    [, slope, offset, scratch] = t.spare,
    { width: w, height: h, stride } = t,
    flat = 4;
  squares(luma, slope, stride * h);
  box(slope, scratch, offset, w, h, stride, edgeRadius);
  box(luma, scratch, slope, w, h, stride, edgeRadius);
  slopes(slope, offset, stride * h, flat);
  box(slope, scratch, offset, w, h, stride, edgeRadius);
  return offset;
}

/** Where sharpening acts, 0–1 as light in all three planes. */
function drawMask(kernels: Kernels, t: Tile, luma: number, edgesOnly: number, out: Plate, origin: Area): void {
  const measure = edges(kernels, t, luma),
    f32 = kernels.f32(),
    edge = edgesOnly / 130,
    n = out.width * out.height;
  for (let j = 0; j < t.area.height; j++)
    for (let i = 0; i < t.area.width; i++) {
      const found = f32[(measure + (j + t.padY) * t.stride) / 4 + t.padX + i]!,
        share = edge <= 0 ? 1 : Math.min(1, Math.max(0, (found - edge) / 0.25)),
        o = (t.area.y - origin.y + j) * out.width + t.area.x - origin.x + i;
      for (let c = 0; c < 3; c++) out.data[c * n + o] = share * plateScale + plateOffset;
    }
}

/** Sharpens luma by what a Gaussian takes from it; to a working plane, which is returned. */
function sharpen(kernels: Kernels, t: Tile, luma: number, d: Detail, radius: number): number {
  const e = kernels.exports,
    measure = edges(kernels, t, luma),
    [, blurred, , scratch] = t.spare,
    { width: w, height: h, stride } = t;
  // a Gaussian's stand-in: two box means whose variances add to the radius squared
  const whole = Math.max(1, Math.round(Math.max(1, Math.sqrt(1 + 6 * radius ** 2) / 2 - 0.5))),
    out = luma === t.luma ? t.spare[0] : t.luma;
  e.box(luma, scratch, out, w, h, stride, whole);
  e.box(out, scratch, blurred, w, h, stride, whole);
  const amount = (d.sharpen / 100) * 3 * Math.min(1, radius),
    still = 0.6 + 7 * (1 - d.fine / 100) ** 2;
  for (let j = t.padY; j < t.padY + t.area.height; j++) {
    const o = j * stride + t.padX * 4;
    e.sharpen(luma + o, blurred + o, measure + o, out + o, t.area.width, stride, amount, d.edgesOnly / 130, still, 0.06);
  }
  return out;
}

/**
 * Takes noise out of a part of a plate and sharpens it. Light is made even in noise first, then luma and colour are each
 * quieted by themselves; sharpening is of luma alone, held within its neighbours.
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
  const r = reachAt(d, level, mask),
    n = area.width * area.height,
    out: Plate = { width: area.width, height: area.height, data: new Uint16Array(n * 3) };
  // noise of means over 2^level squares
  const a = noise.slope / 4 ** level,
    b = noise.floor / 4 ** level;
  for (let y = 0; y < area.height; y += tileSide)
    for (let x = 0; x < area.width; x += tileSide) {
      const part = {
          x: area.x + x,
          y: area.y + y,
          width: Math.min(tileSide, area.width - x),
          height: Math.min(tileSide, area.height - y),
        },
        t = layOut(kernels, part, detailHalo(d, level, mask)),
        plane = (address: number): TilePlane => ({ address, width: t.width, height: t.height, stride: t.stride });
      kernels.f32().set([plateOffset, 1 / plateScale, a, b, 2 / a, 1 / a, plateScale], t.numbers / 4);
      stabilise(kernels, t, piece, at);
      let { luma, red, blue } = t;
      if (r.luma > 0) {
        quietLuma(kernels, plane(luma), t.spare[0], level, d.luminanceNoise, t.work);
        luma = t.spare[0];
      }
      if (mask) {
        drawMask(kernels, t, luma, d.edgesOnly, out, area);
        continue;
      }
      if (r.sharpenPx > 0) luma = sharpen(kernels, t, luma, d, r.sharpenPx);
      if (r.colour > 0) {
        const [, first, second] = t.spare;
        quietColour(kernels, plane(red), first, level, d.colourNoise, t.halves, t.work);
        quietColour(kernels, plane(blue), second, level, d.colourNoise, t.halves, t.work);
        [red, blue] = [first, second];
      }
      const u16 = kernels.u16();
      for (let j = 0; j < part.height; j++) {
        const o = (j + t.padY) * t.stride + t.padX * 4;
        kernels.exports.restore(luma + o, red + o, blue + o, t.source, t.sourcePlane, part.width, t.numbers);
        for (let c = 0; c < 3; c++) {
          const from = (t.source + c * t.sourcePlane) / 2;
          out.data.set(u16.subarray(from, from + part.width), c * n + (y + j) * area.width + x);
        }
      }
    }
  return out;
}
