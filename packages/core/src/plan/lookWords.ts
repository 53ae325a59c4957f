import type { Kernels } from '../kernels/kernels.ts';
import { stepKind } from '../look/kinds.ts';
import { stepName, titleOf } from '../look/differences.ts';
import { emptyLook, stepsOf, type Look } from '../look/look.ts';
import { coloursOf, comparedColours, greyAt } from './nearness.ts';

/**
 * What a look can be found by besides its name and notes: its steps, and in words what it makes of greys and colours
 * ("warm", "lifted blacks", "blue darks"). Bounds are in L*, a*b* and shares of the plain response's chroma; by eye on the demo's looks.
 */
export function lookWords(kernels: Kernels, look: Look): { steps: string[]; words: string[] } {
  const before = coloursOf(kernels, emptyLook('plain')),
    after = coloursOf(kernels, look),
    lab = (of: Float32Array, i: number): [number, number, number] => [of[i * 3]!, of[i * 3 + 1]!, of[i * 3 + 2]!];
  const [black, dark, middle, light, white] = [-6, -2.5, 0, 1.5, 3].map((ev) => lab(after, greyAt(ev))) as [
    [number, number, number],
    [number, number, number],
    [number, number, number],
    [number, number, number],
    [number, number, number],
  ];
  const words: string[] = [],
    say = (when: boolean, ...said: string[]): void => void (when && words.push(...said));
  say(black[0] > 8, 'lifted blacks', 'matte', 'faded');
  say(white[0] < 95, 'softened whites');
  const plain = [-2.5, 0, 1.5].map((ev) => lab(before, greyAt(ev))[0]) as [number, number, number],
    slope = (light[0] - dark[0]) / (plain[2] - plain[0]);
  say(slope > 1.12, 'contrasty', 'hard', 'firm');
  say(slope < 0.88, 'soft', 'low contrast', 'gentle');
  say(middle[0] > plain[1] + 6, 'bright', 'light', 'airy');
  say(middle[0] < plain[1] - 6, 'dark', 'low key', 'moody');
  for (const [place, [, a, b]] of [
    ['darks', dark],
    ['middles', middle],
    ['lights', light],
  ] as const) {
    const chroma = Math.hypot(a, b);
    say(chroma > 3, `${tintWord(a, b)} ${place}`);
  }
  const [, a, b] = [0, 1, 2].map((k) => (dark[k]! + middle[k]! + light[k]!) / 3) as [number, number, number],
    chroma = (of: Float32Array): number =>
      comparedColours.reduce(
        (sum, _, i) => sum + Math.hypot(of[i * 3 + 1]! - of[greyAt(0) * 3 + 1]!, of[i * 3 + 2]! - of[greyAt(0) * 3 + 2]!),
        0,
      );
  say(b > 3 && a > -3, 'warm', 'golden');
  say(b < -3, 'cool', 'cold');
  say(a < -4, 'green');
  say(a > 5, 'pink', 'magenta');
  const colour = chroma(after) / chroma(before);
  say(colour < 0.25, 'black and white', 'monochrome');
  say(colour >= 0.25 && colour < 0.8, 'muted', 'desaturated', 'quiet');
  say(colour > 1.15, 'vivid', 'saturated', 'rich');
  const steps = stepsOf(look)
    .filter((s) => s.on)
    .flatMap((s) => [stepName(s), titleOf(s), ...(s === look.stock ? [] : (stepKind(s.kind)?.needs ?? []).slice(0, 4))]);
  return { steps: [...new Set(steps)], words };
}
/** A tint in a word, by its angle in a*b*. */
function tintWord(a: number, b: number): string {
  const hue = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360,
    words = ['pink', 'red', 'orange', 'yellow', 'olive', 'green', 'teal', 'cyan', 'blue', 'blue', 'violet', 'magenta'];
  return words[Math.round(hue / 30) % 12]!;
}
