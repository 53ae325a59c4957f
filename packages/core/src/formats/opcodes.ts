import type { FileLens } from '../plate/fileLens.ts';

const names: Record<number, string> = {
  1: 'WarpRectilinear',
  2: 'WarpFisheye',
  3: 'FixVignetteRadial',
  4: 'FixBadPixelsConstant',
  5: 'FixBadPixelsList',
  6: 'TrimBounds',
  7: 'MapTable',
  8: 'MapPolynomial',
  9: 'GainMap',
  10: 'DeltaPerRow',
  11: 'DeltaPerColumn',
  12: 'ScalePerRow',
  13: 'ScalePerColumn',
  14: 'WarpRectilinear2',
};

/**
 * What a DNG opcode list says of the lens (DNG 1.7, ch. 7: WarpRectilinear and FixVignetteRadial; big-endian always).
 * Opcodes of other kinds, or damaged ones, are named and left alone.
 */
export function readOpcodes(bytes: Uint8Array): FileLens {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
    found: { warp: FileLens['warp']; vignetting: FileLens['vignetting']; others: string[] } = { warp: null, vignetting: null, others: [] };
  const count = bytes.length >= 4 ? view.getUint32(0) : 0;
  for (let i = 0, at = 4; i < count && i < 64; i++) {
    if (at + 16 > bytes.length) {
      found.others.push('one cut short');
      break;
    }
    const id = view.getUint32(at),
      length = view.getUint32(at + 12),
      from = at + 16,
      name = names[id] ?? `opcode ${id}`;
    if (from + length > bytes.length) {
      found.others.push(`${name} (cut short)`);
      break;
    }
    const number = (k: number): number => view.getFloat64(from + k),
      planes = id === 1 && length >= 4 ? view.getUint32(from) : 0;
    const centreOf = (k: number): [number, number] => [number(k), number(k + 8)],
      usable = (values: readonly number[]): boolean => values.every((v) => Number.isFinite(v) && Math.abs(v) < 64);
    if (id === 1 && (planes === 1 || planes === 3) && length === 4 + planes * 48 + 16 && !found.warp) {
      // kt0 goes with y, kt1 with x
      const read = Array.from({ length: planes }, (_, p) => {
          const k = Array.from({ length: 6 }, (_, j) => number(4 + p * 48 + j * 8));
          return [k[0]!, k[1]!, k[2]!, k[3]!, k[5]!, k[4]!];
        }),
        centre = centreOf(4 + planes * 48);
      if (usable([...read.flat(), ...centre])) found.warp = { planes: read, centre };
      else found.others.push(`${name} (not numbers)`);
    } else if (id === 3 && length === 56 && !found.vignetting) {
      const terms = [0, 1, 2, 3, 4].map((k) => number(k * 8)),
        centre = centreOf(40);
      if (usable([...terms, ...centre])) found.vignetting = { terms, centre, beforeWarp: found.warp === null };
      else found.others.push(`${name} (not numbers)`);
    } else found.others.push(name);
    at = from + length;
  }
  return found;
}

/** Writes an opcode list of a warp and a vignetting; the inverse of `readOpcodes`. */
export function writeOpcodes({ warp, vignetting }: Pick<FileLens, 'warp' | 'vignetting'>): Uint8Array {
  const opcode = (id: number, numbers: readonly number[], planes: number | null): Uint8Array => {
    const lead = planes === null ? 0 : 4,
      out = new DataView(new ArrayBuffer(16 + lead + numbers.length * 8));
    out.setUint32(0, id);
    out.setUint32(4, 0x01030000);
    out.setUint32(8, 1);
    out.setUint32(12, lead + numbers.length * 8);
    if (planes !== null) out.setUint32(16, planes);
    numbers.forEach((v, i) => out.setFloat64(16 + lead + i * 8, v));
    return new Uint8Array(out.buffer);
  };
  const warps = warp
      ? [opcode(1, [...warp.planes.flatMap((k) => [k[0]!, k[1]!, k[2]!, k[3]!, k[5]!, k[4]!]), ...warp.centre], warp.planes.length)]
      : [],
    gains = vignetting ? [opcode(3, [...vignetting.terms, ...vignetting.centre], null)] : [];
  const list = vignetting?.beforeWarp ? [...gains, ...warps] : [...warps, ...gains],
    head = new DataView(new ArrayBuffer(4));
  head.setUint32(0, list.length);
  return Uint8Array.from([new Uint8Array(head.buffer), ...list].flatMap((b) => [...b]));
}

/** Turns what a file says by quarter turns clockwise, as its picture is turned. */
export function turnFileLens(lens: FileLens, quarterTurns: number): FileLens {
  const centre = ([x, y]: readonly [number, number]): [number, number] => [1 - y, x];
  let turned = lens;
  for (let i = 0; i < quarterTurns; i++)
    turned = {
      ...turned,
      warp: turned.warp && {
        planes: turned.warp.planes.map(([a, b, c, d, x, y]) => [a!, b!, c!, d!, -y!, x!]),
        centre: centre(turned.warp.centre),
      },
      vignetting: turned.vignetting && { ...turned.vignetting, centre: centre(turned.vignetting.centre) },
    };
  return turned;
}
