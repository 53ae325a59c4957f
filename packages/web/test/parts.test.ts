import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import {
  cutPlate,
  drawPlate,
  emptyLook,
  halvePlate,
  knowsNothing,
  loadKernels,
  maskOf,
  newStep,
  common,
  originOf,
  plainGroundwork,
  render,
  shownOf,
  type Area,
  type Groundwork,
  type Look,
  type Plate,
} from '@dyepot/core';
import { kernelsFile } from '@dyepot/server/src/places.ts';
import { jobsOf } from '../src/view/frameJobs.ts';
import { partJobs } from '../src/view/partJobs.ts';
import type { Job } from '../src/view/renderWorker.ts';
import { trialFrame } from './trialFrame.ts';

const kernels = await loadKernels(readFileSync(kernelsFile)),
  [width, height] = [640, 480],
  plate: Plate = {
    width,
    height,
    data: Uint16Array.from({ length: 3 * width * height }, (_, i) => 9000 + ((i * 7919) % 9000) + 20 * (i % width)),
  };
const frame = trialFrame(width, height);
const levels = [plate];
for (let i = 0; i < 2; i++) levels.push(halvePlate(kernels, levels[i]!));
/** Light under a painted place, and sharpening, which reads neighbours. */
const look: Look = {
  ...emptyLook('t'),
  scene: [
    {
      ...newStep('exposure', 'e'),
      params: { ev: 1.5 },
      mask: maskOf({
        ...common,
        kind: 'brush',
        strokes: [{ erase: false, size: 0.05, feather: 0.5, flow: 1, points: [4000, 3000, 100, 9000, 8000, 100] }],
      }),
    },
  ],
  print: [{ ...newStep('crispness', 'c'), params: { amount: 80, size: 0.004 } }],
};
const grounds: [string, number, Groundwork | null][] = [
  ['no groundwork', 0, null],
  ['no groundwork', 2, null],
  ...[0, 1, 2].map((level): [string, number, Groundwork] => [
    'another geometry',
    level,
    { ...plainGroundwork, geometry: { ...plainGroundwork.geometry, straighten: 3 } },
  ]),
  [
    'less noise and sharper',
    0,
    { ...plainGroundwork, detail: { ...plainGroundwork.detail, sharpness: { ...plainGroundwork.detail.sharpness, gain: 1 } } },
  ],
];
/** What a worker makes of a job and the plate its slot holds. */
function drawn(job: Job, held: Area): Uint8Array {
  const piece = cutPlate(levels[job.drawing.level]!, held.x, held.y, held.width, held.height),
    own = drawPlate(kernels, job.drawing, piece);
  return shownOf(job.drawing, render(kernels, job.plan, own, originOf(job.drawing, knowsNothing), 'rgba8'));
}

it.each(grounds)('a part painted by itself is what lies there in the whole picture, under %s, level %i', (_, level, ground) => {
  const piece = { level, x: 24 >> level, y: 16 >> level, width: 560 >> level, height: 420 >> level },
    wish = { frame, piece, readout: null, limit: null, look, ground },
    { jobs } = jobsOf(wish, wish, 3),
    whole = jobs.map((job) => drawn(job, job.drawing.source)),
    [first] = jobs.map((j) => j.drawing.shown.height),
    parts = partJobs(wish, 3, { x: 0.3, y: 0.25, width: 0.3, height: 0.4 });
  expect(parts.length).toBeGreaterThan(1);
  let [differing, pixels] = [0, 0];
  for (const { band, at, job } of parts) {
    const own = drawn(job, jobs[band]!.drawing.source);
    expect(own.length).toBe(at.width * at.height * 4);
    for (let y = 0; y < at.height; y++)
      for (let x = 0; x < at.width * 4; x++, pixels++)
        if (own[y * at.width * 4 + x] !== whole[band]![(at.y + y - band * first!) * piece.width * 4 + at.x * 4 + x]) differing++;
  }
  expect(pixels).toBeGreaterThan((200 * 100 * 4) >> (2 * level));
  expect(differing).toBe(0);
});
it('only the bands that a part touches are asked for it', () => {
  const piece = { level: 0, x: 0, y: 0, width, height },
    wish = { frame, piece, readout: null, limit: null, look: emptyLook('t'), ground: null };
  expect(partJobs(wish, 6, { x: 0.5, y: 0.4, width: 0.02, height: 0.02 }).map((p) => p.band)).toEqual([2]);
  expect(partJobs(wish, 6, { x: 1.2, y: 0.4, width: 0.02, height: 0.02 })).toEqual([]);
});
it('bands know how many pixels are read of all of them: of the whole picture, or of what lies within a limit', () => {
  const piece = { level: 0, x: 0, y: 0, width, height },
    treatment = { look: emptyLook('t'), ground: null },
    asked = (limit: Area | null): (Job['readout'] & object)[] =>
      jobsOf({ frame, piece, readout: 'waveform', limit }, treatment, 6).jobs.map((j) => j.readout!);
  expect(asked(null).map((r) => r.of)).toEqual(Array(6).fill(width * height));
  // a quarter of the picture, in the third and fourth band of six
  const limited = asked({ x: 0.25, y: 1 / 3, width: 0.75, height: 1 / 3 });
  expect(limited.map((r) => r.of)).toEqual(Array(6).fill((width * height) / 4));
  expect(limited.map((r) => r.part!.height)).toEqual([0, 0, height / 6, height / 6, 0, 0]);
});
