import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { patchReflectances } from '@dyepot/camera/src/chart.ts';
import { expose, sensitivity } from '@dyepot/camera/src/sensor.ts';
import { dot, lightOf } from '@dyepot/camera/src/spectrum.ts';
import { writeDng } from '@dyepot/camera/src/dng.ts';
import { previewOf } from '@dyepot/camera/src/preview.ts';
import { autoBalance, pickNeutral } from '@dyepot/core/src/groundwork/balance.ts';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { halvePlate, makePlate, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { render } from '@dyepot/core/src/render/render.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { kernelsFile, root } from '../src/places.ts';

const kernels = await loadKernels(readFileSync(kernelsFile)),
  folder = mkdtempSync(join(tmpdir(), 'dyepot-balance-')),
  width = 384,
  height = 256;

/** The 24 patches and a grey ground photographed under one light by the simulated camera, believing another. */
async function chartUnder(kelvin: number): Promise<{ path: string; plate: Plate; facts: Awaited<ReturnType<typeof decodeRaw>>['facts'] }> {
  const light = lightOf(kelvin),
    patches = patchReflectances(),
    camera = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const inPatch = x % 64 > 12 && x % 64 < 52 && y % 64 > 12 && y % 64 < 52,
        r = patches[inPatch ? (y >> 6) * 6 + (x >> 6) : 24]!;
      for (let c = 0; c < 3; c++) {
        let v = 0;
        for (let b = 0; b < 16; b++) v += sensitivity[c]![b]! * r[b]! * light[b]!;
        camera[(y * width + x) * 3 + c] = (v * 0.5) / dot(sensitivity[1]!, light);
      }
    }
  const e = { ev: 0, iso: 100, seed: 3, bits: 14 as const, black: 512, pattern: 'RGGB' as const, believedKelvin: kelvin * 1.15 },
    shot = expose(camera, width, height, e),
    path = join(folder, `chart-${kelvin}.dng`);
  writeFileSync(
    path,
    writeDng(shot, e, {
      compression: 'lossless',
      layout: 'tiles',
      preview: await previewOf(shot, 0),
      baselineExposureEv: 0,
      exif: { iso: 100, shutterSeconds: 0.01, aperture: 4, focalMm: 40, time: '2026:10:12 09:00:00' },
    }),
  );
  const { facts, raw } = await decodeRaw(path);
  return { path, facts, plate: makePlate(kernels, raw, facts) };
}

describe.each([2500, 2850, 3400, 4200, 5000, 5500, 6500, 7500])('under %i K (Planck below 4000 K, CIE daylight above)', (kelvin) => {
  it('the picker and auto both report the light within 150 K, though the camera believed another', async () => {
    const { plate, facts } = await chartUnder(kelvin),
      picked = pickNeutral(plate, facts.profile, { x: 3 / width, y: 0.5 }, 5);
    if ('message' in picked) throw new Error(picked.message);
    let small = plate;
    for (let i = 0; i < 2; i++) small = halvePlate(kernels, small);
    const auto = autoBalance(small, facts.profile)!;
    console.log(`${kelvin} K: picked ${Math.round(picked.kelvin)}, auto ${Math.round(auto.kelvin)}`);
    expect(Math.abs(picked.kelvin - kelvin)).toBeLessThan(150);
    expect(Math.abs(auto.kelvin - kelvin)).toBeLessThan(150);
  });
  it('after picking, the chart’s greys are within 1 of neutral in a*, b*', async () => {
    const { plate, facts } = await chartUnder(kelvin),
      picked = pickNeutral(plate, facts.profile, { x: 3 / width, y: 0.5 }, 5);
    if ('message' in picked) throw new Error(picked.message);
    const p = plan(
        null,
        {
          profile: facts.profile,
          seed: 1,
          groundwork: { ...plainGroundwork, balance: { kind: 'own', kelvin: picked.kelvin, tintDuv: picked.tintDuv } },
        },
        'srgb',
      ),
      rgba = render(kernels, p, plate, { x: 0, y: 0 }, 'rgba8');
    for (let i = 18; i < 24; i++) {
      const sum = [0, 0, 0];
      for (let y = 20; y < 44; y++)
        for (let x = 20; x < 44; x++)
          for (let c = 0; c < 3; c++) {
            const v = rgba[((i - 18) * 64 + x + (192 + y) * width) * 4 + c]! / 255;
            sum[c]! += (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4) / 576;
          }
      const [X, Y, Z] = [
        0.4124 * sum[0]! + 0.3576 * sum[1]! + 0.1805 * sum[2]!,
        0.2126 * sum[0]! + 0.7152 * sum[1]! + 0.0722 * sum[2]!,
        0.0193 * sum[0]! + 0.1192 * sum[1]! + 0.9505 * sum[2]!,
      ].map((v, k) => Math.cbrt(v / [0.95047, 1, 1.08883][k]!)) as [number, number, number];
      expect(Math.abs(500 * (X - Y))).toBeLessThan(1);
      expect(Math.abs(200 * (Y - Z))).toBeLessThan(1);
    }
  });
});

describe('dyepot balance', () => {
  it('reports kelvin, tint and multipliers of a spot, and refuses what it cannot judge', async () => {
    const { path } = await chartUnder(5000),
      cli = join(root, 'packages/cli/bin/dyepot.mjs');
    const said = JSON.parse(
      execFileSync(process.execPath, [cli, 'balance', path, '--at', '0.0078,0.5', '--size', '5', '--json']).toString(),
    ) as { kelvin: number; multipliers: number[] };
    expect(Math.abs(said.kelvin - 5000)).toBeLessThan(150);
    expect(said.multipliers[1]).toBe(1);
    expect(() => execFileSync(process.execPath, [cli, 'balance', path, '--at', '3,0.5'], { stdio: 'pipe' })).toThrow(
      /--at takes two fractions/,
    );
  });
});
