import type { Guide } from './guided.ts';

/** Puts a row of a map at an address, its two nearest rows mixed: slopes, then, `stride` bytes on, offsets. */
export function layRow(f32: Float32Array, map: Guide, share: number, address: number, stride: number): void {
  const at = Math.min(map.height - 1, Math.max(0, share * map.height - 0.5)),
    row = Math.max(0, Math.min(map.height - 2, Math.floor(at))),
    t = at - row,
    low = row * map.width,
    high = map.height > 1 ? low + map.width : low,
    slope = address / 4,
    offset = (address + stride) / 4;
  for (let i = 0; i <= map.width; i++) {
    const k = Math.min(i, map.width - 1);
    f32[slope + i] = map.slope[low + k]! * (1 - t) + map.slope[high + k]! * t;
    f32[offset + i] = map.offset[low + k]! * (1 - t) + map.offset[high + k]! * t;
  }
}
/** Last column of a map, the place of a region's first pixel in it and the step of one pixel. */
export const along = (map: { width: number }, x: number, width: number): number[] => [
  map.width - 1,
  ((x + 0.5) * map.width) / width - 0.5,
  map.width / width,
];

/** A row of a field, its two nearest rows mixed, times a factor. */
export function layField(
  f32: Float32Array,
  size: { width: number; height: number },
  field: Float32Array,
  share: number,
  factor: number,
  address: number,
): void {
  const at = Math.min(size.height - 1, Math.max(0, share * size.height - 0.5)),
    row = Math.max(0, Math.min(size.height - 2, Math.floor(at))),
    t = at - row,
    low = row * size.width,
    high = size.height > 1 ? low + size.width : low;
  for (let i = 0; i <= size.width; i++) {
    const k = Math.min(i, size.width - 1);
    f32[address / 4 + i] = factor * (field[low + k]! * (1 - t) + field[high + k]! * t);
  }
}
