import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { balancedCameraToRec2020, neutralToXy, type CameraProfile } from '../src/colour/cameraProfile.ts';
import { apply3, type Vector3 } from '../src/colour/matrix.ts';
import { temperatureOf } from '../src/colour/temperature.ts';
import { readDirectories, short, long, rational, text, writeRgbTiff, writeTiff } from '../src/formats/tiff.ts';
import { writeExif, type ExifFacts } from '../src/formats/exif.ts';
import { writeIccProfile } from '../src/formats/icc.ts';
import { storeTable, table3d } from '../src/colour/table.ts';
import { readLook } from '../src/look/schema.ts';
import { tableLook } from '../src/look/tableLook.ts';
import { cdlOf } from '../src/steps/cdl/index.ts';

describe('TIFF', () => {
  it('tags come back as they were written, through a subdirectory too (TIFF 6.0)', () => {
    const file = writeTiff({
      tags: [short(258, 8, 8, 8), long(256, 70000), rational(282, [300]), text(305, 'Dyepot')],
      subdirectories: [{ tags: [long(256, 12), short(50714, 1, 2, 3, 4)] }],
    });
    const [main, sub] = readDirectories(file);
    expect([main!.get(256), main!.get(258), main!.get(282), main!.get(305)]).toEqual([
      [70000],
      [8, 8, 8],
      [300],
      [...new TextEncoder().encode('Dyepot'), 0],
    ]);
    expect(sub!.get(50714)).toEqual([1, 2, 3, 4]);
  });
  it('a picture’s strip holds its pixels', () => {
    const pixels = Uint16Array.from({ length: 4 * 3 * 3 }, (_, i) => i * 1000),
      file = writeRgbTiff(4, 3, pixels, writeIccProfile('p3')),
      [d] = readDirectories(file),
      at = d!.get(273)![0]!;
    expect(new Uint16Array(file.slice(at, at + pixels.byteLength).buffer)).toEqual(pixels);
  });
  it('no bytes, however spoilt, make the reader throw or hang', () => {
    const good = writeTiff({ tags: [short(258, 8, 8, 8), text(305, 'Dyepot')], subdirectories: [{ tags: [long(256, 12)] }] });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { maxLength: 12 }), fc.nat(good.length), (changes, length) => {
        const bad = good.slice(0, length);
        for (const [i, v] of changes) if (i < bad.length) bad[i] = v;
        expect(() => readDirectories(bad)).not.toThrow();
      }),
      { numRuns: 400 },
    );
    expect(readDirectories(new Uint8Array(0))).toEqual([]);
  });
});

describe('ICC profiles', () => {
  it.each(['srgb', 'p3'] as const)('%s: size, signature and tag table agree (ICC.1:2022, 7.2)', (space) => {
    const p = writeIccProfile(space),
      v = new DataView(p.buffer),
      ascii = (at: number): string => String.fromCharCode(...p.subarray(at, at + 4));
    expect([v.getUint32(0), ascii(36), ascii(12), ascii(16), ascii(20)]).toEqual([p.length, 'acsp', 'mntr', 'RGB ', 'XYZ ']);
    for (let i = 0; i < v.getUint32(128); i++) expect(v.getUint32(136 + i * 12) + v.getUint32(140 + i * 12)).toBeLessThanOrEqual(p.length);
  });
});

// a camera with two matrices, as DNG 1.7 chapter 6 describes: made-up sensitivities near common ones
const profile: CameraProfile = {
  colour: [
    {
      kelvin: 2856,
      matrix: [1.09, -0.18, -0.13, -0.48, 1.45, 0.21, -0.06, 0.12, 0.7],
      forward: null,
      calibration: [1, 0, 0, 0, 1, 0, 0, 0, 1],
    },
    {
      kelvin: 6504,
      matrix: [0.85, -0.1, -0.11, -0.44, 1.25, 0.16, -0.08, 0.14, 0.56],
      forward: null,
      calibration: [1, 0, 0, 0, 1, 0, 0, 0, 1],
    },
  ],
  analogBalance: [1, 1, 1],
  asShotNeutral: [1, 1, 1],
  baselineExposureEv: 0,
};
describe('camera colour by the DNG rules', () => {
  it.each([0, 1])('the neutral a matrix gives for its own light is found to have that light’s temperature', (i) => {
    const white: Vector3 = i === 0 ? [1.0985, 1, 0.3558] : [0.9504, 1, 1.0888],
      { kelvin, matrix } = profile.colour[i]!;
    expect(Math.abs(1e6 / temperatureOf(neutralToXy(profile, apply3(matrix, white))).kelvin - 1e6 / kelvin)).toBeLessThan(2);
  });
  it('a balanced neutral is white in Rec.2020 under any light', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.35, max: 1.1, noNaN: true }), fc.double({ min: 0.3, max: 0.9, noNaN: true }), (r, b) => {
        for (const v of apply3(balancedCameraToRec2020(profile, [r, 1, b]), [1, 1, 1])) expect(v).toBeCloseTo(1, 2);
      }),
      { numRuns: 40 },
    ));
  it('a forward matrix, when given, decides: balanced camera colours go to D50 through it', () => {
    const forward = [0.7, 0.2, 0.0642, 0.3, 0.75, -0.05, 0.02, -0.1, 0.9051] as const,
      with1 = { ...profile, colour: [{ ...profile.colour[1]!, forward }] };
    const one = balancedCameraToRec2020(with1, [0.6, 1, 0.7]),
      two = balancedCameraToRec2020(
        { ...with1, colour: [{ ...with1.colour[0]!, forward: forward.map((v) => v * 2) as unknown as typeof forward }] },
        [0.6, 1, 0.7],
      );
    two.forEach((v, i) => expect(v).toBeCloseTo(one[i]! * 2, 6));
    expect(() => balancedCameraToRec2020({ ...profile, colour: [] }, [1, 1, 1])).toThrow(/no colour matrix/);
  });
});

describe('what a finished file says of how it was taken (Exif 2.32, CIPA DC-008)', () => {
  const facts: ExifFacts = {
    camera: 'Hollin Field One',
    make: 'Hollin',
    lens: 'Hollin 24-70 mm f/2.8',
    exif: { iso: 800, shutterSeconds: 1 / 125, aperture: 2.8, focalMm: 50, takenAt: '2026-10-12T09:31:05.000Z', focalMm35: 75 },
  };
  const words = (v: number[] | undefined): string => String.fromCharCode(...(v ?? []).slice(0, -1)),
    tagsOf = (f: ExifFacts, srgb = true): Map<number, number[]> =>
      new Map(readDirectories(writeExif(f, 900, 600, srgb)).flatMap((d) => [...d]));
  it('names the camera without its maker twice, the time as the camera wrote it, and the picture’s own size', () => {
    const t = tagsOf(facts);
    expect([words(t.get(271)), words(t.get(272)), words(t.get(42036)), words(t.get(36867))]).toEqual([
      'Hollin',
      'Field One',
      facts.lens,
      '2026:10:12 09:31:05',
    ]);
    expect([t.get(34855), t.get(40962), t.get(40963), t.get(274), t.get(41989)]).toEqual([[800], [900], [600], [1], [75]]);
    expect([t.get(33434)![0], t.get(33437)![0], t.get(37386)![0]]).toEqual([1 / 125, 2.8, 50]);
  });
  it.each([
    [30, 30],
    [0.5, 0.5],
    [1 / 8000, 1 / 8000],
    [1.6, 1.6],
  ])('an exposure of %d s is written exactly', (seconds, want) =>
    expect(tagsOf({ ...facts, exif: { ...facts.exif, shutterSeconds: seconds } }).get(33434)![0]).toBeCloseTo(want, 9),
  );
  it('says sRGB of sRGB only, and leaves out what the raw does not say', () => {
    expect([tagsOf(facts).get(40961), tagsOf(facts, false).get(40961)]).toEqual([[1], [65535]]);
    const bare = tagsOf({ camera: '', lens: '', exif: { iso: 0, shutterSeconds: NaN, aperture: 0, focalMm: 0, takenAt: null } });
    for (const tag of [271, 272, 33434, 33437, 34855, 36867, 37386, 41989, 42036]) expect(bare.has(tag)).toBe(false);
  });
});

describe('a table as a look', () => {
  it('a CDL becomes the step that holds its numbers, a table a table; both are looks that can be read', () => {
    const table = storeTable(table3d('Warm', 3, (c) => [c[0], c[1] * 0.9, c[2] * 0.8])),
      cdl = { slope: [1.1, 1, 0.9], offset: [0.01, 0, -0.02], power: [1, 1.1, 1], saturation: 0.8 } as const;
    const [numbers, held] = [tableLook('Night', table, cdl), tableLook('Warm', table, null)];
    expect(cdlOf(numbers.print[0]!.params)).toEqual(cdl);
    expect(held.print[0]!.params['table']).toEqual(table);
    for (const look of [numbers, held]) expect(readLook(JSON.stringify(look))).toEqual({ look });
    expect(tableLook('n'.repeat(200), table, null).name).toHaveLength(80);
  });
});
