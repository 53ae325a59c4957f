import '@dyepot/server/src/filmEngine.ts';
import { readFileSync } from 'node:fs';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { cutPlate, halvePlate, makePlate } from '@dyepot/core/src/plate/plate.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { developPlanes } from '@dyepot/core/src/render/render.ts';
import { decodeRaw } from '@dyepot/server/src/decode/decode.ts';
import { kernelsFile } from '@dyepot/server/src/places.ts';
import { nativeKernels } from '@dyepot/server/src/work/nativeKernels.ts';
import { importRaw, renderThumb } from '@dyepot/server/src/work/tasks.ts';
import { finishTimes } from './bench-finish.ts';
import { kernelTimes } from './bench-kernels.ts';
import { repairTimes } from './bench-repair.ts';

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
const webAssembly = await loadKernels(readFileSync(kernelsFile)),
  compiled = nativeKernels(),
  kernels = compiled ?? webAssembly,
  { facts, raw } = await decodeRaw(file),
  small = [1, 2, 3, 4, 5].reduce((p) => halvePlate(kernels, p), makePlate(kernels, raw, facts)),
  // the colours of a photograph, as the neutral response leaves them
  photograph = developPlanes(
    kernels,
    plan(null, { profile: facts.profile, seed: 1 }, 'srgb'),
    cutPlate(small, (small.width - 128) >> 1, (small.height - 64) >> 1, 128, 64),
    1,
  ),
  finish = finishTimes(kernels),
  own = kernelTimes(kernels, photograph),
  // what a browser has beside what the server has
  pages = compiled ? [...kernelTimes(webAssembly, photograph).list, ...finishTimes(webAssembly).list] : [];
console.log(
  JSON.stringify({
    decodeSeconds,
    importSeconds,
    kernels: [...own.list, ...finish.list, ...pages.map((k) => ({ ...k, name: `${k.name}, as WebAssembly` }))],
    tableMs: finish.tableMs,
    repairs: repairTimes(kernels),
    copyNanoseconds: own.copy,
  }),
);
