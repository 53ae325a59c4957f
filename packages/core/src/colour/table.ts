/**
 * A lookup table on three channels: 1D (size entries for each channel, red's first) or 3D (size³ colours, red fastest).
 * Values that lie outside the domain are read at its border.
 */
export interface Table {
  kind: '1d' | '3d';
  title: string;
  size: number;
  domainMin: readonly [number, number, number];
  domainMax: readonly [number, number, number];
  data: Float32Array;
}
/** A table as it stands in a look: its numbers as base64 of little-endian 32-bit floats. */
export interface StoredTable {
  kind: '1d' | '3d';
  title: string;
  size: number;
  domainMin: readonly [number, number, number];
  domainMax: readonly [number, number, number];
  base64: string;
}
export type Rgb = readonly [number, number, number];

/** How many numbers a table of a kind and size has. */
export const countOf = (kind: '1d' | '3d', size: number): number => (kind === '3d' ? size ** 3 : size) * 3;

/** A colour through a table, in double precision: linear in 1D, tetrahedral in 3D (Kasson, Nin, Plouffe, Hafner 1995). */
export function applyTable({ kind, size, domainMin, domainMax, data }: Table, rgb: Rgb): [number, number, number] {
  const at = rgb.map((v, c) =>
      Math.min(
        size - 1,
        Math.max(0, ((Number.isNaN(v) ? domainMin[c]! : v) - domainMin[c]!) * ((size - 1) / (domainMax[c]! - domainMin[c]!))),
      ),
    ) as [number, number, number],
    cell = at.map((v) => Math.min(size - 2, Math.floor(v))) as [number, number, number],
    f = at.map((v, c) => v - cell[c]!) as [number, number, number];
  if (kind === '1d')
    return [0, 1, 2].map((c) => {
      const o = c * size + cell[c]!;
      return data[o]! + (data[o + 1]! - data[o]!) * f[c]!;
    }) as [number, number, number];
  const steps = [3, 3 * size, 3 * size * size],
    origin = cell[0] * 3 + cell[1] * 3 * size + cell[2] * 3 * size * size,
    order = [0, 1, 2].sort((a, b) => f[b]! - f[a]! || a - b),
    out: [number, number, number] = [0, 0, 0];
  let o = origin,
    before = 1;
  for (let k = 0; k < 4; k++) {
    const weight = before - (k < 3 ? f[order[k]!]! : 0);
    for (let c = 0; c < 3; c++) out[c]! += weight * data[o + c]!;
    if (k < 3) {
      before = f[order[k]!]!;
      o += steps[order[k]!]!;
    }
  }
  return out;
}

/** A 3D table of a function, over [0, 1] unless said otherwise. */
export function table3d(title: string, size: number, f: (rgb: Rgb) => Rgb, domainMin: Rgb = [0, 0, 0], domainMax: Rgb = [1, 1, 1]): Table {
  const data = new Float32Array(size ** 3 * 3),
    at = (i: number, c: number): number => domainMin[c]! + ((domainMax[c]! - domainMin[c]!) * i) / (size - 1);
  for (let b = 0, o = 0; b < size; b++)
    for (let g = 0; g < size; g++) for (let r = 0; r < size; r++, o += 3) data.set(f([at(r, 0), at(g, 1), at(b, 2)]), o);
  return { kind: '3d', title, size, domainMin, domainMax, data };
}

/** A table for a look. */
export function storeTable({ data, ...rest }: Table): StoredTable {
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return { ...rest, base64: btoa(text) };
}
const kept = new WeakMap<object, Table>();
/** A table out of a look; says in words what is wrong with it. */
export function readStoredTable(value: unknown): { table: Table } | { message: string } {
  const known = typeof value === 'object' && value !== null ? kept.get(value) : undefined;
  if (known) return { table: known };
  const { kind, title, size, domainMin, domainMax, base64 } = value as StoredTable,
    triple = (v: unknown): v is Rgb => Array.isArray(v) && v.length === 3 && v.every((n) => typeof n === 'number' && Number.isFinite(n));
  if (kind !== '1d' && kind !== '3d') return { message: 'the table is neither 1D nor 3D' };
  if (!Number.isInteger(size) || size < 2 || size > (kind === '3d' ? 129 : 65536))
    return { message: `the table's size ${String(size)} is not from 2 to ${kind === '3d' ? 129 : 65536}` };
  if (!triple(domainMin) || !triple(domainMax) || !domainMin.every((v, c) => v < domainMax[c]!))
    return { message: 'the table’s domain does not run upward' };
  if (typeof base64 !== 'string') return { message: 'the table has no numbers' };
  let bytes: Uint8Array;
  try {
    bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
  } catch {
    return { message: 'the table’s numbers are not base64' };
  }
  if (bytes.length !== countOf(kind, size) * 4) return { message: 'the table’s numbers are cut short' };
  const data = new Float32Array(bytes.buffer);
  if (!data.every(Number.isFinite)) return { message: 'the table holds something that is not a number' };
  const table: Table = { kind, title: String(title ?? ''), size, domainMin, domainMax, data };
  kept.set(value as object, table);
  return { table };
}
