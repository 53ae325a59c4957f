import { oklabToRec2020, polar } from '../../colour/oklab.ts';
import { tableOver } from '../../render/pass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

const intervals = 2048;

/** Blacks lifted and whites softened, each with a tint: tones laid evenly (by the cube root of light) between the two. */
export const fade = defineStep({
  kind: 'fade',
  lane: 'print',
  name: 'Fade',
  purpose: 'Lifted blacks and softened whites, each with a tint',
  atStrength: 'multiplies all of it',
  note: 'Lift and softening are of OKLab lightness',
  needs: ['fade', 'matte', 'lifted blacks', 'softened whites', 'washed out', 'old print'],
  params: {
    lift: number('Blacks lifted', '%', 0, 40, 0, 0.5, 1),
    liftHue: number('Blacks’ hue', '°', 0, 360, 260, 1, 0),
    liftChroma: number('Blacks’ chroma', '', 0, 0.1, 0, 0.002, 3),
    soften: number('Whites softened', '%', 0, 40, 0, 0.5, 1),
    softenHue: number('Whites’ hue', '°', 0, 360, 85, 1, 0),
    softenChroma: number('Whites’ chroma', '', 0, 0.1, 0, 0.002, 3),
  },
  compile: (values, strength) => {
    const of = (name: string): number => numberOf(values, name) * strength,
      root = (lightness: number, hue: number, chroma: number): number[] =>
        oklabToRec2020([lightness, ...polar(hue, chroma)]).map((v) => Math.cbrt(Math.max(0, v)));
    if (['lift', 'liftChroma', 'soften', 'softenChroma'].every((n) => of(n) === 0)) return [];
    const lift = Math.min(0.6, of('lift') / 100),
      black = root(lift, numberOf(values, 'liftHue'), Math.min(of('liftChroma'), 0.6 * lift)),
      white = root(1 - Math.min(0.6, of('soften') / 100), numberOf(values, 'softenHue'), of('softenChroma'));
    return [
      {
        kernel: 'curves',
        parameters: [
          intervals,
          ...[0, 1, 2].flatMap((c) =>
            tableOver(intervals, (t) => Math.min(1, black[c]! + (white[c]! - black[c]!) * Math.cbrt(t * t)) ** 3).slice(1),
          ),
        ],
      },
    ];
  },
});
