import { identity3, invert3 } from '@dyepot/core/src/colour/matrix.ts';
import type { Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { emptyLook, newStep } from '@dyepot/core/src/look/look.ts';
import { passesOf, plan } from '@dyepot/core/src/plan/plan.ts';
import { plateOffset, plateScale, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { mapsFor } from '@dyepot/core/src/render/maps.ts';
import type { Pass } from '@dyepot/core/src/render/pass.ts';
import { developPlanes } from '@dyepot/core/src/render/render.ts';
import type { StoredPicture } from '@dyepot/core/src/formats/storedPicture.ts';
import { openFilm } from '@dyepot/core/src/stock/film/film.ts';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';
import { filmTable } from '@dyepot/core/src/stock/film/table.ts';

const width = 2000,
  height = 1000,
  rounds = 4;
const plateOf = (w: number, h: number): Plate => ({
  width: w,
  height: h,
  data: Uint16Array.from({ length: w * h * 3 }, (_, i) => Math.round((0.05 + ((i * 7919) % 997) / 1400) * plateScale + plateOffset)),
});
const profile = {
    colour: [
      {
        kelvin: 6504,
        matrix: invert3([0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505]),
        forward: null,
        calibration: identity3,
      },
    ],
    analogBalance: [1, 1, 1] as const,
    asShotNeutral: [1, 1, 1] as const,
    baselineExposureEv: 0,
  },
  picture: StoredPicture = {
    format: 'dyepot-picture',
    version: 1,
    name: '',
    hash: '',
    width: 64,
    height: 48,
    data: 'gIA8'.repeat(64 * 48),
  };
/** What each of them is set to, at a 24-megapixel frame's own pixels. */
const finishes: [kind: string, params: object][] = [
  ['grain', { rms: 12 }],
  ['grain', { rms: 12, colour: 50 }],
  ['halation', { share: 20 }],
  ['glow', { share: 30 }],
  ['vignette', { edgeEv: -1 }],
  ['leak', { light: 50 }],
  ['border', { width: 3, torn: 50 }],
  ['overprint', { picture }],
  ['wash', { opacity: 50 }],
  ['fade', { lift: 8 }],
  ['toning', { amount: 100 }],
  ['apart', { warmWarmer: 40 }],
  ['film', { sheet: stocks[0]! }],
];

/** Nanoseconds a pixel of each finishing step, and milliseconds of a stock's table. */
export function finishTimes(kernels: Kernels): { list: { name: string; nanoseconds: number }[]; tableMs: number } {
  const plate = plateOf(width, height),
    small = plateOf(375, 250),
    base = plan(emptyLook('bench'), { profile, seed: 3 }, 'srgb'),
    about = { edge: 6000, whole: { width: 6000, height: 4000 } };
  const least = (passes: readonly Pass[]): number => {
    const p = { ...base, passes },
      maps = mapsFor(kernels, p, small, about);
    let best = Infinity;
    for (let i = 0; i < rounds; i++) {
      const start = performance.now();
      developPlanes(kernels, p, plate, passes.length, { x: 0, y: 0, ...about, maps });
      best = Math.min(best, performance.now() - start);
    }
    return best;
  };
  const bare = least([]),
    list = finishes.map(([kind, params]) => {
      const step = newStep(kind, 'x'),
        colour = (params as { colour?: number }).colour;
      return {
        name: colour ? `${kind}, in colour` : kind,
        nanoseconds: ((least(passesOf({ ...step, params: { ...step.params, ...params } }, 1)) - bare) * 1e6) / (width * height),
      };
    });
  let tableMs = Infinity;
  for (let i = 0; i < rounds * 2; i++) {
    const film = openFilm(stocks[0]!),
      start = performance.now();
    filmTable(kernels, film);
    tableMs = Math.min(tableMs, performance.now() - start);
  }
  return { list, tableMs };
}
