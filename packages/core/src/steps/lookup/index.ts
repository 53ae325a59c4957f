import { apply3, chain3, invert3, type Matrix3, type Vector3 } from '../../colour/matrix.ts';
import { adapt, d65, rec2020ToXyz, rgbToXyz, srgb, xyToXyz, xyzToRec2020 } from '../../colour/spaces.ts';
import { decodeAcescct, decodeSrgb, encodeSrgb } from '../../colour/transfer.ts';
import { applyTable, readStoredTable, table3d, type Rgb, type Table } from '../../colour/table.ts';
import { gamutParameters } from '../../render/output.ts';
import { tableOver, type PointwisePass } from '../../render/pass.ts';
import { tablePass } from '../../render/tablePass.ts';
import { plainResponse, responseOf } from '../../colour/response.ts';
import { choice, defineStep, type ParameterValues } from '../../render/step.ts';

/** How values going into or out of a table are encoded. */
export type Encoding = 'srgb' | 'linear' | 'acescct';
const intervals = 4096;
/** AP1 primaries and the ACES white (S-2014-004), adapted from D65 by Bradford. */
export const rec2020ToAp1: Matrix3 = (() => {
  const white = [0.32168, 0.33767] as const,
    ap1 = { red: [0.713, 0.293], green: [0.165, 0.83], blue: [0.128, 0.044], white } as const;
  return chain3(invert3(rgbToXyz(ap1)), adapt(xyToXyz(d65), xyToXyz(white)), rec2020ToXyz);
})();
const rec2020ToSrgb = chain3(invert3(rgbToXyz(srgb)), rec2020ToXyz),
  srgbToRec2020 = chain3(xyzToRec2020, rgbToXyz(srgb)),
  ap1ToRec2020 = invert3(rec2020ToAp1);
const clip = (v: number): number => Math.min(1, Math.max(0, v));

/** Linear Rec.2020 as a table expects it. */
export const encodeFor = (encoding: Encoding, rgb: Vector3): Vector3 =>
  encoding === 'linear'
    ? rgb
    : encoding === 'srgb'
      ? (apply3(rec2020ToSrgb, rgb).map((v) => encodeSrgb(clip(v))) as unknown as Vector3)
      : (apply3(rec2020ToAp1, rgb).map((v) =>
          v <= 0.0078125 ? 10.5402377416545 * v + 0.0729055341958355 : (Math.log2(v) + 9.72) / 17.52,
        ) as unknown as Vector3);
/** Back to linear Rec.2020. */
export const decodeFrom = (encoding: Encoding, rgb: Vector3): Vector3 =>
  encoding === 'linear'
    ? rgb
    : encoding === 'srgb'
      ? apply3(srgbToRec2020, rgb.map((v) => decodeSrgb(clip(v))) as unknown as Vector3)
      : apply3(ap1ToRec2020, rgb.map(decodeAcescct) as unknown as Vector3);

const into = (encoding: Encoding): PointwisePass[] =>
  encoding === 'linear'
    ? []
    : encoding === 'acescct'
      ? [
          { kernel: 'matrix', parameters: rec2020ToAp1 },
          { kernel: 'acescct', parameters: [0] },
        ]
      : [
          // what the table's own space cannot hold is drawn in at its own hue, not cut off
          { kernel: 'intoGamut', parameters: gamutParameters('srgb') },
          { kernel: 'curves', parameters: srgbCode },
        ];
const srgbCode = Float32Array.from(
  (() => {
    const t = tableOver(intervals, (v) => encodeSrgb(v * v)).slice(1);
    return [intervals, ...t, ...t, ...t];
  })(),
);
const outOf = (encoding: Encoding): PointwisePass[] =>
  encoding === 'linear'
    ? []
    : [
        { kernel: 'affineTable', parameters: srgbLight },
        { kernel: 'matrix', parameters: srgbToRec2020 },
      ];
const srgbLight = Float32Array.from([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, ...tableOver(intervals, decodeSrgb)]);

/** A table mixed with what would be without it, both in the encoding that comes out. */
function mixed(table: Table, strength: number, plain: (rgb: Rgb) => Rgb, separable: boolean): Table {
  if (strength === 1) return table;
  const at = (rgb: Rgb): Rgb => {
    const a = plain(rgb),
      b = applyTable(table, rgb);
    return [0, 1, 2].map((c) => a[c]! + strength * (b[c]! - a[c]!)) as unknown as Rgb;
  };
  if (table.kind === '3d') return table3d(table.title, table.size, at, table.domainMin, table.domainMax);
  if (!separable) return table3d(table.title, 33, at, table.domainMin, table.domainMax);
  const { size } = table,
    data = new Float32Array(size * 3);
  for (let i = 0; i < size; i++) {
    const out = at(
      [0, 1, 2].map((c) => table.domainMin[c]! + ((table.domainMax[c]! - table.domainMin[c]!) * i) / (size - 1)) as unknown as Rgb,
    );
    for (let c = 0; c < 3; c++) data[c * size + i] = out[c]!;
  }
  return { ...table, data };
}
const tableOf = (values: ParameterValues): Table | null => {
  const value = values['table'];
  if (!value) return null;
  const read = readStoredTable(value);
  return 'table' in read ? read.table : null;
};

/** A lookup table as finishing: in and out in the encoding it was made for. */
export const tablePrint = defineStep({
  kind: 'tablePrint',
  lane: 'print',
  name: 'Lookup table',
  purpose: 'A table from a file, as finishing',
  atStrength: 'mixes along the change',
  needs: ['lut', 'cube', 'hald', 'table'],
  params: {
    table: { type: 'table', label: 'Table', default: null },
    encoding: choice(
      'Made for',
      [
        ['srgb', 'sRGB values'],
        ['linear', 'linear display light, Rec.2020'],
      ],
      'srgb',
    ),
  },
  compile: (values, strength) => {
    const table = tableOf(values),
      encoding = values['encoding'] as Encoding;
    if (!table || strength === 0) return [];
    return [...into(encoding), tablePass(mixed(table, strength, (rgb) => rgb, true)), ...outOf(encoding)];
  },
});
const plainShown = responseOf(plainResponse),
  plainOf =
    (encoding: Encoding) =>
    (rgb: Vector3): Vector3 =>
      encodeFor(encoding, rgb.map((v) => clip(plainShown(Math.max(0, v)))) as unknown as Vector3);
/** A lookup table as the stock: scene light in, picture out. Without a table it is the plain neutral response. */
export const tableStock = defineStep({
  kind: 'tableStock',
  lane: 'stock',
  name: 'Table stock',
  purpose: 'A table from light to picture',
  atStrength: 'mixes with the plain response',
  needs: ['lut', 'cube', 'film table'],
  params: {
    table: { type: 'table', label: 'Table', default: null },
    encoding: choice(
      'Light goes in as',
      [
        ['acescct', 'ACEScct (log, AP1)'],
        ['linear', 'linear, Rec.2020, 1 being white'],
      ],
      'acescct',
    ),
    output: choice(
      'Comes out as',
      [
        ['srgb', 'sRGB values'],
        ['linear', 'linear display light, Rec.2020'],
      ],
      'srgb',
    ),
  },
  compile: (values, strength) => {
    const encoding = values['encoding'] as Encoding,
      output = values['output'] as Encoding,
      plain = plainOf(output),
      table = tableOf(values) ?? table3d('plain', 33, (rgb) => plain(decodeFrom(encoding, rgb)));
    return [...into(encoding), tablePass(mixed(table, strength, (rgb) => plain(decodeFrom(encoding, rgb)), false)), ...outOf(output)];
  },
});
