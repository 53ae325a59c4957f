import type { Table } from '../colour/table.ts';

/** The level of a Hald image of a width: its side is level³, its cube level² a side. Null when it is none from 2 to 16. */
export function haldLevel(width: number, height: number): number | null {
  const level = Math.round(Math.cbrt(width));
  return width === height && level ** 3 === width && level >= 2 && level <= 16 ? level : null;
}
/** Reads a Hald image (interleaved RGB of 8 or 16 bits) as a table; red runs fastest. */
export function readHald(
  pixels: Uint8Array | Uint16Array,
  width: number,
  height: number,
  title = '',
): { table: Table } | { message: string } {
  const level = haldLevel(width, height);
  if (level === null)
    return {
      message: `a Hald image is square, with a side of 8, 27, 64 … 4096 pixels (a level from 2 to 16); this one is ${width} × ${height}`,
    };
  const top = pixels.BYTES_PER_ELEMENT === 1 ? 255 : 65535,
    data = new Float32Array(pixels.length);
  for (let i = 0; i < data.length; i++) data[i] = pixels[i]! / top;
  return {
    table: {
      kind: '3d',
      title,
      size: level ** 2,
      domainMin: [0, 0, 0],
      domainMax: [1, 1, 1],
      data,
    },
  };
}
/** The pixels of a Hald image (16 bits). The table's size must be a square number from 4 to 256. */
export function writeHald(t: Table): { pixels: Uint16Array; width: number } | { message: string } {
  const level = Math.round(Math.sqrt(t.size));
  if (t.kind !== '3d' || level ** 2 !== t.size || level < 2 || level > 16)
    return { message: `a Hald image holds a 3D table of 4, 9, 16, 25, 36, 49, 64 … 256 a side, not ${t.size}` };
  return { pixels: Uint16Array.from(t.data, (v) => Math.round(Math.min(1, Math.max(0, v)) * 65535)), width: level ** 3 };
}
