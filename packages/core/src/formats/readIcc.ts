import { chain3, type Matrix3 } from '../colour/matrix.ts';
import { adapt, d65, rgbToXyz, xyToXyz, xyzToRec2020 } from '../colour/spaces.ts';
import { outputs, type OutputSpace } from '../colour/outputs.ts';
import { pcsWhite } from './icc.ts';

/** What encoded red, green and blue mean: curves to light, then a matrix to linear Rec.2020. */
export interface PictureSpace {
  toRec2020: Matrix3;
  /** of each channel, linear light of an encoded value, both 0–1 */
  decode: readonly [Decode, Decode, Decode];
}
type Decode = (encoded: number) => number;

/** One of the spaces pictures are written in, as a file without a profile means it. */
export function pictureSpace(space: OutputSpace): PictureSpace {
  const { primaries, decode } = outputs[space];
  return { toRec2020: chain3(xyzToRec2020, rgbToXyz(primaries)), decode: [decode, decode, decode] };
}

/**
 * Reads an RGB profile of three curves and a matrix (ICC.1:2022, 8.3.3 and 10.6, 10.18; version 2 too).
 * @returns null where it is none: profiles of other spaces, or of tables alone
 */
export function readIccProfile(file: Uint8Array): PictureSpace | null {
  if (file.length < 132) return null;
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength),
    word = (at: number): string => String.fromCharCode(...file.subarray(at, at + 4)),
    fixed = (at: number): number => view.getInt32(at) / 65536;
  if (word(36) !== 'acsp' || word(16) !== 'RGB ' || word(20) !== 'XYZ ') return null;
  const tags = new Map<string, { at: number; size: number }>();
  for (let i = 0; i < Math.min(100, view.getUint32(128)) && 144 + i * 12 <= file.length; i++) {
    const entry = 132 + i * 12,
      at = view.getUint32(entry + 4),
      size = view.getUint32(entry + 8);
    if (size >= 12 && at + size <= file.length) tags.set(word(entry), { at, size });
  }
  const columns = ['rXYZ', 'gXYZ', 'bXYZ'].map((name) => {
    const tag = tags.get(name);
    return tag && tag.size >= 20 ? [0, 4, 8].map((o) => fixed(tag.at + 8 + o)) : null;
  });
  const curves = ['rTRC', 'gTRC', 'bTRC'].map((name) => {
    const tag = tags.get(name);
    return tag ? curveAt(view, word(tag.at), tag.at, tag.size) : null;
  });
  const [r, g, b] = columns,
    [x, y, z] = curves;
  if (!r || !g || !b || !x || !y || !z) return null;
  const toPcs = [0, 1, 2].flatMap((row) => [r[row]!, g[row]!, b[row]!]) as unknown as Matrix3;
  return { toRec2020: chain3(xyzToRec2020, adapt(pcsWhite, xyToXyz(d65)), toPcs), decode: [x, y, z] };
}

/** A curve: sampled or a gamma (10.6), or one of five functions (10.18). */
function curveAt(view: DataView, kind: string, at: number, size: number): Decode | null {
  if (kind === 'curv') {
    const n = view.getUint32(at + 8);
    if (n === 0) return (v) => v;
    if (12 + n * 2 > size) return null;
    const entry = (i: number): number => view.getUint16(at + 12 + i * 2);
    if (n === 1) return (v) => v ** (entry(0) / 256);
    return (v) => {
      const place = v * (n - 1),
        low = Math.min(n - 2, Math.floor(place));
      return (entry(low) + (entry(low + 1) - entry(low)) * (place - low)) / 65535;
    };
  }
  const counts = [1, 3, 4, 5, 7],
    type = kind === 'para' ? view.getUint16(at + 8) : -1,
    count = counts[type];
  if (count === undefined || 12 + count * 4 > size) return null;
  const [g = 1, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = Array.from({ length: count }, (_, i) => view.getInt32(at + 12 + i * 4) / 65536),
    power = (v: number): number => Math.max(0, a * v + b) ** g;
  const functions: readonly Decode[] = [
    (v) => v ** g,
    (v) => (v >= -b / a ? power(v) : 0),
    (v) => (v >= -b / a ? power(v) + c : c),
    (v) => (v >= d ? power(v) : c * v),
    (v) => (v >= d ? power(v) + e : c * v + f),
  ];
  return functions[type]!;
}
