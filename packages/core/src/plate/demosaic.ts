import type { Kernels } from '../kernels/kernels.ts';
import type { RawFacts, RawPixels } from './mosaic.ts';
import { plateOffset, plateScale } from './scale.ts';

/** Columns worked on at once, so that the rows in use stay in the cache; and what is read beside them. */
const core = 2048,
  halo = 12;
/** Rows the kernel keeps: eleven rings of sixteen, then three single ones. */
const ringRows = 11 * 16 + 3;
/** How many rows after it came in a row is finished. */
const lag = 12;

/** A place mirrored at both borders without repeating them, which keeps the order of colours. */
function mirrored(i: number, size: number): number {
  const period = Math.max(1, 2 * (size - 1)),
    at = ((i % period) + period) % period;
  return at < size ? at : period - at;
}

/**
 * Demosaics a Bayer picture: linear minimum mean square-error estimation of green along both directions (Zhang and Wu 2005,
 * in the domain of the fourth root; the variances smoothed), red and blue along the direction of least change.
 * @param spare planes of the same size that are not needed any more: new ones cost more than filling them
 * @returns three 16-bit planes of the picture's size, value = linear × plateScale + plateOffset
 */
export function demosaic(
  kernels: Kernels,
  { width, height, data, cell }: RawPixels,
  facts: RawFacts,
  spare: Uint16Array | null = null,
): Uint16Array {
  const size = width * height * 3,
    out = spare?.length === size ? spare : new Uint16Array(size),
    neutral = facts.profile.asShotNeutral,
    top = Math.max(...neutral),
    balance = neutral.map((v) => top / v);

  // a row has guards before and after, since stages read beside themselves
  const bytes = (core + 4 * halo) * 4,
    base = kernels.reserve((ringRows + 5) * bytes),
    single = (i: number): number => base + (ringRows + i) * bytes,
    rows = base + halo * 4,
    [source, red, green, blue, numbers] = [0, 1, 2, 3, 4].map(single) as [number, number, number, number, number],
    f32 = kernels.f32(),
    u16 = kernels.u16();
  f32.fill(0, base / 4, single(5) / 4);
  // what rows of either parity are levelled with and counted back by
  const parities = [0, 1].map((parity) => {
    const places = [parity * 2, parity * 2 + 1],
      own = cell[places[0]!] === 1 ? cell[places[1]!]! : cell[places[0]!]!,
      at = numbers + parity * 32;
    const black = places.map((p) => facts.black[p]!),
      gain = places.map((p, k) => balance[cell[p]!]! / (facts.white - black[k]!)),
      back = [own, 1, 2 - own].map((c) => plateScale / balance[c]!);
    f32.set([...black, ...gain, ...back, plateOffset], at / 4);
    return { levels: at, back: at + 16, own: own === 0 ? red : blue, other: own === 0 ? blue : red };
  });
  const phase = cell[0] === 1 ? 1 : 0,
    planes = [red, green, blue].map((plane) => plane / 2 + halo);

  for (let x0 = 0; x0 < width; x0 += core) {
    const columns = Math.min(core, width - x0),
      n = (columns + 2 * halo + 3) & ~3,
      from = x0 - halo,
      first = Math.max(0, from),
      last = Math.min(width, from + n),
      finished = planes.map((plane) => u16.subarray(plane, plane + columns));
    for (let y = -lag - 1; y < height + lag; y++) {
      const line = mirrored(y, height),
        start = line * width,
        done = y - lag,
        { back, own, other } = parities[done & 1]!;
      u16.set(data.subarray(start + first, start + last), source / 2 + first - from);
      for (let x = from; x < first; x++) u16[source / 2 + x - from] = data[start + mirrored(x, width)]!;
      for (let x = last; x < from + n; x++) u16[source / 2 + x - from] = data[start + mirrored(x, width)]!;
      kernels.exports.demosaicRow(source, rows, bytes, y, n, phase, parities[line & 1]!.levels, back, own, green, other);
      if (done < 0) continue;
      for (let c = 0; c < 3; c++) out.set(finished[c]!, (c * height + done) * width + x0);
    }
  }
  return out;
}
