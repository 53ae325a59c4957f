import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { identity3 } from '@dyepot/core/src/colour/matrix.ts';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { packedLength, tableSize, unpackTable } from '@dyepot/core/src/stock/film/table.ts';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';
import { provideFilms } from '@dyepot/server/src/filmEngine.ts';
import { filmsFolder, keepFilms, keptFilms } from '@dyepot/server/src/work/keptFilms.ts';

let data: string;
beforeEach(() => {
  data = mkdtempSync(join(tmpdir(), 'dyepot-films-'));
  vi.stubEnv('DYEPOT_DATA', data);
});
afterEach(() => {
  provideFilms(null);
  vi.unstubAllEnvs();
  rmSync(data, { recursive: true, force: true });
});

/** The numbers of the cube that a stock comes to, with the sheet a copy each time, as workers have them. */
function cubeOf(pushed: number): number[] {
  const film = newStep('film', 'f'),
    look: Look = { ...emptyLook('worn'), stock: { ...film, params: { ...film.params, sheet: structuredClone(stocks[0]!), push: pushed } } },
    profile = {
      colour: [{ kelvin: 6504, matrix: identity3, forward: null, calibration: identity3 }],
      analogBalance: [1, 1, 1] as const,
      asShotNeutral: [1, 1, 1] as const,
      baselineExposureEv: 0,
    },
    made = plan(look, { profile, seed: 1, groundwork: null, picture: { width: 60, height: 40 } }, 'srgb');
  return [...made.passes.find((p) => p.kernel === 'lut3d')!.parameters];
}
/** Forgets the films that are open in this thread. */
const forget = (): void => {
  for (let i = 0; i < 13; i++) cubeOf(-0.1 * (i + 1));
};
const files = (): string[] => readdirSync(filmsFolder()).filter((f) => f.endsWith('.table'));

it('a film’s table is kept, taken again number for number, and made again where it was damaged', { timeout: 120_000 }, async () => {
  keepFilms();
  provideFilms(keptFilms);
  const first = cubeOf(0.5);
  await expect.poll(files).toHaveLength(1);
  const path = join(filmsFolder(), files()[0]!),
    long = new Date(Date.now() - 5 * 86_400_000);
  utimesSync(path, long, long);
  provideFilms(null);
  forget();
  // a stand-in tells that it is read and not computed
  const seen: string[] = [];
  provideFilms({
    find: (of) => {
      seen.push(of);
      return keptFilms.find(of);
    },
    keep: () => expect.unreachable('it was there'),
  });
  expect(cubeOf(0.5)).toEqual(first);
  expect(seen).toHaveLength(1);
  // it counts as used
  expect(Date.now() - statSync(path).mtimeMs).toBeLessThan(60_000);

  const whole = readFileSync(path),
    bent = Buffer.from(whole);
  bent[1000]! ^= 1;
  for (const damaged of [bent, whole.subarray(0, 5000), Buffer.alloc(0)]) {
    writeFileSync(path, damaged);
    expect(keptFilms.find(seen[0]!)).toBeNull();
  }
  writeFileSync(path, whole);
  const table = unpackTable(keptFilms.find(seen[0]!)!, 'again');
  expect([table.cube.size, table.cube.data.length]).toEqual([tableSize, 3 * tableSize ** 3]);
});

it('nothing is kept, and nothing is said, where there is no folder for it or no room', () => {
  provideFilms(keptFilms);
  cubeOf(0.7);
  expect(readdirSync(data)).toEqual([]);
  writeFileSync(filmsFolder(), 'a file in its place');
  keepFilms();
  expect(cubeOf(0.8).every(Number.isFinite)).toBe(true);
  vi.stubEnv('DYEPOT_DATA', join(data, 'not there'));
  keepFilms();
  expect(readdirSync(data)).toEqual(['films']);
  mkdirSync(join(data, 'not there'));
  keepFilms();
  expect(readdirSync(join(data, 'not there'))).toEqual(['films']);
});

it('no more are kept than have room: those used longest ago go', { timeout: 60_000 }, async () => {
  keepFilms();
  for (let i = 0; i < 70; i++) {
    keptFilms.keep(`film ${i}`, new Float32Array(packedLength).fill(i));
    await expect.poll(() => keptFilms.find(`film ${i}`)?.[0]).toBe(i);
    const [old] = files();
    // the first stays the oldest, although it was read
    if (i === 0) utimesSync(join(filmsFolder(), old!), 1, 1);
  }
  await expect.poll(files).toHaveLength(64);
  expect(keptFilms.find('film 0')).toBeNull();
  expect(keptFilms.find('film 69')?.[0]).toBe(69);
});
