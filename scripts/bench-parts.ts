import { readFileSync } from 'node:fs';
import { newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { storeTable, table3d } from '@dyepot/core/src/formats/table.ts';
import { isPointwise } from '@dyepot/core/src/render/pass.ts';
import { loadKernels } from '@dyepot/core/src/render/kernels.ts';
import { encodeParameters } from '@dyepot/core/src/render/output.ts';
import { cutPlate, halvePlate, makePlate } from '@dyepot/core/src/plate/plate.ts';
import { passesOf, plan } from '@dyepot/core/src/render/plan.ts';
import { developPlanes } from '@dyepot/core/src/render/render.ts';
import { decodeRaw } from '@dyepot/server/src/decode/decode.ts';
import { kernelsFile } from '@dyepot/server/src/places.ts';
import { importRaw, renderThumb } from '@dyepot/server/src/work/tasks.ts';

/** Measures import and each kernel; prints one line of JSON. */
const [file, data] = process.argv.slice(2) as [string, string];
const seconds = async (work: () => Promise<unknown>): Promise<number> => {
  const t = performance.now();
  await work();
  return (performance.now() - t) / 1000;
};
await decodeRaw(file);
const decodeSeconds = await seconds(() => decodeRaw(file));
const importSeconds = await seconds(async () => {
  const r = await importRaw({ path: file, plates: data });
  await renderThumb({
    folder: `${data}/${r.hash}`,
    full: r,
    facts: r.facts,
    hash: r.hash,
    look: null,
    longEdge: 720,
    file: `${data}/first.jpg`,
  });
});
const kernels = await loadKernels(readFileSync(kernelsFile)),
  n = 8192,
  rounds = 400,
  at = kernels.reserve(n * 24 + 700000),
  numbers = at + n * 12,
  out = numbers + 600000;
const fill = (): void => {
  const f = kernels.f32();
  for (let i = 0; i < n * 3; i++) f[at / 4 + i] = ((i * 7919) % 1000) / 1000;
};
/** Nanoseconds a pixel of a kernel on fresh planes each time; what copying them takes is measured beside it and taken off. */
const onFresh = (work: () => void): number => {
  const f = kernels.f32(),
    kept = f.slice(at / 4, at / 4 + n * 3),
    copies = measure(
      () => f.set(kept, at / 4),
      () => {},
    );
  return Math.max(
    0.05,
    measure(
      () => {
        f.set(kept, at / 4);
        work();
      },
      () => {},
    ) - copies,
  );
};
const measure = (work: () => void, ready = fill): number => {
  const times: number[] = [];
  for (let k = 0; k < 5; k++) {
    ready();
    const t = performance.now();
    for (let i = 0; i < rounds; i++) work();
    times.push(((performance.now() - t) * 1e6) / (rounds * n));
  }
  return Math.min(...times);
};
const steps: [string, Look['stock']['params']][] = [
  ['warmth', { shiftMired: 1 }],
  ['neutral', { contrast: 1.01 }],
  [
    'curve',
    {
      points: [
        [0, 0.001],
        [1, 1],
      ],
    },
  ],
  ['saturation', { change: 1 }],
  ['grade', { lightsChroma: 0.001 }],
  ['mono', { amount: 1 }],
  ['hueBands', { hue: [[110, -10, 60]] }],
  ['colourRange', { evenHue: 30 }],
  ['vibrance', { change: 10 }],
  ['contrast', { contrast: 10, on: 'channels' }],
  ['mixer', { redOffset: 1 }],
  [
    'curve',
    {
      red: [
        [0, 0.01],
        [1, 1],
      ],
    },
  ],
  [
    'curve',
    {
      points: [
        [0, 0.01],
        [1, 1],
      ],
      on: 'luminance',
    },
  ],
  [
    'curve',
    {
      points: [
        [0, 0.01],
        [1, 1],
      ],
      on: 'lightness',
    },
  ],
  ['tablePrint', { encoding: 'linear', table: storeTable(table3d('t', 33, (c) => c)) }],
];
const list = steps.map(([kind, params]) => {
  const pass = passesOf({ ...newStep(kind, 'x'), params: { ...newStep(kind, 'x').params, ...params } }, 1).find(
    (p) => !/Lab$/.test(p.kernel),
  )!;
  kernels.f32().set(pass.parameters, numbers / 4);
  if (!isPointwise(pass)) throw new Error(`${pass.kernel} needs maps`);
  fill();
  // a kernel of OKLab gets OKLab
  const all = passesOf({ ...newStep(kind, 'x'), params: { ...newStep(kind, 'x').params, ...params } }, 1)[0]!;
  if (all.kernel === 'toLab') {
    kernels.f32().set(all.parameters, numbers / 4);
    kernels.exports.toLab(at, at + n * 4, at + n * 8, n, numbers);
    kernels.f32().set(pass.parameters, numbers / 4);
  }
  return { name: pass.kernel, nanoseconds: onFresh(() => kernels.exports[pass.kernel](at, at + n * 4, at + n * 8, n, numbers)) };
});
kernels.f32().set(encodeParameters('srgb'), numbers / 4);
const everyColour = (): number => measure(() => kernels.exports.encode(at, at + n * 4, at + n * 8, n, numbers, out, 0, 0, 1, 4));
// the colours of a photograph, as the neutral response leaves them; and, worse than any, colours all over Rec.2020
const { facts, raw } = await decodeRaw(file),
  small = [1, 2, 3, 4, 5].reduce((p) => halvePlate(kernels, p), makePlate(kernels, raw, facts)),
  photo = developPlanes(
    kernels,
    plan(null, { profile: facts.profile, seed: 1 }, 'srgb'),
    cutPlate(small, (small.width - 128) >> 1, (small.height - 64) >> 1, 128, 64),
    1,
  );
list.push({ name: 'encode, colours all over Rec.2020' as never, nanoseconds: everyColour() });
list.push({
  name: 'encode, a photograph' as never,
  nanoseconds: measure(
    () => kernels.exports.encode(at, at + n * 4, at + n * 8, n, numbers, out, 0, 0, 1, 4),
    () => {
      kernels.f32().set(encodeParameters('srgb'), numbers / 4);
      kernels.f32().set(photo, at / 4);
    },
  ),
});
const source = new Float32Array(n * 3),
  target = new Float32Array(n * 3);
console.log(
  JSON.stringify({
    decodeSeconds,
    importSeconds,
    kernels: list,
    copyNanoseconds: Math.max(
      0.05,
      measure(() => target.set(source)),
    ),
  }),
);
