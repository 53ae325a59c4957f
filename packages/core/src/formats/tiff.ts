/** A TIFF/DNG tag value: type code of TIFF 6.0 and the numbers (or text bytes). */
export interface TiffTag {
  tag: number;
  type: 1 | 2 | 3 | 4 | 5 | 7 | 9 | 10 | 12;
  values: ArrayLike<number>;
}
export interface TiffDirectory {
  tags: TiffTag[];
  /** image data: each strip or tile in file order, with the tags that point to it */
  data?: { offsetsTag: number; countsTag: number; parts: Uint8Array[] };
  subdirectories?: TiffDirectory[];
  exif?: TiffDirectory;
}

const sizes: Record<number, number> = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 7: 1, 9: 4, 10: 8, 12: 8 };

export const short = (tag: number, ...values: number[]): TiffTag => ({ tag, type: 3, values });
export const long = (tag: number, ...values: number[]): TiffTag => ({ tag, type: 4, values });
export const bytes = (tag: number, values: ArrayLike<number>, type: 1 | 7 = 1): TiffTag => ({ tag, type, values });
export const text = (tag: number, value: string): TiffTag => ({ tag, type: 2, values: [...new TextEncoder().encode(value), 0] });
/** Rationals, each written over a denominator. */
export const rational = (tag: number, values: ArrayLike<number>, denominator = 10000): TiffTag => ({
  tag,
  type: 5,
  values: Array.from(values).flatMap((v) => [Math.round(v * denominator), denominator]),
});
export const signedRational = (tag: number, values: ArrayLike<number>, denominator = 10000): TiffTag => ({
  tag,
  type: 10,
  values: Array.from(values).flatMap((v) => [Math.round(v * denominator), denominator]),
});

/** Writes a little-endian TIFF 6.0 file with one main directory. */
export function writeTiff(main: TiffDirectory): Uint8Array {
  const parts: { at: number; bytes: Uint8Array }[] = [];
  let end = 8;
  const place = (b: Uint8Array): number => {
    const at = end;
    parts.push({ at, bytes: b });
    end += b.length + (b.length & 1);
    return at;
  };
  const directory = (d: TiffDirectory): number => {
    const tags = [...d.tags];
    if (d.data)
      tags.push(long(d.data.offsetsTag, ...d.data.parts.map(place)), long(d.data.countsTag, ...d.data.parts.map((p) => p.length)));
    if (d.subdirectories) tags.push(long(330, ...d.subdirectories.map(directory)));
    if (d.exif) tags.push(long(34665, directory(d.exif)));
    tags.sort((a, b) => a.tag - b.tag);
    const out = new DataView(new ArrayBuffer(2 + tags.length * 12 + 4));
    out.setUint16(0, tags.length, true);
    tags.forEach((t, i) => {
      const at = 2 + i * 12,
        width = sizes[t.type]!,
        paired = t.type === 5 || t.type === 10,
        count = t.values.length / (paired ? 2 : 1),
        value = new DataView(new ArrayBuffer(Math.max(4, count * width)));
      for (let k = 0; k < t.values.length; k++) {
        const v = t.values[k]!;
        if (width === 1) value.setUint8(k, v);
        else if (t.type === 3) value.setUint16(k * 2, v, true);
        else if (t.type === 12) value.setFloat64(k * 8, v, true);
        else if (t.type === 9 || t.type === 10) value.setInt32(k * 4, v, true);
        else value.setUint32(k * 4, v, true);
      }
      out.setUint16(at, t.tag, true);
      out.setUint16(at + 2, t.type, true);
      out.setUint32(at + 4, count, true);
      out.setUint32(at + 8, count * width <= 4 ? value.getUint32(0, true) : place(new Uint8Array(value.buffer)), true);
    });
    return place(new Uint8Array(out.buffer));
  };
  const first = directory(main);
  const file = new Uint8Array(end);
  for (const p of parts) file.set(p.bytes, p.at);
  file.set([0x49, 0x49, 42, 0]);
  new DataView(file.buffer).setUint32(4, first, true);
  return file;
}

/** An RGB TIFF of 8 or 16 bits with an ICC profile (null where its numbers are no colours but readings), one strip, and what is `said` of it besides. Pixels are interleaved. */
export function writeRgbTiff(
  width: number,
  height: number,
  pixels: Uint8Array | Uint16Array,
  icc: Uint8Array | null,
  said: { main: TiffTag[]; exif: TiffDirectory } | null = null,
  xmp: string | null = null,
): Uint8Array {
  const bits = pixels.BYTES_PER_ELEMENT * 8;
  const own = [
    long(256, width),
    long(257, height),
    short(258, bits, bits, bits),
    short(259, 1),
    short(262, 2),
    short(277, 3),
    long(278, height),
    rational(282, [300]),
    rational(283, [300]),
    short(284, 1),
    short(296, 2),
    text(305, 'Dyepot'),
    ...(xmp ? [bytes(700, new TextEncoder().encode(xmp))] : []),
    ...(icc ? [bytes(34675, icc, 7)] : []),
  ];
  return writeTiff({
    tags: [...own, ...(said?.main ?? []).filter((t) => t.tag !== 531 && !own.some((o) => o.tag === t.tag))],
    ...(said ? { exif: { tags: said.exif.tags.filter((t) => ![37121, 40962, 40963].includes(t.tag)) } } : {}),
    data: { offsetsTag: 273, countsTag: 279, parts: [new Uint8Array(pixels.buffer, pixels.byteOffset, pixels.byteLength)] },
  });
}

/** Tags of every directory reachable from the first (next ones, SubIFDs, Exif) as number lists; none when it is not a TIFF. */
export function readDirectories(file: Uint8Array): Map<number, number[]>[] {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  if (file.length < 8) return [];
  const little = view.getUint16(0) === 0x4949;
  if ((!little && view.getUint16(0) !== 0x4d4d) || view.getUint16(2, little) !== 42) return [];
  const found: Map<number, number[]>[] = [],
    waiting = [view.getUint32(4, little)],
    seen = new Set<number>();
  while (waiting.length > 0 && found.length < 16) {
    const at = waiting.shift()!;
    if (at === 0 || at + 2 > file.length || seen.has(at)) continue;
    seen.add(at);
    const count = view.getUint16(at, little),
      end = at + 2 + count * 12;
    if (end > file.length) continue;
    const tags = readEntries(view, at + 2, count, little);
    found.push(tags);
    waiting.push(...(tags.get(330) ?? []), ...(tags.get(34665) ?? []));
    if (end + 4 <= file.length) waiting.push(view.getUint32(end, little));
  }
  return found;
}

function readEntries(view: DataView, start: number, count: number, little: boolean): Map<number, number[]> {
  const tags = new Map<number, number[]>();
  for (let i = 0; i < count; i++) {
    const e = start + i * 12,
      type = view.getUint16(e + 2, little),
      n = view.getUint32(e + 4, little),
      width = sizes[type];
    if (!width || n > 4096) continue;
    const from = n * width <= 4 ? e + 8 : view.getUint32(e + 8, little);
    if (from + n * width > view.byteLength) continue;
    tags.set(
      view.getUint16(e, little),
      Array.from({ length: n }, (_, k) => {
        const p = from + k * width;
        if (width === 1) return view.getUint8(p);
        if (type === 3) return view.getUint16(p, little);
        if (type === 4) return view.getUint32(p, little);
        if (type === 9) return view.getInt32(p, little);
        if (type === 12) return view.getFloat64(p, little);
        return type === 5
          ? view.getUint32(p, little) / view.getUint32(p + 4, little)
          : view.getInt32(p, little) / view.getInt32(p + 4, little);
      }),
    );
  }
  return tags;
}
