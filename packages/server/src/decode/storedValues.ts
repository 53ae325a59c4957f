import type { Extents } from './extents.ts';

const uncompressed = 1;

/**
 * The values of a DNG's raw picture where the file holds them as they are: 16 bits each with the low byte first, in strips
 * that follow each other (TIFF 6.0, Compression 1), and no table to go through. They lie in the file's own memory.
 * Null where they lie otherwise, which LibRaw reads.
 */
export function storedValues(file: Uint8Array, extents: Extents, width: number, height: number): Uint16Array | null {
  if (!extents.dng || !extents.little || extents.linearised) return null;
  const parts = extents.parts.filter((p) => p.raw);
  let end = parts[0]?.offset ?? 0;
  const begin = end;
  for (const p of parts) {
    if (p.compression !== uncompressed || p.tile || p.offset !== end) return null;
    end += p.length;
  }
  const from = file.byteOffset + begin;
  if (end - begin !== width * height * 2 || end > file.length || from % 2 !== 0) return null;
  return new Uint16Array(file.buffer, from, width * height);
}
