import { describe, expect, it } from 'vitest';
import { newStep, type Look } from '../src/look/look.ts';
import { common, maskOf, type Mask } from '../src/mask/mask.ts';
import { plan } from '../src/plan/plan.ts';
import { cutPlate } from '../src/plate/plate.ts';
import { mapsFor } from '../src/render/maps.ts';
import { render } from '../src/render/render.ts';
import { profile } from './groundTrial.ts';
import { kernels } from './kernels.ts';
import { bare, gradient, pool, scene, width } from './maskTrial.ts';

describe('a step under a mask', () => {
  const look = (mask: Mask | null): Look => ({
    ...bare,
    scene: [{ ...newStep('exposure', 'x'), params: { shiftEv: 1 }, mask }],
    print: [],
  });
  const picture = (l: Look, plate = scene, origin = { x: 0, y: 0 }): Buffer => {
    const p = plan(l, { profile, seed: 1 }, 'srgb'),
      about = { whole: scene, edge: width };
    return Buffer.from(render(kernels, p, plate, { ...origin, ...about, maps: mapsFor(kernels, p, scene, about) }, 'rgba8'));
  };
  it('is the step where the mask is whole, and nothing where it is not, byte for byte', () => {
    const whole = maskOf({ ...common, kind: 'radial', centre: [0.5, 0.5], radii: [3, 3], turn: 0, feather: 0.1 });
    expect(picture(look(whole)).equals(picture(look(null)))).toBe(true);
    expect(picture(look(maskOf())).equals(picture(bare))).toBe(true);
    expect(picture(look({ ...whole, inverted: true })).equals(picture(bare))).toBe(true);
  });
  it('in a piece is as in the whole, byte for byte, whatever says where', () => {
    const masks = [
      maskOf(gradient, { ...pool, mode: 'subtract' }),
      maskOf({
        ...common,
        kind: 'brush',
        strokes: [{ erase: false, size: 0.05, feather: 0.7, flow: 0.9, points: [1000, 1000, 80, 7000, 5000, 100, 8000, 1000, 20] }],
      }),
      maskOf({
        ...common,
        kind: 'outline',
        points: [
          [0.2, 0.1, 0.02],
          [0.8, 0.2, 0.05],
          [0.5, 0.6, 0.01],
        ],
      }),
      maskOf({ ...common, kind: 'haze', from: 0.1, to: 0.5 }),
      { ...maskOf(gradient), feather: 0.02, snap: 0.5 },
      maskOf({ ...common, kind: 'figure', box: [0.2, 0.1, 0.5, 0.4], width: 2, height: 2, data: btoa('\u0000\u00ff\u00c8\u0032') }),
    ];
    for (const mask of masks) {
      const all = picture(look(mask)),
        area = { x: 21, y: 13, width: 50, height: 40 },
        part = picture(look(mask), cutPlate(scene, area.x, area.y, area.width, area.height), area);
      expect(all.equals(picture(bare))).toBe(false);
      for (let y = 0; y < area.height; y++) {
        const from = ((area.y + y) * width + area.x) * 4;
        expect(
          part.subarray(y * area.width * 4, (y + 1) * area.width * 4).equals(all.subarray(from, from + area.width * 4)),
          JSON.stringify(mask.parts[0]!.kind),
        ).toBe(true);
      }
    }
  });
  it('a skein is its steps at its strength, under its mask; off, it is none of them', () => {
    const step = { ...newStep('exposure', 'x'), params: { shiftEv: 1 }, skein: 's' },
      skein = { id: 's', name: 'Together', on: true, strength: 0.5, mask: maskOf(pool) },
      held: Look = {
        ...bare,
        scene: [step, { ...newStep('warmth', 'w'), params: { shiftMired: 20, tint: 0 }, skein: 's' }],
        skeins: [skein],
      };
    const apart: Look = { ...held, skeins: [], scene: held.scene.map((s) => ({ ...s, skein: '', strength: 0.5 })) };
    expect(picture({ ...held, skeins: [{ ...skein, mask: null }] }).equals(picture(apart))).toBe(true);
    expect(picture({ ...held, skeins: [{ ...skein, on: false }] }).equals(picture(bare))).toBe(true);
    expect(picture(held).equals(picture(apart))).toBe(false);
  });
});
