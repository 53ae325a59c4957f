import { storeTable, table3d, type Table } from '@dyepot/core/src/colour/table.ts';
import { newStep, type Look } from '@dyepot/core/src/look/look.ts';
import type { Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { encodeParameters } from '@dyepot/core/src/render/output.ts';
import { isMapPass, isPointwise, type Pass } from '@dyepot/core/src/render/pass.ts';
import { passesOf } from '@dyepot/core/src/plan/plan.ts';

type Parameters = Look['stock']['params'];
const pixels = 8192,
  rounds = 200,
  width = 1024,
  curve = [
    [0, 0.01],
    [1, 1],
  ] as const,
  cube = storeTable(table3d('t', 33, (c) => c)),
  ramp: Table = {
    kind: '1d',
    title: '',
    size: 1024,
    domainMin: [0, 0, 0],
    domainMax: [1, 1, 1],
    data: Float32Array.from({ length: 3072 }, (_, i) => (i % 1024) / 1023),
  };
/** A step for every pass there is; each kernel is measured the first time it comes. */
const steps: [kind: string, params: Parameters][] = [
  ['exposure', { shiftEv: 1 }],
  ['neutral', { contrast: 1.01 }],
  ['curve', { points: curve }],
  ['curve', { red: curve }],
  ['curve', { points: curve, on: 'luminance' }],
  ['curve', { points: curve, on: 'lightness' }],
  ['saturation', { change: 10 }],
  ['vibrance', { change: 10 }],
  ['grade', { lightsChroma: 0.02 }],
  ['hueBands', { hue: [[110, -10, 60]], lightness: [[250, -0.1, 60]] }],
  ['colourRange', { evenHue: 30, hueWidth: 90, chromaWidth: 0.3, lightnessWidth: 1 }],
  ['mono', { amount: 100 }],
  ['contrast', { contrast: 10, on: 'channels' }],
  ['mixer', { redOffset: 1 }],
  ['localContrast', { fine: 20, medium: 10, coarse: -10 }],
  ['haze', { amount: 40 }],
  ['cdl', { slopeRed: 1.1, saturation: 0.9 }],
  ['tableStock', { table: cube }],
  ['tablePrint', { table: cube }],
  ['tablePrint', { encoding: 'linear', table: storeTable(ramp) }],
];

/** Colours all over the Rec.2020 cube, the same each time (a linear congruential sequence: Numerical Recipes). */
function scattered(count: number): Float32Array {
  let seed = 1;
  return Float32Array.from({ length: count }, () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32);
}

/** Nanoseconds a pixel of each kernel, in each pass on planes as they come to it; and of a copy of the planes. */
export function kernelTimes(kernels: Kernels, photograph: Float32Array): { list: { name: string; nanoseconds: number }[]; copy: number } {
  const at = kernels.reserve(pixels * 24 + 900000),
    planes = [at, at + pixels * 4, at + pixels * 8] as const,
    rows = at + pixels * 12,
    stride = 64 * 4 + 32,
    numbers = rows + 6 * stride,
    out = numbers + 700000,
    plane = kernels.f32().subarray(at / 4, at / 4 + pixels * 3),
    f32 = kernels.f32();
  const best = (work: () => void): number => {
    let least = Infinity;
    for (let k = 0; k < 5; k++) {
      const start = performance.now();
      for (let i = 0; i < rounds; i++) work();
      least = Math.min(least, ((performance.now() - start) * 1e6) / (rounds * pixels));
    }
    return least;
  };
  /** What fresh planes cost is measured beside it and taken off. */
  const onFresh = (work: () => void): number => {
    const kept = plane.slice(),
      copies = best(() => plane.set(kept)),
      both = best(() => {
        plane.set(kept);
        work();
      });
    plane.set(kept);
    return Math.max(0.05, both - copies);
  };
  const run = (pass: Pass): void => {
    if (isPointwise(pass)) kernels.exports[pass.kernel](...planes, pixels, numbers);
    else if (isMapPass(pass))
      for (let o = 0; o < pixels; o += width)
        kernels.exports[pass.kernel](planes[0] + o * 4, planes[1] + o * 4, planes[2] + o * 4, width, numbers, rows, stride);
    else throw new Error(`${pass.kernel} cannot be measured alone`);
  };
  const list: { name: string; nanoseconds: number }[] = [];
  for (const [kind, params] of steps) {
    plane.set(scattered(pixels * 3));
    for (const pass of passesOf({ ...newStep(kind, 'x'), params: { ...newStep(kind, 'x').params, ...params } }, 1)) {
      f32.set(pass.parameters, numbers / 4);
      if (isMapPass(pass)) {
        // an even map: slope a half, offset a tenth, 64 columns for the row
        for (let i = 0; i < (6 * stride) / 4; i++) f32[rows / 4 + i] = Math.floor((i * 4) / stride) % 2 === 0 ? 0.5 : 0.1;
        f32.set([63, 0, 63 / width], numbers / 4 + (pass.kernel === 'haze' ? 7 : 6));
      }
      if (!list.some((k) => k.name === pass.kernel)) list.push({ name: pass.kernel, nanoseconds: onFresh(() => run(pass)) });
      run(pass);
    }
  }
  f32.set(encodeParameters('srgb'), numbers / 4);
  const encode = (): number => best(() => kernels.exports.encode(...planes, pixels, numbers, out, 0, 0, 1, 4));
  plane.set(photograph.subarray(0, pixels * 3));
  list.push({ name: 'encode, a photograph', nanoseconds: encode() });
  plane.set(scattered(pixels * 3));
  list.push({ name: 'encode, colours scattered over all of Rec.2020', nanoseconds: encode() });
  const [source, target] = [new Float32Array(pixels * 3), new Float32Array(pixels * 3)];
  return {
    list,
    copy: Math.max(
      0.05,
      best(() => target.set(source)),
    ),
  };
}
