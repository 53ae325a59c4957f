import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { xyzToLab } from '../../core/src/colour/difference.ts';
import { patchLab } from '@dyepot/core/src/colour/chartPatches.ts';
import { patchReflectances } from '../src/chart.ts';
import { renderLight } from '../src/render-light.ts';
import { buildScene } from '../src/scenes/index.ts';
import { cameraLight, expose, type Exposure } from '../src/sensor.ts';
import { dot, lightOf, observer, paints } from '../src/spectrum.ts';
import { take } from '../src/take.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-camera-'));
const need = (tool: string): string => {
  if (!existsSync(`/usr/bin/${tool}`)) throw new Error(`${tool} is missing: apt-get install libraw-bin libimage-exiftool-perl`);
  return `/usr/bin/${tool}`;
};
const light = renderLight('vat-3', 96, 64, 2, null, 5);
const base: Exposure = { ev: 0, iso: 200, seed: 7, bits: 14, black: 512, pattern: 'RGGB', believedKelvin: 2850 };

describe('light', () => {
  it('is the same for the same seed', () => {
    const again = renderLight('vat-3', 96, 64, 2, null, 5);
    expect(Buffer.from(again.bands.buffer).equals(Buffer.from(light.bands.buffer))).toBe(true);
  });
  it('paints add to one at every wavelength, so a white wall reflects all', () => {
    for (let b = 0; b < 16; b++) expect(paints[0][b]! + paints[1][b]! + paints[2][b]!).toBeCloseTo(1, 12);
  });
  it('every scene can be built and knows where its chart stands', () => {
    expect(() => buildScene('attic-0', null, 1)).toThrow(/no scene is called attic-0/);
    for (const [x, y] of [...light.chart!.board, ...light.chart!.card]) {
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(1);
      expect(y).toBeGreaterThan(0);
      expect(y).toBeLessThan(1);
    }
  });
});

describe('chart', () => {
  it('patch reflectances have the published L*a*b* under D50', () => {
    const d50 = lightOf(5003),
      white = observer.map((o) => dot(o, d50)) as [number, number, number];
    patchReflectances()
      .slice(0, 24)
      .forEach((r, i) => {
        const lit = r.map((v, b) => v * d50[b]!),
          lab = xyzToLab(observer.map((o) => dot(o, lit)) as [number, number, number], white);
        patchLab[i]!.forEach((v, k) => expect(lab[k]!).toBeCloseTo(v, 3));
        expect(r.every((v) => v > 0 && v < 1)).toBe(true);
      });
  });
});

describe('sensor', () => {
  it('noise variance is photons plus read noise (Poisson; the photon transfer curve)', () => {
    const n = 200,
      camera = new Float32Array(n * n * 3).fill(0.2),
      e = { ...base, iso: 800, black: 512 },
      shot = expose(camera, n, n, e),
      white = 16383;
    const values = Array.from(shot.mosaic, (v) => (v - 512) / (white - 512)),
      mean = values.reduce((a, b) => a + b, 0) / values.length,
      variance = values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length;
    const well = 7500,
      read = 2.2 + 300 / 800;
    expect(mean).toBeCloseTo(0.2, 3);
    expect(variance / ((0.2 * well + read * read) / (well * well))).toBeCloseTo(1, 1);
  });
  it('one EV more is twice the light, and light beyond the well clips at white', () => {
    const camera = new Float32Array(64 * 64 * 3).fill(0.1),
      mean = (ev: number): number => expose(camera, 64, 64, { ...base, iso: 100, ev }).mosaic.reduce((a, v) => a + v - 512, 0);
    expect(mean(1) / mean(0)).toBeCloseTo(2, 1);
    expect(expose(new Float32Array(64 * 64 * 3).fill(3), 64, 64, base).mosaic.every((v) => v === 16383)).toBe(true);
  });
});

describe('DNG files', () => {
  const cases = (['RGGB', 'BGGR', 'GRBG', 'GBRG'] as const).flatMap((pattern) =>
    (['none', 'lossless'] as const).flatMap((compression) =>
      (['strips', 'tiles'] as const).map((layout) => [pattern, compression, layout, pattern === 'BGGR' ? 12 : 14] as const),
    ),
  );
  it.each(cases)(
    '%s, %s, %s, %i bits: exiftool and LibRaw read it without complaint, and the counts are ours',
    async (pattern, compression, layout, bits) => {
      const exposure = { ...base, pattern, bits, black: bits === 12 ? 128 : 512 },
        { file } = await take(light, { ...exposure, width: 320, height: 288, compression, layout });
      const path = join(folder, `${pattern}-${compression}-${layout}.dng`);
      writeFileSync(path, file);
      const valid = execFileSync(need('exiftool'), ['-validate', '-warning', '-a', '-iso', '-CFAPattern', path]).toString();
      expect(valid).toMatch(/Validate\s+: OK/);
      expect(execFileSync(need('raw-identify'), [path]).toString()).toContain('Hollin Field One');
      // -D -4: the undemosaiced counts themselves, in a PGM
      execFileSync(
        need('dcraw_emu'),
        ['-disinterp', '-4', '-r', '1', '1', '1', '1', '-k', '0', '-S', '65535', '-o', '0', '-W', '-g', '1', '1', path],
        { stdio: 'pipe' },
      );
      const ours = expose(cameraLight(light, 320, 288).camera, 320, 288, exposure).mosaic,
        ppm = readFileSync(`${path}.ppm`),
        start = ppm.length - 320 * 288 * 6;
      let worst = 0;
      for (let i = 0; i < 320 * 288; i++) {
        const counts = [0, 1, 2].map((c) => ppm.readUInt16BE(start + i * 6 + c * 2));
        worst = Math.max(worst, Math.abs(Math.max(...counts) - ours[i]!));
      }
      expect(worst).toBeLessThanOrEqual(1);
    },
  );
});

describe('the demo shoot', () => {
  const frames = fileURLToPath(new URL('../frames', import.meta.url)),
    names = readdirSync(frames).filter((f) => f.endsWith('.dng'));
  it('has at least twelve frames in six lights, each under 4 MB, with chart and card in one of each of the workshop’s four', () => {
    const truths = names.map(
      (n) =>
        JSON.parse(readFileSync(join(frames, n.replace('.dng', '.truth.json')), 'utf8')) as { light: string; chart: unknown; ev: number },
    );
    expect(names.length).toBeGreaterThanOrEqual(12);
    expect(new Set(truths.map((t) => t.light)).size).toBe(6);
    expect(new Set(truths.filter((t) => t.chart).map((t) => t.light)).size).toBe(4);
    for (const n of names) expect(statSync(join(frames, n)).size).toBeLessThan(4e6);
  });
  it('exiftool finds nothing to complain of in any frame', () => {
    const said = execFileSync(need('exiftool'), ['-q', '-validate', '-warning', '-error', '-T', '-ext', 'dng', frames])
      .toString()
      .trim()
      .split('\n');
    for (const line of said) expect(line).toMatch(/^OK/);
    expect(
      execFileSync(
        need('raw-identify'),
        names.map((n) => join(frames, n)),
      )
        .toString()
        .match(/Hollin Field One/g),
    ).toHaveLength(names.length);
  });
});
