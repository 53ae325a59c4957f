import { shiftedWhite } from '../../colour/shift.ts';
import { apply3, type Vector3 } from '../../colour/matrix.ts';
import { xyToXyz, xyzToRec2020 } from '../../colour/spaces.ts';
import { veilPass } from '../../render/veilPass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** A source's light over the distance: near it strong, far off none, without an edge. */
const fall = (t: number): number => ((1 - t * t) ** 2 * 0.22) / (0.22 + t * t);

/** A low sun in or out of the picture: its light lies warm over what is near it, and the haze between lifts the darks. Nothing is softened. */
export const lowSun = defineStep({
  kind: 'lowSun',
  lane: 'print',
  name: 'Low sun',
  purpose: 'Warm light from a place in or out of the picture',
  atStrength: 'multiplies the light',
  note: 'Place is of the uncropped frame, beyond it too. Light multiplies what is there by its warm colour; haze adds to it',
  needs: ['sun', 'golden hour', 'evening', 'backlight', 'sunset', 'rays'],
  params: {
    light: number('Light', '%', 0, 200, 0, 1, 0),
    x: number('Across', '%', -60, 160, 85, 1, 0),
    y: number('Down', '%', -60, 160, 5, 1, 0),
    reach: number('Reach', '%', 10, 200, 90, 1, 0),
    warmth: number('Warmth', 'mired', 0, 250, 110, 5, 0),
    haze: number('Haze', '%', 0, 100, 40, 1, 0),
  },
  unbakeable: 'a table does not know places',
  compile: (values, strength) => {
    const light = (numberOf(values, 'light') / 100) * strength;
    if (light === 0) return [];
    const white = apply3(xyzToRec2020, xyToXyz(shiftedWhite(numberOf(values, 'warmth'), 0))),
      haze = numberOf(values, 'haze') / 100,
      reach = numberOf(values, 'reach') / 100;
    return [
      veilPass({
        x: numberOf(values, 'x') / 100,
        y: numberOf(values, 'y') / 100,
        degrees: 0,
        along: reach,
        across: reach,
        round: true,
        // what is lit warmly, seen through as much haze as shines of the sun
        times: white.map((v) => Math.max(-0.95, light * ((1.35 * v - 1) * (1 - haze) - 0.5 * haze))) as unknown as Vector3,
        plus: white.map((v) => Math.max(0, v) * light * haze * 0.5) as unknown as Vector3,
        fall,
      }),
    ];
  },
});
