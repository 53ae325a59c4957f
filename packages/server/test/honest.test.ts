import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { ciede2000, xyzToLab } from '@dyepot/core/src/colour/difference.ts';
import { apply3, type Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import { rgbToXyz, srgb } from '@dyepot/core/src/colour/spaces.ts';
import { decodeSrgb } from '@dyepot/core/src/colour/transfer.ts';
import { plainDetail } from '@dyepot/core/src/groundwork/detail.ts';
import { drawingOf, drawPlate, guideDrawing, wholeFor } from '@dyepot/core/src/groundwork/draw.ts';
import { plainGroundwork, type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { plainLens } from '@dyepot/core/src/groundwork/lens.ts';
import { estimateNoise } from '@dyepot/core/src/groundwork/noise.ts';
import { halvePlate, makePlate, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { loadKernels } from '@dyepot/core/src/render/kernels.ts';
import { plan } from '@dyepot/core/src/render/plan.ts';
import { render } from '@dyepot/core/src/render/render.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { kernelsFile, root } from '../src/places.ts';

const kernels = await loadKernels(readFileSync(kernelsFile)), toXyz = rgbToXyz(srgb);
const { facts, raw } = await decodeRaw(join(root, 'packages/camera/frames/TR-0438.dng')), full = makePlate(kernels, raw, facts), noise = estimateNoise(raw, facts), frame = { width: full.width, height: full.height, noise, neutral: facts.profile.asShotNeutral };
const levels: Plate[] = [full];
while (levels.length < plateLevels) levels.push(halvePlate(kernels, levels[levels.length - 1]!));

/** Linear sRGB of the picture at a level of the plate. */
function drawn(ground: Groundwork, level: 0 | 1): { width: number; height: number; linear: Float32Array } {
  const p = plan(null, { profile: facts.profile, seed: 1, groundwork: ground, picture: frame }, 'srgb'), guided = guideDrawing(ground, frame);
  const known = wholeFor(kernels, p, { ...guided, source: { x: 0, y: 0, width: levels[guided.level]!.width, height: levels[guided.level]!.height } }, levels[guided.level]!), d = drawingOf(ground, frame, level, null), plate = levels[d.level]!, all = { x: 0, y: 0, width: plate.width, height: plate.height };
  const piece = { ...d, source: all, ...(d.detail ? {} : { needed: all }) }, cut = drawPlate(kernels, piece, plate), out = new Uint16Array(render(kernels, p, cut, { x: 0, y: 0, whole: d.whole, ...known }, 16).buffer);
  return { width: cut.width, height: cut.height, linear: Float32Array.from(out, (v) => decodeSrgb(v / 65535)) };
}

// the bar of every part: mean CIEDE2000 at most 1 against the full-size render scaled down in linear light
describe('a zoomed-out view is honest', () => {
  const parts: [string, Partial<Groundwork>][] = [
    ['white balance', { balance: { kind: 'own', kelvin: 4500, tintDuv: 0.005 } }], ['exposure and recovery', { exposureEv: 1.2, recovery: 60 }], ['zones', { zones: { ...plainGroundwork.zones, ev: [1, 0.8, 0, -0.5, -1] } }], ['ends', { ends: { black: 0.004, whiteEv: 2.4 } }],
    ['straighten, verticals and crop', { geometry: { ...plainGroundwork.geometry, straighten: 4, vertical: 15, crop: { x: 0.1, y: 0.1, width: 0.7, height: 0.7 } } }],
    ['lens', { lens: { ...plainLens, distortion: 40, redSize: 30, blueSize: -20, cornerEv: 1 } }], ['fringes', { lens: { ...plainLens, purpleFringe: 80, greenFringe: 80 } }], ['luminance noise', { detail: { ...plainDetail, luminanceNoise: 50 } }], ['colour noise', { detail: { ...plainDetail, colourNoise: 60 } }], ['sharpening', { detail: { ...plainDetail, sharpen: 80, radiusPx: 1 } }],
  ];
  it.each(parts)('%s', (name, part) => {
    const ground = { ...plainGroundwork, ...part }, exact = drawn(ground, 0), quick = drawn(ground, 1);
    let sum = 0, count = 0;
    for (let y = 4; y < quick.height - 4; y += 3) for (let x = 4; x < quick.width - 4; x += 3) {
      const a = [0, 1, 2].map((c) => (exact.linear[(2 * y * exact.width + 2 * x) * 3 + c]! + exact.linear[(2 * y * exact.width + 2 * x + 1) * 3 + c]! + exact.linear[((2 * y + 1) * exact.width + 2 * x) * 3 + c]! + exact.linear[((2 * y + 1) * exact.width + 2 * x + 1) * 3 + c]!) / 4) as unknown as Vector3, b = [0, 1, 2].map((c) => quick.linear[(y * quick.width + x) * 3 + c]!) as unknown as Vector3;
      sum += ciede2000(xyzToLab(apply3(toXyz, a), [0.95047, 1, 1.08883]), xyzToLab(apply3(toXyz, b), [0.95047, 1, 1.08883]));
      count++;
    }
    console.log(`honest zoom, ${name}: mean CIEDE2000 ${(sum / count).toFixed(2)}`);
    expect(sum / count).toBeLessThan(1);
  });
});
