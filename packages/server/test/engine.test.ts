import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { plainDetail } from '@dyepot/core/src/groundwork/detail/detail.ts';
import { drawingOf, drawPlate, guideDrawing, wholeFor } from '@dyepot/core/src/plan/draw.ts';
import { plainGroundwork, type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { plainLens } from '@dyepot/core/src/groundwork/lens.ts';
import { estimateNoise } from '@dyepot/core/src/groundwork/noise.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { halvePlate, makePlate, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { loadKernels, type Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { engineVersion, plan } from '@dyepot/core/src/plan/plan.ts';
import { render } from '@dyepot/core/src/render/render.ts';
import { stepKinds } from '@dyepot/core/src/look/kinds.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { kernelsFile, root } from '../src/places.ts';
import { nativeKernels } from '../src/work/nativeKernels.ts';
import { acting, lookWith } from './actingSteps.ts';

const grounds: Record<string, Partial<Groundwork>> = {
  balance: { balance: { kind: 'tungsten', kelvin: 2850, tintDuv: 0 }, exposureEv: 0.5, recovery: 70 },
  zones: { zones: { ...plainGroundwork.zones, ev: [0.8, 0.4, 0, -0.4, -0.8] }, ends: { black: 0.002, whiteEv: 2.8 } },
  geometry: { geometry: { ...plainGroundwork.geometry, straighten: 3, vertical: 10, crop: { x: 0.1, y: 0.1, width: 0.8, height: 0.8 } } },
  lens: { lens: { ...plainLens, distortion: 30, redSize: 20, cornerEv: 0.8, purpleFringe: 50 } },
  detail: {
    detail: {
      noise: { luma: { fine: 2, coarse: 1.5 }, colour: { fine: 1.8, coarse: 2 }, darks: 1.2, lights: 0.8 },
      softness: { ...plainDetail.softness, share: 0.8, filterPx: 0.5 },
      sharpness: { ...plainDetail.sharpness, gain: 1, sizePx: 5, coarsePx: 20 },
    },
  },
};
const file = join(root, 'packages/server/test/golden/engine.json');
const webAssembly = await loadKernels(readFileSync(kernelsFile)),
  compiled = nativeKernels();

/** The hash of a region of a frame, under a look and groundwork: an eighth of the picture, as half-size views draw it. */
async function regionHashes(kernels: Kernels, name: string): Promise<Record<string, string>> {
  const { facts, raw } = await decodeRaw(join(root, `packages/camera/frames/${name}.dng`)),
    full = makePlate(kernels, raw, facts),
    levels: Plate[] = [full];
  while (levels.length < plateLevels) levels.push(halvePlate(kernels, levels[levels.length - 1]!));
  const frame = { width: full.width, height: full.height, noise: estimateNoise(raw, facts), neutral: facts.profile.asShotNeutral };
  const crop = (plate: Plate, a: { x: number; y: number; width: number; height: number }): Plate => {
    const data = new Uint16Array(a.width * a.height * 3);
    for (let c = 0; c < 3; c++)
      for (let j = 0; j < a.height; j++)
        data.set(plate.data.subarray((c * plate.height + a.y + j) * plate.width + a.x).subarray(0, a.width), (c * a.height + j) * a.width);
    return { width: a.width, height: a.height, data };
  };
  const hash = (look: Look | null, ground: Groundwork): string => {
    const p = plan(look, { profile: facts.profile, seed: 7, groundwork: ground, picture: frame }, 'srgb'),
      drawing = drawingOf(ground, frame, 1, { x: 160, y: 120, width: 180, height: 130 }),
      guided = guideDrawing(ground, frame),
      known = wholeFor(kernels, p, guided, crop(levels[guided.level]!, guided.source)),
      plate = drawPlate(kernels, drawing, crop(levels[drawing.level]!, drawing.source));
    return createHash('sha256')
      .update(render(kernels, p, plate, { ...drawing.area, whole: drawing.whole, ...known }, 'rgb16'))
      .digest('hex')
      .slice(0, 16);
  };
  return Object.fromEntries([
    ...stepKinds.map((k) => [`${name} ${k.kind}`, hash(lookWith(k.kind), plainGroundwork)]),
    ...Object.entries(grounds).map(([part, g]) => [`${name} ground ${part}`, hash(null, { ...plainGroundwork, ...g })]),
  ]);
}

const watched = ['TR-0413', 'TR-0438', 'TR-0455'];
async function hashesBy(kernels: Kernels): Promise<Record<string, string>> {
  const now: Record<string, string> = {};
  for (const name of watched) Object.assign(now, await regionHashes(kernels, name));
  return now;
}
const kept = JSON.parse(readFileSync(file, 'utf8')) as { engineVersion: number; hashes: Record<string, string> };

// DYEPOT_HASHES=write keeps the bytes of a new engine version; those of a version that stands are never written over
it('the same engine version gives the same bytes, for every kind of step and part of groundwork', async () => {
  expect(stepKinds.map((k) => k.kind).filter((k) => !(k in acting))).toEqual([]);
  const now = await hashesBy(webAssembly);
  expect(new Set(Object.values(now)).size).toBe(Object.keys(now).length);
  if (process.env['DYEPOT_HASHES'] === 'write') {
    // of a version that stands, only what is new is added
    const hashes = kept.engineVersion === engineVersion ? { ...now, ...kept.hashes } : now;
    writeFileSync(file, `${JSON.stringify({ engineVersion, hashes }, null, 2)}\n`);
    return;
  }
  expect(kept.engineVersion).toBe(engineVersion);
  // kinds that are new since add nothing to what stood; those that stood keep their bytes
  for (const [what, hash] of Object.entries(kept.hashes)) expect([what, now[what]]).toEqual([what, hash]);
  expect(Object.keys(now).sort()).toEqual(Object.keys(kept.hashes).sort());
});

it.runIf(compiled)('the kernels compiled for this machine give the same bytes', async () => {
  expect(await hashesBy(compiled!)).toEqual(kept.hashes);
});
