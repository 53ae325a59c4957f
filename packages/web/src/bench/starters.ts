import { common, maskOf, type Lane, type LookStep, type Mask } from '@dyepot/core';

/** Ordinary steps put in together, named by what they do: a place to begin, to be changed like any. */
export interface Starter {
  name: string;
  purpose: string;
  needs: readonly string[];
  lane: Lane;
  steps: readonly { kind: string; name: string; params: LookStep['params']; mask?: Mask }[];
  /** only among a frame's own steps: its brushes belong to one frame */
  bound?: boolean;
}
const brush = maskOf({ ...common, kind: 'brush', strokes: [] }),
  pool = (x: number, y: number, wide: number, high: number, turn = 0): Mask =>
    maskOf({ ...common, kind: 'radial', centre: [x, y], radii: [wide, high], turn, feather: 0.9 });
export const starters: readonly Starter[] = [
  {
    name: 'Dodge and burn',
    purpose: 'Two brushes: half a stop lighter, half a stop darker, as light would be',
    needs: ['dodge', 'burn', 'lighten', 'darken', 'paint light'],
    lane: 'scene',
    bound: true,
    steps: [
      { kind: 'exposure', name: 'Burn', params: { shiftEv: -0.5 }, mask: brush },
      { kind: 'exposure', name: 'Dodge', params: { shiftEv: 0.5 }, mask: brush },
    ],
  },
  {
    name: 'Light pool',
    purpose: 'A pool of warmer light in the picture',
    needs: ['spotlight', 'pool of light', 'lift a face', 'subject'],
    lane: 'scene',
    steps: [
      { kind: 'exposure', name: 'Light pool', params: { shiftEv: 0.7 }, mask: pool(0.5, 0.5, 0.3, 0.22) },
      { kind: 'warmth', name: 'Its warmth', params: { shiftMired: 12 }, mask: pool(0.5, 0.5, 0.3, 0.22) },
    ],
  },
  {
    name: 'Light rays',
    purpose: 'Three shafts of light from above, one step',
    needs: ['sun rays', 'shafts', 'god rays', 'beams'],
    lane: 'scene',
    steps: [
      {
        kind: 'exposure',
        name: 'Light rays',
        params: { shiftEv: 0.5 },
        mask: {
          ...maskOf(
            ...pool(0.62, 0.2, 0.5, 0.05, 118).parts,
            ...pool(0.52, 0.2, 0.55, 0.04, 106).parts,
            ...pool(0.72, 0.2, 0.45, 0.04, 130).parts,
          ),
          feather: 0.006,
        },
      },
    ],
  },
  {
    name: 'Edges darker, but not here',
    purpose: 'Darker towards the edges, with a pool that is spared',
    needs: ['vignette', 'edges', 'spare the light'],
    lane: 'scene',
    steps: [
      {
        kind: 'exposure',
        name: 'Edges',
        params: { shiftEv: -0.8 },
        mask: maskOf(
          { ...common, kind: 'radial', centre: [0.5, 0.5], radii: [0.62, 0.5], turn: 0, feather: 0.8, inverted: true },
          { ...common, kind: 'radial', centre: [0.5, 0.5], radii: [0.2, 0.2], turn: 0, feather: 0.9, mode: 'subtract' },
        ),
      },
    ],
  },
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
