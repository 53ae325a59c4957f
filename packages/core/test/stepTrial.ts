import { converter } from 'culori';
import { expect } from 'vitest';
import { apply3, invert3, type Vector3 } from '../src/colour/matrix.ts';
import { rec2020ToOklab } from '../src/colour/oklab.ts';
import { rec2020To, srgb } from '../src/colour/spaces.ts';
import { decodeSrgb } from '../src/colour/transfer.ts';
import { sendThrough } from '../src/plan/dyestrip.ts';
import { newStep, type LookStep } from '../src/look/look.ts';
import { passesOf } from '../src/plan/plan.ts';
import type { ParameterValue } from '../src/render/step.ts';
import { kernels } from './kernels.ts';

export const step = (kind: string, params: Record<string, ParameterValue>, strength = 1): LookStep => ({
  ...newStep(kind, kind),
  params: { ...newStep(kind, kind).params, ...params },
  strength,
});
export const run = (s: LookStep, colours: readonly Vector3[], lookStrength = 1): Vector3[] =>
  sendThrough(kernels, passesOf(s, lookStrength), colours);
export const one = (s: LookStep, c: Vector3): Vector3 => run(s, [c])[0]!;
export const close = (actual: readonly number[], expected: readonly number[], within: number): void =>
  expected.forEach((v, i) => expect(Math.abs(actual[i]! - v), `${actual.join(' ')} for ${expected.join(' ')}`).toBeLessThanOrEqual(within));
export const toSrgb = rec2020To(srgb),
  toRec2020 = invert3(toSrgb);
export const fromSrgb = (r: number, g: number, b: number): Vector3 => apply3(toRec2020, [decodeSrgb(r), decodeSrgb(g), decodeSrgb(b)]);
export const oklchOf = converter('oklch');
/** OKLCh by culori, of a linear Rec.2020 colour. */
export const lch = (c: Vector3): { l: number; c: number; h: number } => {
  const [r, g, b] = apply3(toSrgb, c),
    { l, c: chroma, h } = oklchOf({ mode: 'lrgb', r, g, b });
  return { l, c: chroma, h: h ?? 0 };
};
export const own = (c: Vector3): { l: number; c: number; h: number } => {
  const [l, a, b] = rec2020ToOklab(c);
  return { l, c: Math.hypot(a, b), h: ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360 };
};
export const samples: Vector3[] = [
  fromSrgb(0.8, 0.3, 0.2),
  fromSrgb(0.2, 0.5, 0.7),
  fromSrgb(0.4, 0.6, 0.2),
  fromSrgb(0.7, 0.55, 0.45),
  fromSrgb(0.9, 0.8, 0.2),
  fromSrgb(0.6, 0.2, 0.5),
];
export const turned = (a: number, b: number): number => ((a - b + 540) % 360) - 180;
