import { apply3, chain3, type Vector3 } from '../colour/matrix.ts';
import { outputs, type OutputSpace } from '../colour/outputs.ts';
import { adapt, d65, rgbToXyz, xyToXyz } from '../colour/spaces.ts';

/** The profile connection space white of ICC.1:2022. */
export const pcsWhite: Vector3 = [0.9642, 1, 0.8249];

/** A version 4 matrix profile (ICC.1:2022, annex F.3) for a space pictures are written in. */
export function writeIccProfile(space: OutputSpace): Uint8Array {
  const { name, primaries, curve: numbers } = outputs[space];
  const adaptation = adapt(xyToXyz(d65), pcsWhite),
    colorants = chain3(adaptation, rgbToXyz(primaries));
  const ascii = (s: string): number[] => [...s].map((c) => c.charCodeAt(0));
  const u32 = (v: number): number[] => [(v >>> 24) & 255, (v >>> 16) & 255, (v >>> 8) & 255, v & 255];
  const fixed = (v: number): number[] => u32(Math.round(v * 65536) >>> 0);
  const xyz = (v: Vector3): number[] => [...ascii('XYZ '), ...u32(0), ...v.flatMap(fixed)];
  const words = (s: string): number[] => [
    ...ascii('mluc'),
    ...u32(0),
    ...u32(1),
    ...u32(12),
    ...ascii('enUS'),
    ...u32(s.length * 2),
    ...u32(28),
    ...ascii(s).flatMap((c) => [0, c]),
  ];
  const curve = [...ascii('para'), ...u32(0), 0, numbers.length === 1 ? 0 : 3, 0, 0, ...numbers.flatMap(fixed)];
  const column = (i: number): Vector3 => apply3(colorants, [i === 0 ? 1 : 0, i === 1 ? 1 : 0, i === 2 ? 1 : 0]);
  const tags: [string, number[]][] = [
    ['desc', words(name)],
    ['cprt', words('No copyright, use freely')],
    ['wtpt', xyz(pcsWhite)],
    ['chad', [...ascii('sf32'), ...u32(0), ...adaptation.flatMap(fixed)]],
    ['rXYZ', xyz(column(0))],
    ['gXYZ', xyz(column(1))],
    ['bXYZ', xyz(column(2))],
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve],
  ];
  const body: number[] = [],
    table: number[] = [...u32(tags.length)];
  const start = 128 + 4 + tags.length * 12;
  for (const [signature, data] of tags) {
    table.push(...ascii(signature), ...u32(start + body.length), ...u32(data.length));
    body.push(...data, ...new Array<number>((4 - (data.length % 4)) % 4).fill(0));
  }
  const header = [
    ...u32(start + body.length),
    ...u32(0),
    4,
    0x40,
    0,
    0,
    ...ascii('mntrRGB XYZ '),
    7,
    234,
    0,
    1,
    0,
    1,
    0,
    0,
    0,
    0,
    0,
    0,
    ...ascii('acsp'),
    ...u32(0),
    ...u32(0),
    ...u32(0),
    ...u32(0),
    ...u32(0),
    ...u32(0),
    ...u32(0),
    ...pcsWhite.flatMap(fixed),
  ];
  return Uint8Array.from([...header, ...new Array<number>(128 - header.length).fill(0), ...table, ...body]);
}
