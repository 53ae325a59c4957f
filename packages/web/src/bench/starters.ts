import type { Lane, LookStep } from '@dyepot/core';

/** Ordinary steps put in together, named by what they do: a place to begin, to be changed like any. */
export interface Starter {
  name: string;
  purpose: string;
  needs: readonly string[];
  lane: Lane;
  steps: readonly { kind: string; name: string; params: LookStep['params'] }[];
}
export const starters: readonly Starter[] = [
  {
    name: 'Sky as through a polarising filter',
    purpose: 'Blue darker and deeper, haze cleared; rocks and greys stay',
    needs: ['polariser', 'dramatic sky', 'darker blue', 'clear air'],
    lane: 'print',
    steps: [
      { kind: 'haze', name: 'Air cleared', params: { amount: 22 } },
      { kind: 'hueBands', name: 'Sky deepened', params: { lightness: [[250, -0.13, 55]], chroma: [[250, 22, 55]] } },
    ],
  },
  {
    name: 'Light through mist',
    purpose: 'Mist between here and there, and a low light that shines through it',
    needs: ['fog', 'mist', 'rays', 'dreamy', 'morning'],
    lane: 'print',
    steps: [
      { kind: 'haze', name: 'Mist', params: { amount: -26 } },
      { kind: 'lowSun', name: 'Light through it', params: { light: 55, x: 70, y: -15, reach: 120, warmth: 60, haze: 52 } },
      { kind: 'glow', name: 'Scattered', params: { share: 18, size: 6, from: 50 } },
    ],
  },
  {
    name: 'Washed-out paper',
    purpose: 'Blacks lifted, whites softened to paper, colour held back',
    needs: ['faded', 'matte', 'old print', 'paper'],
    lane: 'print',
    steps: [
      { kind: 'saturation', name: 'Colour held back', params: { change: -24 } },
      { kind: 'fade', name: 'Paper', params: { lift: 9, liftHue: 50, liftChroma: 0.012, soften: 6, softenHue: 88, softenChroma: 0.018 } },
    ],
  },
  {
    name: 'Evening gold',
    purpose: 'Warm lights against cool darks, with a sun low beside the picture',
    needs: ['golden', 'sunset', 'evening', 'warm light'],
    lane: 'print',
    steps: [
      { kind: 'grade', name: 'Gold and dusk', params: { lightsHue: 76, lightsChroma: 0.03, darksHue: 262, darksChroma: 0.014 } },
      { kind: 'lowSun', name: 'Sun beside it', params: { light: 48, x: 112, y: 22, reach: 110, warmth: 130, haze: 34 } },
    ],
  },
];
