import { directionAt } from '../../colour/gamut.ts';
import { inLab } from '../../render/pass.ts';
import { defineStep, number, numberOf, type BandHandle, type BandParameter } from '../../render/step.ts';

const intervals = 1024;
const band = (label: string, unit: string, reach: number): BandParameter => ({
  type: 'band',
  label,
  unit,
  min: -reach,
  max: reach,
  default: [],
});
/** The curve of handles at a hue (degrees): raised cosines of their widths, added; continuous and periodic. */
export function bandAt(handles: readonly BandHandle[], hue: number): number {
  return handles.reduce((sum, [at, value, width]) => {
    const away = Math.abs(((((hue - at) % 360) + 540) % 360) - 180);
    return sum + (away < width ? (value * (1 + Math.cos((Math.PI * away) / width))) / 2 : 0);
  }, 0);
}
/** Hues in degrees at equal steps round the diamond, as the kernel counts them. */
const hues = Array.from({ length: intervals + 1 }, (_, i) => {
  const [a, b] = directionAt(i / intervals);
  return (Math.atan2(b, a) * 180) / Math.PI;
});
const table = (f: (hue: number) => number): number[] => [...hues.map(f), f(hues[0]!)];

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
    const guard = numberOf(values, 'guard') / 100,
      limit = (v: number, reach: number): number => Math.min(reach, Math.max(-reach, v));
    return inLab(
      'hueBands',
      Float32Array.from([
        0.002 + 0.02 * guard,
        1 / (0.01 + 0.09 * guard),
        intervals,
        ...table((h) => (limit(bandAt(of('hue'), h) * strength, 110) * Math.PI) / 180),
        ...table((h) => limit((bandAt(of('chroma'), h) / 100) * strength, 2)),
        ...table((h) => limit(bandAt(of('lightness'), h) * strength, 0.6)),
      ]),
    );
  },
});
