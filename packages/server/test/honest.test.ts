import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { ciede2000, xyzToLab } from '@dyepot/core/src/colour/difference.ts';
import { apply3, type Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import { rgbToXyz, srgb } from '@dyepot/core/src/colour/spaces.ts';
import { decodeSrgb } from '@dyepot/core/src/colour/transfer.ts';
import { plainDetail } from '@dyepot/core/src/groundwork/detail/detail.ts';
import { drawingOf, drawPlate, guideDrawing, wholeFor } from '@dyepot/core/src/plan/draw.ts';
import { plainGroundwork, type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { plainLens } from '@dyepot/core/src/groundwork/lens.ts';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { stepKind } from '@dyepot/core/src/look/kinds.ts';
import type { ParameterValue } from '@dyepot/core/src/render/step.ts';
import { estimateNoise } from '@dyepot/core/src/groundwork/noise.ts';
import { halvePlate, makePlate, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { render } from '@dyepot/core/src/render/render.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { kernelsFile, root } from '../src/places.ts';

/** The middle of a plate: hands, wool and stone at full size, and quicker than all of it. */
function middleOf(plate: Plate, width: number, height: number): Plate {
  const data = new Uint16Array(width * height * 3),
    x = (plate.width - width) >> 1,
    y = (plate.height - height) >> 1;
  for (let c = 0; c < 3; c++)
    for (let j = 0; j < height; j++) {
      const from = (c * plate.height + y + j) * plate.width + x;
      data.set(plate.data.subarray(from, from + width), (c * height + j) * width);
    }
  return { width, height, data };
}
const kernels = await loadKernels(readFileSync(kernelsFile)),
  toXyz = rgbToXyz(srgb);
const { facts, raw } = await decodeRaw(join(root, 'packages/camera/frames/TR-0438.dng')),
  decoded = makePlate(kernels, raw, facts),
  full = middleOf(decoded, 816, 544),
  noise = estimateNoise(raw, facts),
  frame = { width: full.width, height: full.height, noise, neutral: facts.profile.asShotNeutral };
const levels: Plate[] = [full];
while (levels.length < plateLevels) levels.push(halvePlate(kernels, levels[levels.length - 1]!));

/** Linear sRGB of the picture at a level of the plate. */
function drawn(ground: Groundwork, level: 0 | 1, look: Look | null = null): { width: number; height: number; linear: Float32Array } {
  const p = plan(look, { profile: facts.profile, seed: 1, groundwork: ground, picture: frame }, 'srgb'),
    guided = guideDrawing(ground, frame);
  const known = wholeFor(
      kernels,
      p,
      { ...guided, source: { x: 0, y: 0, width: levels[guided.level]!.width, height: levels[guided.level]!.height } },
      levels[guided.level]!,
    ),
    d = drawingOf(ground, frame, level, null),
    plate = levels[d.level]!,
    all = { x: 0, y: 0, width: plate.width, height: plate.height };
  const piece = { ...d, source: all, ...(d.detail ? {} : { needed: all }) },
    cut = drawPlate(kernels, piece, plate),
    out = new Uint16Array(render(kernels, p, cut, { x: 0, y: 0, whole: d.whole, ...known }, 'rgb16').buffer);
  return { width: cut.width, height: cut.height, linear: Float32Array.from(out, (v) => decodeSrgb(v / 65535)) };
}

// the bar of every part: mean CIEDE2000 at most 1 against the full-size render scaled down in linear light
describe('a zoomed-out view is honest', () => {
  const parts: [string, Partial<Groundwork>][] = [
    ['white balance', { balance: { kind: 'own', kelvin: 4500, tintDuv: 0.005 } }],
    ['exposure and recovery', { exposureEv: 1.2, recovery: 60 }],
    ['zones', { zones: { ...plainGroundwork.zones, ev: [1, 0.8, 0, -0.5, -1] } }],
    ['ends', { ends: { black: 0.004, whiteEv: 2.4 } }],
    [
      'straighten, verticals and crop',
      { geometry: { ...plainGroundwork.geometry, straighten: 4, vertical: 15, crop: { x: 0.1, y: 0.1, width: 0.7, height: 0.7 } } },
    ],
    ['lens', { lens: { ...plainLens, distortion: 40, redSize: 30, blueSize: -20, cornerEv: 1 } }],
    ['fringes', { lens: { ...plainLens, purpleFringe: 80, greenFringe: 80 } }],
    ['noise of luma', { detail: { ...plainDetail, noise: { ...plainDetail.noise, luma: { fine: 2.1, coarse: 2.1 } } } }],
    ['noise of colour', { detail: { ...plainDetail, noise: { ...plainDetail.noise, colour: { fine: 2.1, coarse: 2.1 } } } }],
    ['softness returned', { detail: { ...plainDetail, softness: { ...plainDetail.softness, share: 1, filterPx: 0.5 } } }],
    ['sharpness', { detail: { ...plainDetail, sharpness: { ...plainDetail.sharpness, gain: 1.3 } } }],
    [
      'sharpness of coarse details',
      { detail: { ...plainDetail, sharpness: { ...plainDetail.sharpness, gain: 1.5, sizePx: 8, coarsePx: 32 } } },
    ],
  ];
  it.each(parts)('%s', (name, part) => {
    expect(said(name, difference({ ...plainGroundwork, ...part }, null))).toBeLessThan(1);
  });
  const steps: [string, Record<string, ParameterValue>][] = [
    ['contrast', { contrast: 60 }],
    ['localContrast', { fine: 70, medium: 40, coarse: 40 }],
    ['localContrast', { fine: -80, medium: -40 }],
    ['haze', { amount: 70 }],
    ['haze', { amount: -70 }],
    ['gel', { hue: 250, density: 0.6 }],
    ['mixer', { redFromGreen: 40, blueFromRed: -20 }],
    [
      'curve',
      {
        points: [
          [0, 0.05],
          [0.3, 0.2],
          [0.7, 0.82],
          [1, 1],
        ],
      },
    ],
    ['hueBands', { hue: [[60, 30, 60]], lightness: [[250, -0.2, 60]] }],
    ['colourRange', { hue: 60, chroma: 0.08, lightness: 0.5, evenHue: 60, evenLightness: 60 }],
    ['grade', { lightsHue: 70, lightsChroma: 0.06, darksHue: 250, darksChroma: 0.06 }],
    ['vibrance', { change: 80 }],
    ['mono', { amount: 100 }],
    ['cdl', { slopeRed: 1.3, powerBlue: 1.4, saturation: 1.4 }],
  ];
  it.each(steps)('step %s %j', (kind, params) => {
    const declared = newStep(kind, 'x'),
      step = { ...declared, params: { ...declared.params, ...params } },
      look = emptyLook('t'),
      lane = stepKind(kind)!.lane as 'scene' | 'print';
    look[lane] = [step];
    expect(said(`${kind} ${JSON.stringify(params)}`, difference(plainGroundwork, look))).toBeLessThan(1);
  });
});

const said = (name: string, value: number): number => {
  console.log(`honest zoom, ${name}: mean CIEDE2000 ${value.toFixed(2)}`);
  return value;
};
/** Mean CIEDE2000 between the quick view at half size and the full size scaled down in linear light. */
function difference(ground: Groundwork, look: Look | null): number {
  const exact = drawn(ground, 0, look),
    quick = drawn(ground, 1, look);
  let sum = 0,
    count = 0;
  for (let y = 4; y < quick.height - 4; y += 3)
    for (let x = 4; x < quick.width - 4; x += 3) {
      const a = [0, 1, 2].map(
          (c) =>
            (exact.linear[(2 * y * exact.width + 2 * x) * 3 + c]! +
              exact.linear[(2 * y * exact.width + 2 * x + 1) * 3 + c]! +
              exact.linear[((2 * y + 1) * exact.width + 2 * x) * 3 + c]! +
              exact.linear[((2 * y + 1) * exact.width + 2 * x + 1) * 3 + c]!) /
            4,
        ) as unknown as Vector3,
        b = [0, 1, 2].map((c) => quick.linear[(y * quick.width + x) * 3 + c]!) as unknown as Vector3;
      sum += ciede2000(xyzToLab(apply3(toXyz, a), [0.95047, 1, 1.08883]), xyzToLab(apply3(toXyz, b), [0.95047, 1, 1.08883]));
      count++;
    }
  return sum / count;
}
