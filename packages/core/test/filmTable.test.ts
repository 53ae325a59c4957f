import fc from 'fast-check';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { readFileSync } from 'node:fs';
import { kernelsFile } from '@dyepot/server/src/places.ts';
import { ciede2000, xyzToLab } from '../src/colour/difference.ts';
import { exp } from '../src/colour/elementary.ts';
import { apply3, type Vector3 } from '../src/colour/matrix.ts';
import { rec2020ToXyz } from '../src/colour/spaces.ts';
import { applyTable } from '../src/colour/table.ts';
import { loadKernels, type Kernels } from '../src/kernels/kernels.ts';
import { validateLook } from '../src/look/schema.ts';
import { emptyLook, newStep } from '../src/look/look.ts';
import { probeLook } from '../src/plan/dyestrip.ts';
import { openFilm, throughFilm } from '../src/stock/film/film.ts';
import { asDesigned } from '../src/stock/film/handling.ts';
import { validateSheet } from '../src/stock/film/sheetSchema.ts';
import { stocks } from '../src/stock/film/stocks.ts';
import { decodePicture, filmTable, spreadAt } from '../src/stock/film/table.ts';

const white = apply3(rec2020ToXyz, [1, 1, 1]),
  lab = (rgb: Vector3): Vector3 => xyzToLab(apply3(rec2020ToXyz, rgb.map((v) => Math.min(1, Math.max(0, v))) as unknown as Vector3), white),
  named = (name: string): (typeof stocks)[number] => stocks.find((s) => s.name === name)!,
  toCct = (v: number): number => (v <= 0.0078125 ? 10.5402377416545 * v + 0.0729055341958355 : (Math.log2(v) + 9.72) / 17.52);
const films = stocks.map((sheet) => ({ sheet, film: openFilm(sheet) }));
let kernels: Kernels;
beforeAll(async () => {
  kernels = await loadKernels(readFileSync(kernelsFile));
});

describe('the table of a stock', () => {
  it.each(['Alkanet', 'Woad', 'Oak gall'])('of %s is near the spectral computation for 2,000 colours of a scene', (name) => {
    const film = openFilm(named(name)),
      table = filmTable(kernels, film);
    let seed = 7;
    const random = (): number => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648,
      off: number[] = [];
    for (let i = 0; i < 2000; i++) {
      const grey = 0.18 * 2 ** (random() * 9 - 6),
        vivid = random() ** 1.5,
        rgb = [0, 1, 2].map(() => grey * (1 - vivid + vivid * random() * 2)) as unknown as Vector3,
        quick = applyTable(table.cube, rgb.map((v) => spreadAt(table, toCct(v))) as unknown as Vector3).map(
          decodePicture,
        ) as unknown as Vector3;
      off.push(ciede2000(lab(throughFilm(film, rgb)), lab(quick)));
    }
    off.sort((a, b) => a - b);
    const mean = off.reduce((a, b) => a + b) / off.length;
    console.log(
      `${name}: table off by CIEDE2000 ${mean.toFixed(3)} in the mean, ${off[1980]!.toFixed(2)} at 99 %, ${off[1999]!.toFixed(2)} at worst`,
    );
    expect(mean).toBeLessThan(0.1);
    expect(off[1999]!).toBeLessThan(0.5);
  });
  it('is what the step does in the engine, and the same twice', () => {
    const look = {
        ...emptyLook('t'),
        stock: { ...newStep('film', 's'), params: { ...newStep('film', 's').params, sheet: named('Weld') } },
      },
      film = openFilm(named('Weld'));
    for (const rgb of [
      [0.18, 0.18, 0.18],
      [0.4, 0.2, 0.1],
      [0.02, 0.05, 0.2],
    ] as Vector3[]) {
      const came = probeLook(kernels, look, rgb).at(-1)!.rgb as unknown as Vector3;
      expect(ciede2000(lab(came), lab(throughFilm(film, rgb)))).toBeLessThan(1);
    }
    expect(
      Buffer.compare(
        Buffer.from(filmTable(kernels, film).cube.data.buffer),
        Buffer.from(filmTable(kernels, openFilm(named('Weld'))).cube.data.buffer),
      ),
    ).toBe(0);
  });
});

describe('on another machine', () => {
  it('a table is the same byte for byte, though its exponential, logarithm and power differ in the last place', async () => {
    const here = filmTable(kernels, openFilm(named('Weld'))),
      platform = { exp: Math.exp, log: Math.log, pow: Math.pow };
    const off = (v: number): number => v * (1 + 2 ** -51);
    vi.resetModules();
    vi.spyOn(Math, 'exp').mockImplementation((v) => off(platform.exp(v)));
    vi.spyOn(Math, 'log').mockImplementation((v) => off(platform.log(v)));
    vi.spyOn(Math, 'pow').mockImplementation((a, b) => off(platform.pow(a, b)));
    try {
      const film = await import('../src/stock/film/film.ts'),
        { filmTable: tableThere } = await import('../src/stock/film/table.ts'),
        { exp: expThere } = await import('../src/colour/elementary.ts'),
        there = tableThere(kernels, film.openFilm(named('Weld')));
      expect(Math.exp(1)).not.toBe(platform.exp(1));
      expect(expThere(1)).toBe(exp(1));
      expect(Buffer.compare(Buffer.from(there.cube.data.buffer), Buffer.from(here.cube.data.buffer))).toBe(0);
      expect(Buffer.compare(Buffer.from(there.spread.buffer), Buffer.from(here.spread.buffer))).toBe(0);
    } finally {
      vi.restoreAllMocks();
      vi.resetModules();
    }
  });
});

describe('a sheet', () => {
  it('of every shipped stock is sound, and travels in a look', () => {
    for (const { sheet } of films) {
      expect(validateSheet(JSON.parse(JSON.stringify(sheet)))).toHaveProperty('sheet');
      const look = { ...emptyLook('t'), stock: { ...newStep('film', 's'), params: { sheet } } };
      expect(validateLook(JSON.parse(JSON.stringify(look)))).toHaveProperty('look');
    }
  });
  it('of any numbers within its bounds, handled in any way, gives pictures that are numbers; in silver never a brighter one for less light', () => {
    const within = (low: number, high: number): fc.Arbitrary<number> =>
        fc.oneof(fc.constantFrom(low, high), fc.double({ min: low, max: high, noNaN: true })),
      bell = { peak: within(350, 760), towardsBlue: within(5, 150), towardsRed: within(5, 150) },
      three = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T[]> => fc.array(of, { minLength: 3, maxLength: 3 });
    const layers = three(fc.record({ ...bell, cut: within(0, 700) })),
      dyes = three(fc.record({ ...bell, sides: fc.array(fc.record({ ...bell, share: within(0, 0.6) }), { maxLength: 2 }) })),
      curves = three(
        fc.record({
          dmin: within(0, 1.5),
          dmax: within(1.6, 5),
          gamma: within(0.1, 6),
          toe: within(0.01, 1.5),
          shoulder: within(0.01, 1.5),
          start: within(-6, 3),
        }),
      );
    fc.assert(
      fc.property(
        fc.constantFrom('Alkanet', 'Woad', 'Oak gall'),
        fc.record({ layers, curves, dyes, masking: within(0, 1), grey: within(0.02, 0.8), viewedInKelvin: within(2000, 12000) }),
        fc.record({ layers, curves, dyes, lampKelvin: within(2000, 8000), tone: within(-0.5, 0.5) }),
        fc.record({ ratedEv: within(-3, 3), pushStops: within(-2, 3), contrast: within(0.5, 1.6), printEv: within(-1.5, 1.5) }),
        (name, own, ownPrint, handling) => {
          const base = named(name),
            count = base.layers.length,
            cut = <T extends { layers: unknown[]; curves: unknown[]; dyes: unknown[] }>(x: T): T => ({
              ...x,
              layers: x.layers.slice(0, count),
              curves: x.curves.slice(0, count),
              dyes: x.dyes.slice(0, base.dyes.length),
            });
          const print = base.print && { ...base.print, ...cut(ownPrint), ...(count === 1 ? { layers: [] } : {}) },
            sheet = { ...base, ...cut(own), print },
            read = validateSheet(sheet);
          // curves that cross are refused, but must do no harm either
          if ('message' in read && !read.message.includes('cross')) throw new Error(read.message);
          const film = openFilm(sheet, { ...asDesigned, ...handling });
          for (const rgb of [
            [0, 0, 0],
            [0.18, 0.18, 0.18],
            [1, 1, 1],
            [20, 0, 0],
            [0, 0.01, 3],
          ] as Vector3[])
            expect(throughFilm(film, rgb).every(Number.isFinite)).toBe(true);
          if (count > 1) return;
          const light = [0.01, 0.1, 1].map((g) => throughFilm(film, [g, g, g])[1]);
          expect(light[1]!).toBeGreaterThanOrEqual(light[0]! - 1e-9);
          expect(light[2]!).toBeGreaterThanOrEqual(light[1]! - 1e-9);
        },
      ),
      { numRuns: 80 },
    );
  });
  it.each([
    [
      'Dmin over Dmax',
      { curves: [0, 1, 2].map(() => ({ dmin: 1.5, dmax: 1, gamma: 0.6, toe: 0.1, shoulder: 0.1, start: -2 })) },
      /Dmin is not under Dmax/,
    ],
    [
      'curves that cross',
      { curves: named('Alkanet').curves.map((c, i) => (i === 0 ? { ...c, gamma: 1.4, start: -1.2 } : c)) },
      /red- and the green-sensitive layer cross/,
    ],
    ['NaN', { masking: Number.NaN }, /masking/],
    ['a thousand layers', { layers: Array.from({ length: 1000 }, () => named('Alkanet').layers[0]) }, /has 1000 layers; at most 3/],
    ['two curves', { curves: named('Alkanet').curves.slice(0, 2) }, /has 3 curves, this one 2/],
    ['a negative without a print', { print: null }, /needs a print/],
    ['greys that would move', { interlayer: [0.5, 0, 0, 0, 0, 0, 0, 0, 0] }, /row 1 .* greys would move/],
    ['a later version', { version: 2 }, /version 2; this Dyepot reads up to version 1/],
    ['an unknown key', { sharpness: 1 }, /sharpness/],
  ])('with %s is refused in a sentence', (_, wrong, words) => {
    const read = validateSheet({ ...named('Alkanet'), ...wrong });
    expect('message' in read ? read.message : 'taken').toMatch(words);
    const look = { ...emptyLook('t'), stock: { ...newStep('film', 's'), params: { sheet: { ...named('Alkanet'), ...wrong } } } },
      asLook = validateLook(look);
    expect('message' in asLook ? asLook.message : 'taken').toMatch(words);
  });
});
