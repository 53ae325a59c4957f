import { luminanceOf } from '../../colour/luminance.ts';
import { chain3, type Matrix3 } from '../../colour/matrix.ts';
import { oklabToRec2020 } from '../../colour/oklab.ts';
import { shiftedWhite } from '../../colour/shift.ts';
import { adapt, d65, rec2020ToXyz, xyToXyz, xyzToRec2020 } from '../../colour/spaces.ts';
import { choice, defineStep, number, numberOf } from '../../render/step.ts';

/** Transmission of red, green and blue light by a filter of a hue (OKLab degrees) at density 1: the fullest channel passes, the least a tenth or so. */
export function gelTransmission(hue: number, density: number): [number, number, number] {
  const a = (hue * Math.PI) / 180,
    c = oklabToRec2020([0.72, 0.16 * Math.cos(a), 0.16 * Math.sin(a)]).map((v) => Math.max(0.03, v)),
    top = Math.max(...c);
  // densities add: transmission is a power of the density (Bouguer, Lambert)
  return c.map((v) => (v / top) ** density) as [number, number, number];
}

/** A coloured filter before the lens: transmission in linear light, and warming or cooling in mired, which add. */
export const gel = defineStep({
  kind: 'gel',
  lane: 'scene',
  name: 'Gel',
  purpose: 'A coloured filter before the lens',
  atStrength: 'multiplies density and mired',
  needs: ['filter', 'gel', 'warming filter', 'cooling filter', 'sepia light', 'stage light'],
  params: {
    hue: number('Hue', '°', 0, 360, 60, 1, 0),
    density: number('Density', '', 0, 2, 0, 0.01, 2),
    mired: number('Warming', 'mired', -70, 90, 0, 1, 0),
    light: choice(
      'Luminance',
      [
        ['kept', 'kept, as if exposed for it'],
        ['lost', 'lost, as the filter takes it'],
      ],
      'kept',
    ),
  },
  compile: (values, strength) => {
    const density = numberOf(values, 'density') * strength,
      mired = numberOf(values, 'mired') * strength;
    if (density === 0 && mired === 0) return [];
    const t = gelTransmission(numberOf(values, 'hue'), density),
      warm: Matrix3 =
        mired === 0
          ? [1, 0, 0, 0, 1, 0, 0, 0, 1]
          : chain3(xyzToRec2020, adapt(xyToXyz(d65), xyToXyz(shiftedWhite(mired, 0))), rec2020ToXyz);
    const m = chain3([t[0], 0, 0, 0, t[1], 0, 0, 0, t[2]], warm),
      row = (i: number): number => m[i * 3]! + m[i * 3 + 1]! + m[i * 3 + 2]!,
      white = luminanceOf(row(0), row(1), row(2)),
      most = Math.max(row(0), row(1), row(2));
    // a filter never adds light
    const gain = values['light'] === 'kept' ? 1 / white : 1 / Math.max(1, most);
    return [{ kernel: 'matrix', parameters: m.map((v) => v * gain) }];
  },
});
