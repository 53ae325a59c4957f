import { tintOf } from '../../colour/tint.ts';
import type { Vector3 } from '../../colour/matrix.ts';
import { veilPass } from '../../render/veilPass.ts';
import { choice, defineStep, number, numberOf } from '../../render/step.ts';

/** Places of the edges, and which way is in. */
const edges = {
  left: { at: (t: number) => [0, t] as const, degrees: 0 },
  right: { at: (t: number) => [1, t] as const, degrees: 180 },
  top: { at: (t: number) => [t, 0] as const, degrees: 90 },
  bottom: { at: (t: number) => [t, 1] as const, degrees: -90 },
};
/** Numbers of 0–1 that follow from a seed (Mulberry32). */
function following(seed: number): () => number {
  let a = seed | 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
/** Strongest at the edge, gone at its reach, without a corner at either end. */
const fall = (t: number): number => (1 - t * t) ** 2 * (0.35 + 0.65 * (1 - t));

/** Light that came into the camera beside the lens: added to the picture's, from an edge inwards. */
export const leak = defineStep({
  kind: 'leak',
  lane: 'print',
  name: 'Light leak',
  purpose: 'Stray light from an edge of the film',
  atStrength: 'multiplies the light',
  note: 'Places and reach are of the uncropped frame. Several leaks differ in place, reach, width and hue; a take is one of many such',
  needs: ['light leak', 'stray light', 'burn', 'flare', 'old camera'],
  params: {
    light: number('Light', '%', 0, 200, 0, 1, 0),
    edge: choice(
      'From',
      [
        ['left', 'the left'],
        ['right', 'the right'],
        ['top', 'the top'],
        ['bottom', 'the bottom'],
      ],
      'right',
    ),
    place: number('Along the edge', '%', 0, 100, 40, 1, 0),
    angle: number('Angle', '°', -70, 70, 0, 1, 0),
    reach: number('Reach', '%', 3, 120, 35, 1, 0),
    width: number('Width', '%', 3, 120, 40, 1, 0),
    hue: number('Hue', '°', 0, 360, 45, 1, 0),
    colour: number('Colour', '%', 0, 100, 85, 1, 0),
    count: number('How many', '', 1, 6, 1, 1, 0),
    take: number('Take', '', 1, 99, 1, 1, 0),
  },
  unbakeable: 'a table does not know places',
  compile: (values, strength) => {
    const share = (name: string): number => numberOf(values, name) / 100,
      light = share('light') * strength;
    if (light === 0) return [];
    const edge = edges[values['edge'] as keyof typeof edges],
      chance = following(numberOf(values, 'take') * 7919);
    return Array.from({ length: Math.round(numberOf(values, 'count')) }, (_, i) => {
      // the first is as it is said
      const about = (spread: number): number => (i === 0 ? 0 : (2 * chance() - 1) * spread),
        [x, y] = edge.at(Math.min(1, Math.max(0, share('place') + about(0.5)))),
        size = 2 ** about(1),
        plus = tintOf(numberOf(values, 'hue') + about(25), share('colour')).map((v) => v * light * 0.9 * 2 ** about(0.8));
      return veilPass({
        x,
        y,
        degrees: edge.degrees + numberOf(values, 'angle') + about(25),
        along: share('reach') * size,
        across: share('width') * size * 2 ** about(0.6),
        round: false,
        times: [0, 0, 0],
        plus: plus as unknown as Vector3,
        fall,
      });
    });
  },
});
