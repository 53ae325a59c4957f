import { createHash } from 'node:crypto';
import type { Extents, ReadAt } from './extents.ts';

/** What a file's own words and its bytes say of whether its picture is whole. */
export interface Wholeness {
  /** the picture cannot be had: why, as the end of a sentence */
  cut: string | null;
  /** it can, but something speaks against it */
  doubt: string | null;
}
const jpegCompression = 7;
const whole = (n: number): string => n.toLocaleString('en-GB');

/**
 * Checks that every strip and tile of the raw picture lies inside the file, and that each lossless JPEG among them begins
 * and ends as ITU-T T.81 says (SOI, EOI).
 */
export function checkParts(extents: Extents, size: number, readAt: ReadAt): Wholeness {
  const parts = extents.parts.filter((p) => p.raw || !extents.parts.some((other) => other.raw));
  const outside = parts.filter((p) => p.offset + p.length > size);
  if (outside.length > 0) {
    const end = Math.max(...parts.map((p) => p.offset + p.length)),
      words = `its picture should reach to byte ${whole(end)}, and the file ends at ${whole(size)}`;
    // makers other than DNG's do not always count their strips rightly
    return extents.dng ? { cut: `is cut short: ${words}`, doubt: null } : { cut: null, doubt: words };
  }
  if (!extents.dng) return { cut: null, doubt: null };
  for (const [i, p] of parts.entries()) {
    if (p.length === 0) return { cut: `has no data for part ${i + 1} of its picture`, doubt: null };
    if (p.compression !== jpegCompression) continue;
    const head = readAt(p.offset, 2),
      tail = readAt(p.offset + Math.max(0, p.length - 16), Math.min(16, p.length));
    const begins = head[0] === 0xff && head[1] === 0xd8,
      ends = Buffer.from(tail).includes(Buffer.from([0xff, 0xd9]));
    if (!begins || !ends)
      return {
        cut: null,
        doubt: `part ${i + 1} of ${parts.length} of its picture does not ${begins ? 'end' : 'begin'} as a lossless JPEG should`,
      };
  }
  return { cut: null, doubt: null };
}

/**
 * MD5 of the raw picture's values, row by row, each as 16 bits with the low byte first (DNG 1.7, RawImageDigest).
 */
export function rawDigest(values: Uint16Array): Uint8Array {
  return createHash('md5')
    .update(new Uint8Array(values.buffer, values.byteOffset, values.byteLength))
    .digest();
}
/** A doubt where the values are not those the file was made with; null where they are, or the file does not say. */
export function digestDoubt(extents: Extents, values: Uint16Array): string | null {
  if (!extents.digest || extents.linearised) return null;
  return Buffer.from(extents.digest).equals(rawDigest(values)) ? null : 'its picture is not the one it was made with: its digest differs';
}
