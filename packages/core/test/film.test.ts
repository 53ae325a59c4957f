import { describe, expect, it } from 'vitest';
import { ciede2000, xyzToLab } from '../src/colour/difference.ts';
import { exp, log, log10 } from '../src/colour/elementary.ts';
import { apply3, type Vector3 } from '../src/colour/matrix.ts';
import { oklabToRec2020 } from '../src/colour/oklab.ts';
import { rec2020ToXyz } from '../src/colour/spaces.ts';
import { densityAt, type Characteristic } from '../src/stock/film/curve.ts';
import { exposuresOf, openFilm, shown, throughFilm } from '../src/stock/film/film.ts';
import type { LensFilter } from '../src/colour/lensFilters.ts';
import { asDesigned } from '../src/stock/film/handling.ts';
import { hueTurnOf } from '../src/stock/film/hueTurn.ts';
import { readoutsOf } from '../src/stock/film/readouts.ts';
import { stocks } from '../src/stock/film/stocks.ts';
import { wedge, wedgePicture } from '../src/stock/film/wedge.ts';

const white = apply3(rec2020ToXyz, [1, 1, 1]),
  lab = (rgb: Vector3): Vector3 => xyzToLab(apply3(rec2020ToXyz, rgb.map((v) => Math.min(1, Math.max(0, v))) as unknown as Vector3), white),
  named = (name: string): (typeof stocks)[number] => stocks.find((s) => s.name === name)!;
const films = stocks.map((sheet) => ({ sheet, film: openFilm(sheet) }));

describe('exponential and logarithm of our own', () => {
  it('agree with the platform’s to some units in the last place, over all that stocks ask', () => {
    for (let x = -40; x <= 40; x += 0.0137) expect(Math.abs(exp(x) / Math.exp(x) - 1)).toBeLessThan(1e-14);
    for (let x = 1e-12; x < 1e6; x *= 1.037)
      expect(Math.abs(log(x) - Math.log(x))).toBeLessThan(1e-14 * Math.max(1, Math.abs(Math.log(x))));
  });
});

describe('a characteristic curve', () => {
  const c: Characteristic = { dmin: 0.2, dmax: 2.4, gamma: 0.7, toe: 0.15, shoulder: 0.3, start: -2 };
  it('begins at Dmin, ends at Dmax, and its straight part has the slope gamma', () => {
    expect(densityAt(c, -8)).toBeCloseTo(0.2, 4);
    expect(densityAt(c, 6)).toBeCloseTo(2.4, 4);
    expect((densityAt(c, -0.5) - densityAt(c, -0.6)) / 0.1).toBeCloseTo(0.7, 1);
  });
  it('more light never gives less density, nor, in reversal, more', () => {
    for (const [toe, shoulder] of [
      [0.15, 0.3],
      [0.05, 1.2],
      [1.2, 0.05],
    ] as const)
      for (let x = -6; x < 4; x += 0.05) {
        expect(densityAt({ ...c, toe, shoulder }, x + 0.05)).toBeGreaterThanOrEqual(densityAt({ ...c, toe, shoulder }, x) - 1e-12);
        expect(densityAt({ ...c, toe, shoulder }, x + 0.05, true)).toBeLessThanOrEqual(densityAt({ ...c, toe, shoulder }, x, true) + 1e-12);
      }
  });
});

describe('speed and gradient', () => {
  /** Reads a wedge as the standards' procedure has it: density over log exposure, between the fields by straight lines. */
  const read = (
    name: string,
  ): { at: (density: number, layer: number) => number; d: (logH: number, layer: number) => number; dmin: number } => {
    const film = openFilm(named(name)),
      { rgb, width } = wedgePicture(film),
      count = width / wedge.field,
      density = (i: number, layer: number): number => -Math.log10(rgb[(20 * width + i * wedge.field + 16) * 3 + layer]! / 65535),
      logH = (i: number): number => wedge.from + i * wedge.step;
    const d = (x: number, layer: number): number => {
      const i = Math.min(count - 2, Math.max(0, Math.floor((x - wedge.from) / wedge.step))),
        t = (x - logH(i)) / wedge.step;
      return density(i, layer) * (1 - t) + density(i + 1, layer) * t;
    };
    return {
      d,
      dmin: Math.min(density(0, 1), density(count - 1, 1)),
      at: (goal, layer) => {
        for (let i = 0; i < count - 1; i++) {
          const [a, b] = [density(i, layer), density(i + 1, layer)];
          if ((a - goal) * (b - goal) <= 0 && a !== b) return logH(i) + (wedge.step * (goal - a)) / (b - a);
        }
        throw new Error(`density ${goal} is nowhere on the wedge`);
      },
    };
  };
  const sixthOfAStop = 2 ** (1 / 6);
  it.each(['Oak gall', 'Walnut', 'Orchil'])('of %s are those read from a wedge by ISO 6: 0.10 over Dmin, S = 0.8/Hm', (name) => {
    const { at, d, dmin } = read(name),
      said = readoutsOf(named(name)),
      speedPoint = at(dmin + 0.1, 0),
      iso = 0.8 / 10 ** speedPoint;
    expect(Math.max(iso / said.iso, said.iso / iso)).toBeLessThan(sixthOfAStop);
    expect(Math.abs((d(speedPoint + 1.3, 0) - d(speedPoint, 0)) / 1.3 / said.averageGradient - 1)).toBeLessThan(0.02);
  });
  it.each(['Alkanet', 'Weld', 'Logwood', 'Cutch'])(
    'of %s are those read from a wedge by ISO 5800: 0.15 over Dmin, S = √2/√(Hg·Hs)',
    (name) => {
      const { at, d, dmin } = read(name),
        said = readoutsOf(named(name)),
        points = [0, 1, 2].map((layer) => at(dmin + 0.15, layer)),
        iso = Math.SQRT2 / 10 ** ((points[1]! + Math.max(...points)) / 2);
      expect(Math.max(iso / said.iso, said.iso / iso)).toBeLessThan(sixthOfAStop);
      expect(Math.abs((d(points[1]! + 1.3, 1) - d(points[1]!, 1)) / 1.3 / said.averageGradient - 1)).toBeLessThan(0.02);
    },
  );
  it('of Woad are those read from a wedge by ISO 2240 (from memory): 0.20 and 2.00 over Dmin, S = 10/√(Ht·Hs)', () => {
    const { at, dmin } = read('Woad'),
      said = readoutsOf(named('Woad')),
      [low, high] = [at(dmin + 0.2, 1), at(dmin + 2, 1)],
      iso = 10 / 10 ** ((low + high) / 2);
    expect(Math.max(iso / said.iso, said.iso / iso)).toBeLessThan(sixthOfAStop);
    expect(Math.abs(1.8 / (low - high) / said.averageGradient - 1)).toBeLessThan(0.02);
  });
});

describe('greys', () => {
  it.each(films.filter((f) => f.sheet.name !== 'Cutch').map((f) => [f.sheet.name, f] as const))(
    'through %s lie on one line from its black to its white, within CIEDE2000 1 from −4 to +4 EV',
    (_, { film, sheet }) => {
      const paper = throughFilm(film, [60, 60, 60]),
        light = (rgb: Vector3): number => apply3(rec2020ToXyz, rgb)[1];
      for (let ev = -4; ev <= 4; ev++) {
        const g = 0.18 * 2 ** ev,
          own = throughFilm(film, [g, g, g]),
          // the base's own colour lies over all of them
          even = paper.map((v) => (v * light(own)) / light(paper)) as unknown as Vector3;
        // a toned silver image is its sheet's say
        if (sheet.kind === 'blackAndWhite' && sheet.print!.tone !== 0) continue;
        expect(ciede2000(lab(own), lab(even))).toBeLessThan(1);
      }
    },
  );
  it('middle grey prints to the grey of the sheet, lighter or darker as asked; pushed a stop and metered a stop less, it comes back', () => {
    for (const { sheet } of films.filter((f) => f.sheet.kind !== 'reversal')) {
      const y = (more: Partial<typeof asDesigned>): number =>
        apply3(rec2020ToXyz, shown(openFilm(sheet, { ...asDesigned, ...more }), greyOf(sheet, more)))[1]!;
      expect(y({})).toBeCloseTo(sheet.grey, 2);
      expect(y({ printEv: 0.5 })).toBeCloseTo(sheet.grey * Math.SQRT2, 1);
      const plain = openFilm(sheet),
        pushed = openFilm(sheet, { ...asDesigned, pushStops: 1, ratedEv: 1 }),
        grey = (film: typeof plain): number => film.densities(sheet.layers.map(() => log10(0.18) + film.logWhite))[0]!;
      expect(grey(pushed)).toBeCloseTo(grey(plain), 3);
      expect(pushed.logWhite).toBeCloseTo(plain.logWhite - Math.log10(2), 9);
    }
  });
});
const greyOf = (sheet: (typeof stocks)[number], more: Partial<typeof asDesigned>): number[] => {
  const film = openFilm(sheet, { ...asDesigned, ...more });
  return sheet.layers.map(() => log10(0.18) + film.logWhite);
};

describe('colours', () => {
  it('of the stocks that call themselves quiet or rich turn under 6° in the mean, over 24 hues at two chromas', () => {
    for (const name of ['Alkanet', 'Weld', 'Woad', 'Logwood']) {
      const { meanDegrees, worstDegrees, skinsDegrees } = hueTurnOf(openFilm(named(name)))!;
      console.log(
        `${name}: hues turn ${meanDegrees.toFixed(1)}° in the mean, ${worstDegrees.toFixed(1)}° at worst; skins ${skinsDegrees.toFixed(1)}°`,
      );
      expect(meanDegrees).toBeLessThan(6);
      expect(skinsDegrees).toBeLessThan(6);
    }
  });
  it('no light is negative and more light never gives less exposure, over all of Rec.2020', () => {
    const film = openFilm(named('Alkanet'));
    for (const rgb of [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
      [1, 1, 0],
      [0, 1, 1],
      [1, 0, 1],
      [0.5, -0.2, 0.1],
    ] as Vector3[]) {
      const one = exposuresOf(film, rgb),
        two = exposuresOf(film, rgb.map((v) => v * 2) as unknown as Vector3);
      expect(Math.min(...one)).toBeGreaterThanOrEqual(0);
      one.forEach((e, i) => expect(two[i]!).toBeCloseTo(2 * e, 9));
    }
  });
  it('orthochromatic film sees no red; a red filter darkens a blue sky more than orange, orange more than yellow (common practice)', () => {
    const luma = (rgb: Vector3): number => apply3(rec2020ToXyz, rgb)[1]!,
      sky = oklabToRec2020([0.66, -0.03, -0.09]),
      red = oklabToRec2020([0.55, 0.16, 0.08]),
      grey = oklabToRec2020([0.55, 0, 0]);
    const through = (name: string, rgb: Vector3, filter: LensFilter = 'none'): number =>
      luma(throughFilm(openFilm(named(name), { ...asDesigned, filter }), rgb));
    expect(through('Orchil', red) / through('Orchil', grey)).toBeLessThan(0.5);
    expect(through('Oak gall', red) / through('Oak gall', grey)).toBeGreaterThan(0.7);
    const skies = (['none', 'yellow', 'orange', 'red'] as const).map((f) => through('Oak gall', sky, f));
    for (let i = 1; i < 4; i++) expect(skies[i]!).toBeLessThan(skies[i - 1]! - 0.01);
  });
});
