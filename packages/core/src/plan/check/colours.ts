import { ciede2000 } from '../../colour/difference.ts';
import { apply3, type Vector3 } from '../../colour/matrix.ts';
import { rec2020ToOklab } from '../../colour/oklab.ts';
import { displayP3, rec2020To, srgb } from '../../colour/spaces.ts';
import { emptyLook, type Look } from '../../look/look.ts';
import { stripColours } from '../dyestrip.ts';
import { comparedColours } from '../nearness.ts';
import { finding, labOf, type Finding, type Hexes, type Send } from './finding.ts';

/** Skins (three of the dye strip's chips, at three exposures) and how far they go from where the plain response has them. */
export function skinsOf(send: Send, look: Look, plain: Look, bound: number, hexes: Hexes): Finding[] {
  const skins = [-1, 0, 1].flatMap((ev) => stripColours.slice(5, 8).map((c) => c.map((v) => v * 2 ** ev) as unknown as Vector3)),
    before = send(plain, skins),
    after = send(look, skins);
  const far = after.map((c, i) => {
      const [, a, b] = labOf(c),
        [l, a0, b0] = labOf(before[i]!);
      return ciede2000([l, a, b], [l, a0, b0]);
    }),
    most = Math.max(...far);
  if (most < bound) return [];
  const colourless = after.every((c) => {
    const [, a, b] = rec2020ToOklab(c);
    return Math.hypot(a, b) < 0.02;
  });
  return [
    finding(
      'skins',
      colourless ? 'said' : 'weak',
      most,
      'ΔE',
      colourless
        ? `skins keep no colour (ΔE ${most.toFixed(1)} beside lightness)`
        : `skins go ΔE ${most.toFixed(1)} from where they were, lightness left out; ${far.filter((v) => v >= bound).length} of ${far.length} go beyond ${bound}`,
      {
        chips: hexes(before, after),
      },
    ),
  ];
}
/** Colours of which nothing is left to tell in a channel. */
export function clipsOf(send: Send, look: Look, hexes: Hexes): Finding[] {
  const lit = comparedColours.filter((c) => Math.max(...c) <= 1 && Math.min(...c) > 0.01),
    after = send(look, lit),
    lost = after.flatMap((c, i) => (Math.max(...c) >= 1 || Math.max(...c) <= 0.0005 ? [i] : [])),
    share = (lost.length / lit.length) * 100;
  if (share < 1) return [];
  const shown = lost.slice(0, 8);
  return [
    finding(
      'clips',
      share > 10 ? 'weak' : 'said',
      share,
      '%',
      `${share.toFixed(0)} % of colours within the picture's light reach its end: nothing is told apart there`,
      {
        chips: hexes(
          send(
            emptyLook('plain'),
            shown.map((i) => lit[i]!),
          ),
          shown.map((i) => after[i]!),
        ),
      },
    ),
  ];
}
/** Colours that leave the screen's solids, before they are drawn in. */
export function gamutOf(send: Send, look: Look, hexes: Hexes): Finding[] {
  const after = send(look, comparedColours),
    leaves = (primaries: typeof srgb): number[] => {
      const to = rec2020To(primaries);
      return after.flatMap((c, i) => (Math.min(...apply3(to, c)) < -0.004 ? [i] : []));
    };
  const [small, wide] = [leaves(srgb), leaves(displayP3)],
    share = (list: number[]): number => (list.length / after.length) * 100;
  if (share(small) < 2) return [];
  return [
    finding(
      'gamut',
      share(wide) > 15 ? 'weak' : 'said',
      share(small),
      '%',
      `${share(small).toFixed(0)} % of the compared colours leave sRGB and ${share(wide).toFixed(0)} % leave Display P3; they are drawn in at their hue`,
      {
        chips: hexes(
          send(
            emptyLook('plain'),
            small.slice(0, 8).map((i) => comparedColours[i]!),
          ),
          small.slice(0, 8).map((i) => after[i]!),
        ),
      },
    ),
  ];
}
/** What a warm and a cool light leave of neutrality, as multiples of red, green, blue (about 1,200 K to either side; by eye). */
const warm: Vector3 = [1.14, 1, 0.82],
  cool: Vector3 = [0.88, 1, 1.2];
/** How differently a look moves colours that stand in a warmer and in a cooler light. */
export function lightsOf(send: Send, look: Look, plain: Look): Finding[] {
  const moves = (light: Vector3): Vector3[] => {
    const lit = comparedColours.map((c) => c.map((v, k) => v * light[k]!) as unknown as Vector3),
      before = send(plain, lit).map(labOf);
    return send(look, lit).map((c, i) => labOf(c).map((v, k) => v - before[i]![k]!) as unknown as Vector3);
  };
  const [p, q] = [moves(warm), moves(cool)],
    mean = p.reduce((sum, m, i) => sum + Math.hypot(...m.map((v, k) => v - q[i]![k]!)), 0) / p.length;
  if (mean < 7) return [];
  return [
    finding(
      'lights',
      mean > 14 ? 'weak' : 'said',
      mean,
      'ΔE',
      `it moves the same colours differently in a warm and in a cool light, by ${mean.toFixed(1)} in the mean: look at it in both before it is shared`,
    ),
  ];
}
