import type { Vector3 } from '../../colour/matrix.ts';
import { encodeSrgb } from '../../colour/transfer.ts';
import { clipped, finding, labOf, type Finding } from './finding.ts';

const evs = Array.from({ length: 2305 }, (_, i) => -8 + i / 192);
/** Greys from eight stops under middle grey to four over it. */
export const ramp = evs.map((ev): Vector3 => Array<number>(3).fill(0.18 * 2 ** ev) as unknown as Vector3);
const at = (ev: number): string =>
  Math.abs(ev) < 0.05 ? 'at middle grey' : `${ev > 0 ? '+' : '−'}${Math.abs(ev).toFixed(1)} EV from middle grey`;
/** The plain picture's code from which on a tone is looked at: what is darker is black to the eye. */
const darkest = 10;

/** Tones that grow darker while the light grows. */
export function foldsIn(tones: readonly Vector3[]): Finding[] {
  const light = tones.map((c) => labOf(c)[0]);
  let top = light[0]!,
    worst = 0,
    where = 0;
  light.forEach((l, i) => {
    if (l > top) top = l;
    else if (top - l > worst) [worst, where] = [top - l, i];
  });
  if (worst < 0.25) return [];
  return [
    finding('folds', 'weak', worst, 'L*', `tones fold back: more light gives less, by ${worst.toFixed(1)} L* ${at(evs[where]!)}`, {
      tones: thinned(light),
    }),
  ];
}
const thinned = (values: readonly number[]): [number, number][] =>
  values.flatMap((v, i) => (i % 24 === 0 ? [[evs[i]!, Math.round(v * 100) / 100] as [number, number]] : []));

/** Neighbouring tones that leap, and tones drawn so far apart that a picture of 8 bits bands. */
export function jumpsIn(tones: readonly Vector3[], plain: readonly Vector3[]): Finding[] {
  const codes = (list: readonly Vector3[]): number[] => list.map((c) => encodeSrgb(clipped(c)[1]) * 255),
    [own, were] = [codes(tones), codes(plain)];
  const out: Finding[] = [];
  let leap = 0,
    leapAt = 0,
    stretch = 0,
    stretchAt = 0;
  for (let i = 1; i < own.length; i++) {
    const step = Math.abs(own[i]! - own[i - 1]!);
    if (step > leap) [leap, leapAt] = [step, i];
  }
  // over a whole code of the plain picture, where there is any light to speak of
  for (let i = were.findIndex((v) => v >= darkest), j = i; i < own.length; i++) {
    while (j < own.length && were[j]! - were[i]! < 4) j++;
    if (j === own.length) break;
    const gain = (own[j]! - own[i]!) / (were[j]! - were[i]!);
    if (gain > stretch) [stretch, stretchAt] = [gain, i];
  }
  if (leap > 3)
    out.push(
      finding(
        'jumps',
        'weak',
        leap,
        'codes',
        `tones leap by ${leap.toFixed(1)} of 255 codes between neighbours, ${at(evs[leapAt]!)}: gradients show an edge there`,
      ),
    );
  if (stretch > 2.5)
    out.push(
      finding(
        'stretch',
        stretch > 4 ? 'weak' : 'said',
        stretch,
        '×',
        `tones are drawn apart ${stretch.toFixed(1)} times ${at(evs[stretchAt]!)}: an 8-bit picture or a noisy dark bands and shows its grain there`,
      ),
    );
  return out;
}
/** Greys that take a colour. */
export function greysOf(tones: readonly Vector3[], bound: number): Finding[] {
  const chroma = tones.map((c) => {
      const [, a, b] = labOf(c);
      return Math.hypot(a, b);
    }),
    most = Math.max(...chroma);
  if (most < bound) return [];
  const where = chroma.indexOf(most),
    [, a, b] = labOf(tones[where]!),
    hue = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
  return [
    finding(
      'greys',
      most > 12 ? 'weak' : 'said',
      most,
      'C*',
      `greys lose their neutrality, most of all ${at(evs[where]!)}: chroma ${most.toFixed(1)} towards ${hueWord(hue)}`,
      {
        tones: thinned(chroma),
      },
    ),
  ];
}
/** A CIELAB hue in a word. */
function hueWord(hue: number): string {
  const words = ['pink', 'red', 'orange', 'yellow', 'lime', 'green', 'teal', 'cyan', 'sky', 'blue', 'violet', 'magenta'];
  return words[Math.round(hue / 30) % 12]!;
}
