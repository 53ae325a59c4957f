import { countOf, type Table } from '../colour/table.ts';

const largest = { '1d': 65536, '3d': 129 } as const;
const words = (n: number): string => ['no numbers', 'one number', 'two numbers', 'three numbers', 'four numbers'][n] ?? `${n} numbers`;

/** Text of a file's bytes; a message when they are not plain text. */
export function textOf(bytes: Uint8Array): { text: string } | { message: string } {
  if (
    (bytes[0] === 0xff && bytes[1] === 0xfe) ||
    (bytes[0] === 0xfe && bytes[1] === 0xff) ||
    (bytes.length > 3 && bytes[1] === 0 && bytes[3] === 0)
  )
    return { message: 'line 1: this is UTF-16 text; save it as UTF-8 or ASCII' };
  if (bytes.subarray(0, 4096).includes(0)) return { message: 'line 1: this is not a text file' };
  return { text: new TextDecoder().decode(bytes).replace(/^\uFEFF/, '') };
}

/**
 * Reads a Cube LUT (Cube LUT Specification 1.0): 1D of 2–65536 or 3D of 2–129, TITLE, DOMAIN_MIN and DOMAIN_MAX, comments.
 * @returns the table, or a message with the line that is wrong
 */
export function readCube(bytes: Uint8Array): { table: Table } | { message: string } {
  const plain = textOf(bytes);
  if ('message' in plain) return plain;
  let kind: '1d' | '3d' | null = null,
    size = 0,
    title = '',
    data = new Float32Array(0),
    at = 0,
    line = 0;
  const domain = { min: [0, 0, 0], max: [1, 1, 1] },
    { text } = plain;
  for (let from = 0; from <= text.length;) {
    let to = text.indexOf('\n', from);
    if (to < 0) to = text.length;
    const own = text.slice(from, to).trim();
    from = to + 1;
    line++;
    if (own === '' || own.startsWith('#')) continue;
    const parts = own.split(/\s+/),
      first = parts[0]!;
    if (/^[A-Z_a-z]/.test(first) && !/^(nan|inf)/i.test(first)) {
      const numbers = parts.slice(1).map(Number),
        three = (): boolean => numbers.length === 3 && numbers.every(Number.isFinite);
      if (first === 'TITLE') {
        const m = /^TITLE\s+"([^"]*)"/.exec(own);
        if (!m) return { message: `line ${line}: a title stands in double quotes` };
        title = m[1]!;
      } else if (first === 'LUT_1D_SIZE' || first === 'LUT_3D_SIZE') {
        if (kind) return { message: `line ${line}: the size is said a second time` };
        kind = first === 'LUT_3D_SIZE' ? '3d' : '1d';
        size = numbers[0] ?? NaN;
        if (numbers.length !== 1 || !Number.isInteger(size) || size < 2 || size > largest[kind])
          return {
            message: `line ${line}: a ${kind.toUpperCase()} table has a size from 2 to ${largest[kind]}, not “${parts.slice(1).join(' ')}”`,
          };
        data = new Float32Array(countOf(kind, size));
      } else if (first === 'DOMAIN_MIN' || first === 'DOMAIN_MAX') {
        if (!three())
          return { message: `line ${line}: expected three numbers after ${first}, found ${words(numbers.filter(Number.isFinite).length)}` };
        domain[first === 'DOMAIN_MIN' ? 'min' : 'max'] = numbers;
      } else return { message: `line ${line}: “${first.slice(0, 40)}” is not a word of the Cube format` };
      continue;
    }
    if (!kind) return { message: `line ${line}: numbers stand before LUT_1D_SIZE or LUT_3D_SIZE` };
    if (parts.length !== 3) return { message: `line ${line}: expected three numbers, found ${words(parts.length)}` };
    if (at >= data.length) return { message: `line ${line}: there are more rows than the ${data.length / 3} that the size asks for` };
    for (let c = 0; c < 3; c++) {
      const v = Number(parts[c]);
      if (!Number.isFinite(v) || Math.abs(v) > 1e30) return { message: `line ${line}: “${parts[c]!.slice(0, 40)}” is not a number` };
      data[kind === '1d' ? c * size + at / 3 : at + c] = v;
    }
    at += 3;
  }
  if (!kind) return { message: `line ${line}: neither LUT_1D_SIZE nor LUT_3D_SIZE is said` };
  if (at < data.length) return { message: `line ${line}: the table ends after ${at / 3} of ${data.length / 3} rows` };
  if (!domain.min.every((v, c) => v < domain.max[c]!)) return { message: 'DOMAIN_MIN is not below DOMAIN_MAX' };
  return {
    table: {
      kind,
      title,
      size,
      domainMin: domain.min as unknown as Table['domainMin'],
      domainMax: domain.max as unknown as Table['domainMax'],
      data,
    },
  };
}

const short = (v: number): string => String(Number(v.toPrecision(8)));
/** Writes a Cube LUT (specification 1.0). */
export function writeCube(t: Table, comments: readonly string[] = []): string {
  const n = t.kind === '3d' ? t.size ** 3 : t.size,
    value = (i: number, c: number): number => t.data[t.kind === '1d' ? c * t.size + i : i * 3 + c]!,
    plain = t.domainMin.every((v) => v === 0) && t.domainMax.every((v) => v === 1);
  const head = [
      ...comments.map((c) => `# ${c}`),
      ...(t.title ? [`TITLE "${t.title.replaceAll('"', '’')}"`] : []),
      `LUT_${t.kind.toUpperCase()}_SIZE ${t.size}`,
      ...(plain ? [] : [`DOMAIN_MIN ${t.domainMin.map(short).join(' ')}`, `DOMAIN_MAX ${t.domainMax.map(short).join(' ')}`]),
    ],
    rows: string[] = [];
  for (let i = 0; i < n; i++) rows.push(`${short(value(i, 0))} ${short(value(i, 1))} ${short(value(i, 2))}`);
  return `${[...head, ...rows].join('\n')}\n`;
}
