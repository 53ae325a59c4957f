import { inLab } from '../../render/pass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** A range of colours round a picked one: shifted, evened out toward what was picked; in OKLCh. With `show`, which no look holds, the range itself is drawn. */
export const colourRange = defineStep({
  kind: 'colourRange',
  lane: 'print',
  name: 'Colour range',
  purpose: 'Shift one colour, or even it out',
  atStrength: 'multiplies shifts and evening',
  needs: ['even skin', 'skin', 'pick a colour', 'one colour', 'cloth', 'recolour'],
  params: {
    hue: number('Picked hue', '°', 0, 360, 55, 1, 0),
    chroma: number('Picked chroma', '', 0, 0.37, 0.08, 0.002, 3),
    lightness: number('Picked lightness', '', 0, 1, 0.7, 0.005, 3),
    hueWidth: number('Width in hue', '°', 2, 120, 18, 1, 0),
    chromaWidth: number('Width in chroma', '', 0.01, 0.4, 0.07, 0.005, 3),
    lightnessWidth: number('Width in lightness', '', 0.02, 1, 0.3, 0.01, 2),
    softness: number('Softness', '%', 5, 100, 60, 1, 0),
    hueShift: number('Hue', '°', -90, 90, 0, 0.5, 1),
    chromaShift: number('Chroma', '%', -100, 100, 0, 1, 0),
    lightnessShift: number('Lightness', '', -0.3, 0.3, 0, 0.005, 3),
    evenHue: number('Even out hue', '%', 0, 100, 0, 1, 0),
    evenChroma: number('Even out chroma', '%', 0, 100, 0, 1, 0),
    evenLightness: number('Even out lightness', '%', 0, 100, 0, 1, 0),
  },
  compile: (values, strength) => {
    const n = (name: string): number => numberOf(values, name),
      rad = (degrees: number): number => (degrees * Math.PI) / 180,
      limit = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));
    const moves = ['hueShift', 'chromaShift', 'lightnessShift', 'evenHue', 'evenChroma', 'evenLightness'];
    if (!values['show'] && (strength === 0 || moves.every((m) => n(m) === 0))) return [];
    // softness is the part of the width over which the range fades; a share of it lies inside
    const soft = n('softness') / 100,
      widths = [rad(n('hueWidth')), n('chromaWidth'), n('lightnessWidth')].flatMap((w) => [
        w * (1 - soft / 2),
        1 / Math.max(1e-4, w * soft),
      ]);
    // what is much nearer to neutral than the picked colour has no hue to speak of, only noise
    const edge = Math.max(0, n('chroma') - 0.02);
    return inLab('colourRange', [
      Math.cos(rad(n('hue'))),
      Math.sin(rad(n('hue'))),
      n('chroma'),
      n('lightness'),
      ...widths,
      limit(rad(n('hueShift')) * strength, -1.9, 1.9),
      Math.max(-1, (n('chromaShift') / 100) * strength),
      n('lightnessShift') * strength,
      ...['evenHue', 'evenChroma', 'evenLightness'].map((m) => Math.min(1, (n(m) / 100) * strength)),
      values['show'] ? 1 : 0,
      0.2 * edge - 1e-3,
      1 / (0.35 * edge + 1e-3),
      // a little less than it is, so that rounding takes nothing away
      Math.cos(Math.min(Math.PI, rad(n('hueWidth')) * (1 + soft / 2))) - 1e-3,
    ]);
  },
});
