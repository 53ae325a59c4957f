import { bandTables } from '../../render/bands.ts';
import { inLab } from '../../render/pass.ts';
import { defineStep, number, numberOf, type BandHandle, type BandParameter } from '../../render/step.ts';

const band = (label: string, unit: string, reach: number): BandParameter => ({
  type: 'band',
  label,
  unit,
  min: -reach,
  max: reach,
  default: [],
});
/** Hue, chroma and lightness as curves round the hue circle, in OKLCh; neutrals protected. */
export const hueBands = defineStep({
  kind: 'hueBands',
  lane: 'print',
  name: 'Hue bands',
  purpose: 'Move single hues: their hue, chroma, lightness',
  atStrength: 'multiplies the curves',
  note: 'Each curve is handles of [hue°, value, width°], raised cosines, added. Lightness above zero is so much more L; below zero less light, by the factor that takes so much from an L of 0.6',
  needs: ['yellow to orange', 'autumn foliage', 'aqua to blue', 'dramatic sky', 'darker blue', 'greens', 'hue'],
  params: {
    hue: band('Hue to hue', '°', 60),
    chroma: band('Hue to chroma', '%', 100),
    lightness: band('Hue to lightness', '', 0.4),
    guard: number('Neutrals protected', '%', 0, 100, 50, 1, 0),
  },
  compile: (values, strength) => {
    const of = (name: string): readonly BandHandle[] => values[name] as readonly BandHandle[];
    if (strength === 0 || ['hue', 'chroma', 'lightness'].every((n) => of(n).every(([, v]) => v === 0))) return [];
    const guard = numberOf(values, 'guard') / 100;
    return inLab(
      'hueBands',
      Float32Array.from(bandTables({ hue: of('hue'), chroma: of('chroma'), lightness: of('lightness'), guard, strength })),
    );
  },
});
