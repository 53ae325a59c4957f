/** A strip or tile of picture data, as a directory of the file says. */
export interface Part {
  offset: number;
  length: number;
  /** TIFF Compression: 1 none, 7 JPEG (lossless in a DNG's raw picture) */
  compression: number;
  /** of the raw picture itself, not of a preview */
  raw: boolean;
  /** a strip goes over the picture's whole width, a tile may not */
  tile: boolean;
}
export interface Extents {
  /** numbers begin with their low byte */
  little: boolean;
  /** where the furthest thing ends that the file speaks of, in bytes */
  end: number;
  parts: Part[];
  dng: boolean;
  /** MD5 of the raw picture's values (DNG 1.7, RawImageDigest, tag 50972); null where the file has none */
  digest: Uint8Array | null;
  /** whether stored values go through a table first (LinearizationTable, tag 50712) */
  linearised: boolean;
}
/** Reads up to `length` bytes of the file. */
export type ReadAt = (offset: number, length: number) => Uint8Array;

const widths: Record<number, number> = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4 };
const most = 200_000;
const photometricCfa = 32803,
  photometricLinearRaw = 34892;

/** What a TIFF-like file (TIFF 6.0; DNG 1.7) says of where its data lie, read piece by piece. Null for files of other kinds. */
export function tiffExtents(readAt: ReadAt): Extents | null {
  const head = readAt(0, 8);
  if (head.length < 8) return null;
  const little = head[0] === 0x49 && head[1] === 0x49;
  if (!little && !(head[0] === 0x4d && head[1] === 0x4d)) return null;
  const viewOf = (offset: number, length: number): DataView => {
    const b = readAt(offset, length);
    return new DataView(b.buffer, b.byteOffset, b.byteLength);
  };
  const found: Extents = { little, end: 8, parts: [], dng: false, digest: null, linearised: false };
  const reach = (offset: number, length: number): void => {
    found.end = Math.max(found.end, offset + length);
  };
  const waiting = [viewOf(0, 8).getUint32(4, little)],
    seen = new Set<number>();
  while (waiting.length > 0 && seen.size < 64) {
    const at = waiting.shift()!;
    if (at === 0 || seen.has(at)) continue;
    seen.add(at);
    const counted = viewOf(at, 2);
    if (counted.byteLength < 2) {
      reach(at, 2);
      continue;
    }
    const count = counted.getUint16(0, little),
      entries = viewOf(at + 2, count * 12 + 4);
    reach(at, count * 12 + 6);
    const numbers = new Map<number, number[]>();
    for (let i = 0; i < count && i * 12 + 12 <= entries.byteLength; i++) {
      const tag = entries.getUint16(i * 12, little),
        type = entries.getUint16(i * 12 + 2, little),
        n = entries.getUint32(i * 12 + 4, little),
        width = widths[type];
      if (!width) continue;
      const inside = n * width <= 4,
        from = inside ? at + 2 + i * 12 + 8 : entries.getUint32(i * 12 + 8, little);
      reach(from, n * width);
      if (tag === 50972 && n === 16) found.digest = readAt(from, 16);
      if (n > most || ![3, 4, 13, 1].includes(type)) continue;
      const values = viewOf(from, n * width);
      numbers.set(
        tag,
        Array.from({ length: Math.floor(values.byteLength / width) }, (_, k) =>
          width === 1 ? values.getUint8(k) : width === 2 ? values.getUint16(k * 2, little) : values.getUint32(k * 4, little),
        ),
      );
    }
    if (numbers.has(50706)) found.dng = true;
    if (numbers.has(50712)) found.linearised = true;
    const photometric = numbers.get(262)?.[0],
      raw = photometric === photometricCfa || photometric === photometricLinearRaw,
      compression = numbers.get(259)?.[0] ?? 1;
    for (const [offsets, lengths, tile] of [
      [numbers.get(273), numbers.get(279), false],
      [numbers.get(324), numbers.get(325), true],
    ] as const)
      offsets?.forEach((offset, k) => {
        const length = lengths?.[k] ?? 0;
        found.parts.push({ offset, length, compression, raw, tile });
        reach(offset, length);
      });
    const [jpeg, jpegLength] = [numbers.get(513)?.[0], numbers.get(514)?.[0]];
    if (jpeg && jpegLength) reach(jpeg, jpegLength);
    waiting.push(...(numbers.get(330) ?? []), ...(numbers.get(34665) ?? []), ...(numbers.get(34853) ?? []));
    if (entries.byteLength >= count * 12 + 4) waiting.push(entries.getUint32(count * 12, little));
  }
  return found;
}
