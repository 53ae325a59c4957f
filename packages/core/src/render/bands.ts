import { directionAt } from '../colour/gamut.ts';
import type { BandHandle } from './step.ts';

const intervals = 1024;
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

const limit = (v: number, reach: number): number => Math.min(reach, Math.max(-reach, v));

/** What the kernel of hue bands reads: neutrals guarded (0–1), then hue, chroma (%) and lightness moved round the circle. */
export function bandTables({
  hue,
  chroma,
  lightness,
  guard,
  strength,
}: Record<'hue' | 'chroma' | 'lightness', readonly BandHandle[]> & { guard: number; strength: number }): number[] {
  const moves = (handles: readonly BandHandle[]): number => Number(handles.some(([, value]) => value !== 0));
  return [
    0.002 + 0.02 * guard,
    1 / (0.01 + 0.09 * guard),
    ...[hue, chroma, lightness].map(moves),
    intervals,
    ...table((h) => (limit(bandAt(hue, h) * strength, 110) * Math.PI) / 180),
    ...table((h) => limit((bandAt(chroma, h) / 100) * strength, 2)),
    ...table((h) => limit(bandAt(lightness, h) * strength, 0.6)),
  ];
}
