import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { outputSpaces } from '../src/colour/outputs.ts';
import { writeIccProfile } from '../src/formats/icc.ts';
import { pictureSpace, readIccProfile } from '../src/formats/readIcc.ts';

const shades = Array.from({ length: 101 }, (_, i) => i / 100);

describe('profiles of curves and a matrix', () => {
  it('sRGB’s own profile, as PDFKit carries it (sampled curves, version 2), is IEC 61966-2-1', () => {
    const file = readFileSync(join(dirname(createRequire(import.meta.url).resolve('pdfkit')), 'data/sRGB_IEC61966_2_1.icc')),
      read = readIccProfile(file)!,
      standard = pictureSpace('srgb');
    for (const v of shades)
      for (const c of [0, 1, 2] as const) expect(Math.abs(read.decode[c](v) - standard.decode[c](v))).toBeLessThan(2e-4);
    read.toRec2020.forEach((v, i) => expect(Math.abs(v - standard.toRec2020[i]!)).toBeLessThan(1.5e-3));
  });
  it.each(outputSpaces)('%s as Dyepot writes it is read back', (space) => {
    const read = readIccProfile(writeIccProfile(space))!,
      own = pictureSpace(space);
    for (const v of shades) expect(Math.abs(read.decode[1](v) - own.decode[1](v))).toBeLessThan(1e-4);
    read.toRec2020.forEach((v, i) => expect(Math.abs(v - own.toRec2020[i]!)).toBeLessThan(2e-4));
  });
  it('what is cut short, or no profile of curves and a matrix, is told from one that is', () => {
    const file = writeIccProfile('p3');
    for (const length of [0, 100, 131, 200, 400, file.length - 40]) expect(readIccProfile(file.subarray(0, length))).toBeNull();
    const grey = file.slice();
    grey.set(
      [...'GRAY'].map((ch) => ch.charCodeAt(0)),
      16,
    );
    expect(readIccProfile(grey)).toBeNull();
  });
});
