/** A picture that stands in a look: 8 bits, sRGB-encoded, red, green and blue of each pixel in turn, as base 64. */
export interface StoredPicture {
  format: 'dyepot-picture';
  version: 1;
  name: string;
  /** SHA-256 of the file it came from, shortened */
  hash: string;
  width: number;
  height: number;
  data: string;
}
/** Pixels along the longer edge that are kept. */
export const largestPicture = 1280;

const whole = (v: unknown): v is number => typeof v === 'number' && Number.isInteger(v) && v >= 1 && v <= largestPicture;
/** Checks a stored picture. What is wrong is said in words. */
export function validatePicture(value: unknown): { picture: StoredPicture } | { message: string } {
  const p = value as Partial<StoredPicture>;
  if (typeof value !== 'object' || value === null || p.format !== 'dyepot-picture')
    return { message: 'this is not a picture: it does not say "format": "dyepot-picture"' };
  if (p.version !== 1) return { message: `this picture is of version ${String(p.version)}; this Dyepot reads version 1` };
  if (typeof p.name !== 'string' || p.name.length > 200 || typeof p.hash !== 'string' || p.hash.length > 64)
    return { message: 'the picture has no name or no hash' };
  if (!whole(p.width) || !whole(p.height)) return { message: `the picture’s sides are not whole numbers up to ${largestPicture}` };
  const count = p.width * p.height * 3;
  if (typeof p.data !== 'string' || p.data.length !== Math.ceil(count / 3) * 4 || !/^[A-Za-z0-9+/]*={0,2}$/.test(p.data))
    return { message: `the picture’s pixels are not ${count} bytes in base 64` };
  return { picture: value as StoredPicture };
}
/** A stored picture's pixels as a kernel reads them: red · 65536 + green · 256 + blue of each. Read once. */
export function packedPixels(picture: StoredPicture): Float32Array {
  const known = packed.get(picture);
  if (known) return known;
  const bytes = Uint8Array.from(atob(picture.data), (ch) => ch.charCodeAt(0)),
    out = Float32Array.from(
      { length: picture.width * picture.height },
      (_, i) => bytes[i * 3]! * 65536 + bytes[i * 3 + 1]! * 256 + bytes[i * 3 + 2]!,
    );
  packed.set(picture, out);
  return out;
}
const packed = new WeakMap<StoredPicture, Float32Array>();
