import { describe, expect, it } from 'vitest';
import type { Vector3 } from '../src/colour/matrix.ts';
import { stepKind } from '../src/look/kinds.ts';
import type { NumberParameter, ParameterValue } from '../src/render/step.ts';
import { fromSrgb, one, own, samples, step, turned } from './stepTrial.ts';

const grey: Vector3 = [0.18, 0.18, 0.18],
  shade: Vector3 = [0.03, 0.03, 0.03],
  bright: Vector3 = [0.6, 0.6, 0.6],
  skin = fromSrgb(0.78, 0.6, 0.5),
  sky = fromSrgb(0.45, 0.62, 0.85),
  leaf = fromSrgb(0.4, 0.55, 0.2),
  dull = fromSrgb(0.52, 0.48, 0.45);
const light = (c: Vector3): number => own(c).l,
  chroma = (c: Vector3): number => own(c).c,
  warmth = (c: Vector3): number => c[0] / Math.max(1e-6, c[2]),
  greenness = (c: Vector3): number => c[1] / Math.max(1e-6, Math.sqrt(Math.max(0, c[0] * c[2]))),
  hueFrom = (from: Vector3) => (c: Vector3) => turned(own(c).h, own(from).h);
type Row = [
  kind: string,
  name: string,
  base: Record<string, ParameterValue>,
  colour: Vector3,
  measure: (c: Vector3) => number,
  way: 1 | -1,
];
const range = { hue: own(skin).h, chroma: own(skin).c, lightness: own(skin).l },
  picked = { ...range, hueWidth: 60, chromaWidth: 0.2, lightnessWidth: 1 },
  nearSkin = fromSrgb(0.62, 0.45, 0.27);
/** Each number, what it is read on, and whether more of it is more of what is measured. */
const rows: Row[] = [
  ['warmth', 'shiftMired', {}, grey, warmth, 1],
  ['warmth', 'tint', {}, grey, greenness, 1],
  ['exposure', 'shiftEv', {}, grey, light, 1],
  ['contrast', 'contrast', {}, bright, light, 1],
  ['contrast', 'contrast', {}, shade, light, -1],
  ['contrast', 'pivotEv', { contrast: 50 }, grey, light, -1],
  ['gel', 'density', { hue: 60 }, grey, chroma, 1],
  ['gel', 'mired', {}, grey, warmth, 1],
  ['mixer', 'redFromGreen', { neutrals: 'free' }, leaf, (c) => c[0], 1],
  ['mixer', 'blueFromBlue', { neutrals: 'free' }, sky, (c) => c[2], 1],
  ['mixer', 'greenOffset', {}, grey, (c) => c[1], 1],
  ['neutral', 'contrast', {}, bright, light, 1],
  ['neutral', 'contrast', {}, shade, light, -1],
  ['neutral', 'whiteEv', {}, bright, light, -1],
  ['neutral', 'toe', {}, [0.004, 0.004, 0.004], light, -1],
  ['saturation', 'change', {}, skin, chroma, 1],
  ['vibrance', 'change', { spare: 0 }, dull, chroma, 1],
  ['vibrance', 'spare', { change: 80 }, skin, chroma, -1],
  ['vibrance', 'spare', { change: -80 }, skin, chroma, 1],
  ['grade', 'lightsChroma', { lightsHue: 60 }, bright, chroma, 1],
  ['grade', 'darksChroma', { darksHue: 250 }, shade, chroma, 1],
  ['grade', 'midsLightness', {}, grey, light, 1],
  ['grade', 'allLightness', {}, grey, light, 1],
  ['grade', 'balance', { lightsHue: 60, lightsChroma: 0.1 }, grey, chroma, 1],
  ['grade', 'lightsBeginEv', { lightsHue: 60, lightsChroma: 0.1 }, [0.3, 0.3, 0.3], chroma, -1],
  ['grade', 'darksEndEv', { darksHue: 250, darksChroma: 0.1 }, shade, chroma, 1],
  ['colourRange', 'hueShift', picked, skin, hueFrom(skin), 1],
  ['colourRange', 'chromaShift', picked, skin, chroma, 1],
  ['colourRange', 'lightnessShift', picked, skin, light, 1],
  ['colourRange', 'evenHue', picked, nearSkin, (c) => Math.abs(turned(own(c).h, range.hue)), -1],
  ['colourRange', 'evenChroma', picked, nearSkin, (c) => Math.abs(own(c).c - range.chroma), -1],
  ['colourRange', 'evenLightness', picked, nearSkin, (c) => Math.abs(own(c).l - range.lightness), -1],
  ['colourRange', 'hueWidth', { ...range, hueWidth: 2, chromaWidth: 0.3, lightnessWidth: 1, lightnessShift: -0.2 }, leaf, light, -1],
  ['mono', 'red', { amount: 100, green: 30, blue: 30 }, skin, light, 1],
  ['mono', 'blue', { amount: 100, red: 30, green: 40 }, sky, light, 1],
  ['mono', 'amount', {}, sky, chroma, -1],
  ['cdl', 'slopeGreen', {}, leaf, (c) => c[1], 1],
  ['cdl', 'offsetBlue', {}, grey, (c) => c[2], 1],
  ['cdl', 'powerRed', {}, grey, (c) => c[0], -1],
  ['cdl', 'saturation', {}, skin, chroma, 1],
  ['hueBands', 'guard', { lightness: [[75, -0.3, 120]] }, dull, light, 1],
];

describe('a control does what its name says, over its whole range', () => {
  it.each(rows)('%s: %s', (kind, name, base, colour, measure, way) => {
    const p = stepKind(kind)!.params[name] as NumberParameter,
      at = Array.from({ length: 13 }, (_, i) => p.min + ((p.max - p.min) * i) / 12),
      read = at.map((v) => measure(one(step(kind, { ...base, [name]: v }), colour)));
    for (let i = 1; i < read.length; i++)
      expect((read[i]! - read[i - 1]!) * way, `from ${at[i - 1]!.toFixed(3)} to ${at[i]!.toFixed(3)}`).toBeGreaterThan(-2e-4);
    // and it is felt
    expect((read[read.length - 1]! - read[0]!) * way).toBeGreaterThan(0.01);
  });
});

describe('strength', () => {
  const lively: [kind: string, params: Record<string, ParameterValue>][] = [
    ['warmth', { shiftMired: 30 }],
    ['exposure', { shiftEv: 0.5 }],
    ['contrast', { contrast: 30 }],
    ['gel', { hue: 60, density: 0.4 }],
    ['mixer', { redFromGreen: 30 }],
    ['curve', { points: [[0, 0.05], [0.5, 0.56], [1, 0.97]] }], // prettier-ignore
    ['hueBands', { hue: [[60, 15, 90]], chroma: [[250, 30, 90]] }],
    ['colourRange', { ...picked, chromaShift: 20 }],
    ['grade', { allHue: 60, allChroma: 0.03 }],
    ['saturation', { change: 25 }],
    ['vibrance', { change: 30 }],
    ['mono', { amount: 45 }],
    ['cdl', { slopeRed: 1.1, saturation: 0.9 }],
  ];
  const away = (a: Vector3, b: Vector3): number => Math.hypot(...a.map((v, c) => v - b[c]!));
  it.each(lively)('%s: none is nothing, half is less than the whole, twice is more', (kind, params) => {
    for (const colour of samples) {
      const [none, half, whole, twice] = [0, 0.5, 1, 2].map((s) => away(one(step(kind, params, s), colour), colour)) as [
        number,
        number,
        number,
        number,
      ];
      expect(none).toBeLessThan(1e-7);
      expect(half).toBeLessThanOrEqual(whole + 1e-6);
      expect(twice).toBeGreaterThanOrEqual(whole - 1e-6);
    }
    const felt = samples.map((c) => away(one(step(kind, params), c), c));
    expect(Math.max(...felt)).toBeGreaterThan(0.003);
  });
});
