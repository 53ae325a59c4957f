const ascii = (head: Uint8Array, from: number, length: number): string => String.fromCharCode(...head.subarray(from, from + length));

/**
 * Whether a file begins as raw pictures do: TIFF and its kin (DNG and most makers), ISO base media with brand `crx `, and
 * the few containers of their own. From the makers' published or commonly known signatures (common practice).
 */
export function beginsAsRaw(head: Uint8Array): boolean {
  if (head.length < 16) return false;
  const order = ascii(head, 0, 2),
    tiffMark = order === 'II' ? head[2]! | (head[3]! << 8) : order === 'MM' ? (head[2]! << 8) | head[3]! : 0;
  // 42 is TIFF; 0x55, 0x4f52, 0x5352 and 0x1a00 those of makers who number their own
  if ([42, 0x55, 0x4f52, 0x5352].includes(tiffMark)) return true;
  if (ascii(head, 6, 8) === 'HEAPCCDR') return true;
  if (ascii(head, 4, 4) === 'ftyp') return ascii(head, 8, 4) === 'crx ';
  return ['FUJIFILM', 'FOVb', '\0MRM', 'IIII'].some((mark) => ascii(head, 0, mark.length) === mark);
}

/** Whether a file begins as a JPEG (SOI) or a PNG (signature) does. */
export const beginsFinished = (head: Uint8Array): boolean =>
  (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) || (head[0] === 0x89 && ascii(head, 1, 7) === 'PNG\r\n\x1a\n');

/** What is wrong with a file's first bytes, as the end of a sentence that begins with its name; null when nothing is. */
export function headTrouble(head: Uint8Array): string | null {
  if (head.length === 0) return 'is empty (0 bytes)';
  if (head.every((b) => b === 9 || b === 10 || b === 13 || (b >= 32 && b < 127))) return 'is a text file, not a raw picture';
  if (head.every((b) => b === 0)) return 'holds nothing but zeros: it is damaged';
  return beginsAsRaw(head) || beginsFinished(head) ? null : 'is damaged or is not a raw file or a finished picture that can be read';
}
