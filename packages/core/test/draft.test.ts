import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { kernelsFile } from '@dyepot/server/src/places.ts';
import type { CameraProfile } from '../src/colour/cameraProfile.ts';
import { loadKernels, type Kernels } from '../src/kernels/kernels.ts';
import { emptyLook, newStep, type Look } from '../src/look/look.ts';
import { plan } from '../src/plan/plan.ts';
import type { Plate } from '../src/plate/plate.ts';
import { commonPasses, draftable, draftPlaces, draftTable, lightPlace, mostLight, renderDraft, standsFor } from '../src/render/draft.ts';
import { developPlanes, render } from '../src/render/render.ts';

const profile: CameraProfile = {
  colour: [{ kelvin: 6504, matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1], forward: null, calibration: [1, 0, 0, 0, 1, 0, 0, 0, 1] }],
  analogBalance: [1, 1, 1],
  asShotNeutral: [0.95, 1, 1.08],
  baselineExposureEv: 0,
};
/** Every mixture of three channels over nine stops, up to the clip; `pale`: with so much of their mean, as things in photographs are. */
const side = 24,
  plateOf = (pale: number): { width: number; height: number; data: Uint16Array } => {
    const count = side ** 3,
      data = new Uint16Array(count * 3),
      light = (step: number): number => 2 ** (-9 + (9.1 * step) / (side - 1));
    for (let i = 0; i < count; i++) {
      const c = [i % side, Math.floor(i / side) % side, Math.floor(i / side / side)].map(light),
        mean = (c[0]! + c[1]! + c[2]!) / 3;
      for (let k = 0; k < 3; k++) data[k * count + i] = Math.min(65535, Math.round(65535 * (pale * mean + (1 - pale) * c[k]!)));
    }
    return { width: side * side, height: side, data };
  };
const look: Look = {
  ...emptyLook('t'),
  scene: [
    { ...newStep('warmth', 'w'), params: { shiftMired: 20 } },
    { ...newStep('contrast', 'c'), params: { contrast: 1.2 } },
  ],
  print: [
    { ...newStep('saturation', 's'), params: { change: 15 } },
    { ...newStep('cdl', 'd'), params: { ...newStep('cdl', 'd').params, slopeRed: 1.05, saturation: 1.1 } },
  ],
};
let kernels: Kernels;
beforeAll(async () => {
  kernels = await loadKernels(readFileSync(kernelsFile));
});
const planned = plan(look, { profile, seed: 7 }, 'srgb');

describe('a draft by table', () => {
  it.each([
    ['things in photographs', 0.5, 1, 10],
    ['all of Rec.2020', 0, 1.6, 14],
  ] as const)('is near what the passes give, wherever the table begins, up to the clip: %s', (_, pale, mean, most) => {
    const plate = plateOf(pale);
    const exact = render(kernels, planned, plate, { x: 0, y: 0 }, 'rgba8'),
      pixels = plate.width * plate.height,
      seen = new Set<number>();
    for (let common = 1; common <= planned.passes.length; common++) {
      const count = lightPlace(planned.passes, common);
      if (count === 0 || seen.has(count)) continue;
      seen.add(count);
      expect(draftable(planned, count)).toBe(true);
      const planes = developPlanes(kernels, planned, plate, count),
        drawn = renderDraft(
          kernels,
          draftTable(planned, count, mostLight(planes)),
          draftPlaces(kernels, planes, pixels, mostLight(planes)),
        );
      let sum = 0;
      const off: number[] = [];
      for (let i = 0; i < drawn.length; i++) {
        const d = Math.abs(drawn[i]! - exact[i]!);
        sum += d;
        off.push(d);
      }
      off.sort((a, b) => a - b);
      console.log(
        `table after ${count} passes: ${(sum / (pixels * 3)).toFixed(2)} codes in the mean, ${off[Math.floor(off.length * 0.99)]} at 99 %`,
      );
      expect(sum / (pixels * 3)).toBeLessThan(mean);
      expect(off[Math.floor(off.length * 0.99)]).toBeLessThanOrEqual(most);
    }
    expect(seen.size).toBeGreaterThanOrEqual(3);
  });
  it('gives paper white and black as the passes do', () => {
    const two = { width: 8, height: 1, data: Uint16Array.from({ length: 24 }, (_, i) => (i % 8 < 4 ? 0 : 65535)) },
      count = lightPlace(planned.passes, 1),
      planes = developPlanes(kernels, planned, two, count),
      drawn = renderDraft(kernels, draftTable(planned, count, mostLight(planes)), draftPlaces(kernels, planes, 8, mostLight(planes))),
      exact = render(kernels, planned, two, { x: 0, y: 0 }, 'rgba8');
    for (let i = 0; i < 32; i++) expect(Math.abs(drawn[i]! - exact[i]!)).toBeLessThanOrEqual(2);
  });
  it('computes only the nodes that pictures ask for, each once, and a picture is what it is by itself whatever was asked for before', () => {
    const one = { width: 8, height: 1, data: new Uint16Array(24).fill(9000) },
      all = plateOf(0.5),
      count = lightPlace(planned.passes, 1),
      light = (plate: Plate): Float32Array => developPlanes(kernels, planned, plate, count),
      most = mostLight(light(all)),
      placesOf = (plate: Plate): ReturnType<typeof draftPlaces> => draftPlaces(kernels, light(plate), plate.width * plate.height, most),
      filled = (table: ReturnType<typeof draftTable>): number => table.filled.reduce((a, b) => a + b, 0);
    const table = draftTable(planned, count, most);
    expect(filled(table)).toBe(0);
    const alone = renderDraft(kernels, table, placesOf(one));
    // the corners of the cell it lies in
    expect(filled(table)).toBe(8);
    renderDraft(kernels, table, placesOf(all));
    const later = filled(table);
    expect(later).toBeGreaterThan(500);
    expect(Buffer.compare(Buffer.from(renderDraft(kernels, table, placesOf(one))), Buffer.from(alone))).toBe(0);
    expect(filled(table)).toBe(later);
    // a node's dither is by where it is computed, and far under a code
    const fresh = renderDraft(kernels, draftTable(planned, count, most), placesOf(all)),
      grown = renderDraft(kernels, table, placesOf(all));
    expect(fresh.every((v, i) => Math.abs(v - grown[i]!) <= 1)).toBe(true);
  });
  it('begins only where the planes are light: not in OKLab, not behind a logarithm, not in a bracket', () => {
    const masked = plan({ ...look, print: [{ ...look.print[0]!, blend: 'luminance' }] }, { profile, seed: 7 }, 'srgb');
    const kinds = masked.passes.map((p) => p.kernel),
      hold = kinds.indexOf('hold');
    expect(hold).toBeGreaterThan(0);
    for (let common = hold + 1; common < kinds.indexOf('join') + 1; common++) expect(lightPlace(masked.passes, common)).toBe(hold);
    expect(lightPlace(masked.passes, masked.passes.length)).toBe(masked.passes.length);
    const lab = planned.passes.findIndex((p) => p.kernel === 'toLab');
    expect(lightPlace(planned.passes, lab + 1)).toBe(lab);
  });
  it('stands for a plan only as long as nothing after its beginning has changed', () => {
    const other = plan({ ...look, print: [look.print[0]!, { ...look.print[1]!, strength: 0.5 }] }, { profile, seed: 7 }, 'srgb'),
      common = commonPasses(planned, other),
      count = lightPlace(planned.passes, common),
      table = draftTable(planned, count, 1.25);
    expect([standsFor(table, planned, count), standsFor(table, other, count)]).toEqual([true, false]);
    expect(commonPasses(planned, plan(look, { profile: { ...profile, asShotNeutral: [0.5, 1, 1] }, seed: 7 }, 'srgb'))).toBe(-1);
  });
  it('is not made where something after it reads neighbours or the whole picture', () => {
    for (const step of [
      { ...newStep('crispness', 'k'), params: { amount: 50 } },
      { ...newStep('localContrast', 'l'), params: { fine: 20 } },
    ]) {
      const lane = step.kind === 'crispness' ? 'print' : 'scene',
        p = plan({ ...look, [lane]: [...look[lane], step] }, { profile, seed: 7 }, 'srgb'),
        first = p.passes.findIndex((x) => x.kernel === (step.kind as string));
      if (first < 0) throw new Error(`${step.kind} has no pass of its own: ${p.passes.map((x) => x.kernel).join()}`);
      expect(draftable(p, first)).toBe(false);
      expect(draftable(p, p.passes.length)).toBe(true);
    }
  });
});
