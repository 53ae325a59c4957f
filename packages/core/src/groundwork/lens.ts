import { apply3 } from '../colour/matrix.ts';
import type { LensProfile } from '../formats/lensProfile.ts';
import type { FileLens } from '../plate/fileLens.ts';
import { perUnit, reach } from '../render/gainLayout.ts';
import type { View } from './geometry.ts';

export type { FileLens, LensProfile };

export interface Lens {
  /** whether what the file says is done */
  fromFile: boolean;
  profile: LensProfile | null;
  /** by hand, −100–100: lines that bow outward made straight to the right; red and blue against green */
  distortion: number;
  redSize: number;
  blueSize: number;
  /** EV added at the corners, −3–3, and how it grows with the distance: its power, 1–6 */
  cornerEv: number;
  cornerPower: number;
  /** 0–100 each */
  purpleFringe: number;
  greenFringe: number;
}
export const plainLens: Lens = {
  fromFile: true,
  profile: null,
  distortion: 0,
  redSize: 0,
  blueSize: 0,
  cornerEv: 0,
  cornerPower: 2,
  purpleFringe: 0,
  greenFringe: 0,
};

interface Size {
  width: number;
  height: number;
}
/** A radial function as a table over the squared radius: values at k/perUnit. */
interface Table {
  perUnit: number;
  values: Float32Array;
}
/** Where the colours of a straight picture lie in the plate: three radial maps about the middle, then the file's warp. Lengths in pixels of the full size. */
export interface LensMap extends Size {
  of: Lens;
  radial: readonly [Table, Table, Table];
  warp: FileLens['warp'];
}
/** A gain over the picture: what the profile and the hand say, about the middle; and the file's own. */
export interface LensGain {
  of: Lens;
  map: LensMap | null;
  radial: Table | null;
  file: (FileLens['vignetting'] & object) | null;
}

/** A function of r (in half diagonals) over r² from 0 to 4. */
function tableOf(f: (r: number) => number): Table {
  return { perUnit, values: Float32Array.from({ length: perUnit * reach + 2 }, (_, i) => f(Math.sqrt(i / perUnit))) };
}
const at = (t: Table, square: number): number => {
  const x = Math.min(t.values.length - 2, square * t.perUnit),
    i = Math.floor(x);
  return t.values[i]! + (t.values[i + 1]! - t.values[i]!) * (x - i);
};

/** How much further out (factor) the light of a straight picture's place lies, r in the profile's own unit. Formulas: Lensfun, lfDistortionModel. */
export function distortionFactor({ model, terms }: NonNullable<LensProfile['distortion']>, r: number): number {
  const [a = 0, b = 0, c = 0] = terms;
  if (model === 'poly3') return 1 - a + a * r * r;
  return model === 'poly5' ? 1 + a * r * r + b * r ** 4 : a * r ** 3 + b * r * r + c * r + 1 - a - b - c;
}
/** The same for red or blue against green. Formulas: Lensfun, lfTCAModel; poly3's terms are v, c, b. */
export function aberrationFactor(model: 'linear' | 'poly3', terms: readonly number[], r: number): number {
  const [v = 1, c = 0, b = 0] = terms;
  return model === 'linear' ? v : v + c * r + b * r * r;
}
/** Light falling off: 1 + k1 r² + k2 r⁴ + k3 r⁶ (Lensfun, "pa"). */
export const vignettingShare = (terms: readonly number[], r: number): number =>
  1 + r * r * ((terms[0] ?? 0) + r * r * ((terms[1] ?? 0) + r * r * (terms[2] ?? 0)));
/** FixVignetteRadial: 1 + k0 r² + k1 r⁴ + … + k4 r¹⁰ (DNG 1.7, ch. 7). */
export const fileGain = (terms: readonly number[], square: number): number =>
  1 + square * terms.reduceRight((sum, k) => sum * square + k, 0);

/** Middle and unit (distance to the farthest corner, both in pixel centres) of an opcode on a picture (DNG 1.7, ch. 7). */
export function opcodeAxis(centre: readonly [number, number], { width, height }: Size): { x: number; y: number; unit: number } {
  const cx = centre[0] * (width - 1),
    cy = centre[1] * (height - 1);
  return { x: cx + 0.5, y: cy + 0.5, unit: Math.hypot(Math.max(cx, width - 1 - cx), Math.max(cy, height - 1 - cy)) };
}
/** Half the diagonal, between the outer pixels' centres. */
const halfDiagonal = ({ width, height }: Size): number => Math.hypot(width - 1, height - 1) / 2;

const handDistortion = 0.2,
  handSize = 0.003;
/** Where a frame's colours lie; null when its lens does not move anything. Lenses are never changed in place, so maps are kept with them. */
export function lensMapOf(lens: Lens, file: FileLens | null, size: Size): LensMap | null {
  const known = maps.get(lens);
  if (known && known.file === file && known.width === size.width && known.height === size.height) return known.map;
  const map = makeMap(lens, file, size);
  maps.set(lens, { file, ...size, map });
  return map;
}
const maps = new WeakMap<Lens, Size & { file: FileLens | null; map: LensMap | null }>();
function makeMap(lens: Lens, file: FileLens | null, size: Size): LensMap | null {
  const warp = lens.fromFile ? (file?.warp ?? null) : null,
    p = lens.profile;
  const moves =
    (p?.distortion ?? null) !== null ||
    (p?.aberration ?? null) !== null ||
    lens.distortion !== 0 ||
    lens.redSize !== 0 ||
    lens.blueSize !== 0;
  if (!moves && !warp) return null;
  const radial = (colour: 'red' | 'green' | 'blue'): Table =>
    tableOf((r) => {
      const hand = 1 - (lens.distortion / 100) * handDistortion * r * r,
        r1 = r * hand,
        u = r1 / (p?.distortionUnit ?? 1),
        bent = p?.distortion ? distortionFactor(p.distortion, u) : 1;
      const own = colour !== 'green' && p?.aberration ? aberrationFactor(p.aberration.model, p.aberration[colour], u * bent) : 1,
        size = colour === 'red' ? lens.redSize : colour === 'blue' ? lens.blueSize : 0;
      return hand * bent * own * (1 + (size / 100) * handSize);
    });
  return { of: lens, width: size.width, height: size.height, radial: [radial('red'), radial('green'), radial('blue')], warp };
}
/** A frame's gain; null when it is one everywhere. */
export function lensGainOf(lens: Lens, file: FileLens | null, size: Size): LensGain | null {
  const own = lens.fromFile ? (file?.vignetting ?? null) : null,
    p = lens.profile?.vignetting ? lens.profile : null;
  if (!own && !p && lens.cornerEv === 0) return null;
  const radial =
    p || lens.cornerEv !== 0
      ? tableOf(
          (r) =>
            2 ** (lens.cornerEv * r ** lens.cornerPower) / (p ? Math.max(0.05, vignettingShare(p.vignetting!, r / p.vignettingUnit)) : 1),
        )
      : null;
  return { of: lens, map: lensMapOf(lens, file, size), radial, file: own };
}

/** The numbers of the kernel `lensPlaces` after its homography; the place's origin is subtracted. `level` scales lengths. */
export function lensNumbers(map: LensMap | null, size: Size, colour: number, scale: number, origin: { x: number; y: number }): number[] {
  const unit = halfDiagonal(size) * scale,
    plane = map?.warp && (map.warp.planes[colour] ?? map.warp.planes[0]!),
    axis = map?.warp ? opcodeAxis(map.warp.centre, size) : { x: size.width / 2, y: size.height / 2, unit: 1 };
  return [
    (size.width / 2) * scale,
    (size.height / 2) * scale,
    unit,
    axis.x * scale,
    axis.y * scale,
    axis.unit * scale,
    ...(plane ?? [1, 0, 0, 0, 0, 0]),
    origin.x,
    origin.y,
  ];
}
const flat: Table = tableOf(() => 1);
/** A radial table as the kernels read it; no table is one everywhere. */
export function tableNumbers(t: Table | null): Float32Array {
  const { perUnit: n, values } = t ?? flat;
  return Float32Array.from([n, values.length - 2.001, ...values]);
}

/** Where a place of the straight picture lies in the plate (pixels of the full size, corners at whole numbers), for one colour. */
export function throughLens(map: LensMap | null, colour: number, x: number, y: number): [number, number] {
  if (!map) return [x, y];
  const unit = halfDiagonal(map),
    mx = map.width / 2,
    my = map.height / 2,
    u = (x - mx) / unit,
    v = (y - my) / unit,
    f = at(map.radial[colour]!, u * u + v * v),
    px = mx + u * f * unit,
    py = my + v * f * unit;
  if (!map.warp) return [px, py];
  const axis = opcodeAxis(map.warp.centre, map),
    [k0, k1, k2, k3, vx, vy] = (map.warp.planes[colour] ?? map.warp.planes[0]!) as [number, number, number, number, number, number];
  const dx = (px - axis.x) / axis.unit,
    dy = (py - axis.y) / axis.unit,
    r = dx * dx + dy * dy,
    g = k0 + r * (k1 + r * (k2 + r * k3)),
    t = 2 * (vx * dx + vy * dy);
  return [axis.x + axis.unit * (dx * g + r * vx + t * dx), axis.y + axis.unit * (dy * g + r * vy + t * dy)];
}
/** The gain at a place of the picture a view draws, in pixels of the full size. */
export function gainAt(gain: LensGain, size: Size, view: View | null, x: number, y: number): number {
  const [a, b, c] = view ? apply3(view.toSource, [x, y, 1]) : [x, y, 1],
    straight: [number, number] = [a / c, b / c],
    source = throughLens(gain.map, 1, ...straight);
  let g = 1;
  if (gain.radial) {
    const unit = halfDiagonal(size),
      u = (source[0] - size.width / 2) / unit,
      v = (source[1] - size.height / 2) / unit;
    g = at(gain.radial, u * u + v * v);
  }
  if (gain.file) {
    const axis = opcodeAxis(gain.file.centre, size),
      p = gain.file.beforeWarp ? source : straight;
    g *= fileGain(gain.file.terms, ((p[0] - axis.x) ** 2 + (p[1] - axis.y) ** 2) / axis.unit ** 2);
  }
  return g;
}
/** The file's gain as a table over the squared radius in its own unit. */
export const fileGainTable = (terms: readonly number[]): Table => tableOf((r) => fileGain(terms, r * r));

/** Whether purple or green edges are to be taken out. */
export const defringes = (lens: Lens): boolean => lens.purpleFringe > 0 || lens.greenFringe > 0;

/**
 * The numbers of the pass `lensGain`: two blocks for the kernel `lensPlaces` (into the plate, and of the straight picture),
 * then the view's homography and size, middle and unit of the radial gain and of the file's, which are there, and whether
 * the file's is over the plate; then the tables: green's radial map, no map, radial gain, file's gain.
 */
export function gainNumbers(gain: LensGain, size: Size, view: View): Float32Array {
  const origin = { x: 0, y: 0 },
    axis = gain.file ? opcodeAxis(gain.file.centre, size) : { x: 0, y: 0, unit: 1 },
    empty = [0, 0, 1, 0, 0, 0];
  return Float32Array.from([
    ...empty,
    ...lensNumbers(gain.map, size, 1, 1, origin),
    ...empty,
    ...lensNumbers(null, size, 1, 1, origin),
    ...view.toSource,
    view.width,
    view.height,
    size.width / 2,
    size.height / 2,
    halfDiagonal(size),
    axis.x,
    axis.y,
    axis.unit,
    gain.radial ? 1 : 0,
    gain.file ? 1 : 0,
    gain.file?.beforeWarp ? 1 : 0,
    0,
    ...tableNumbers(gain.map?.radial[1] ?? null),
    ...tableNumbers(null),
    ...tableNumbers(gain.radial),
    ...tableNumbers(gain.file ? fileGainTable(gain.file.terms) : null),
  ]);
}
