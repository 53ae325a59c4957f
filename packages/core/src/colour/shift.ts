import { d65 } from './spaces.ts';
import { planckian, temperatureOf, uvToXy, xyToUv } from './temperature.ts';

const d65Temperature = temperatureOf(d65),
  whiteMired = 1e6 / d65Temperature.kelvin;

/**
 * The white that D65 becomes when moved by a mired shift and a tint (Duv): along the isotemperature lines, keeping D65's
 * own distance from Planck's locus, so that the shift is exactly the mired asked for.
 */
export function shiftedWhite(shiftMired: number, tintDuv: number): [number, number] {
  const place = (mired: number, duv: number): [number, number] => {
    const p = planckian(mired);
    return [p.u + p.normal[0] * duv, p.v + p.normal[1] * duv];
  };
  // what the table's interpolation misses at D65 itself is taken along, so that no shift is no change
  const [u, v] = xyToUv(d65),
    base = place(whiteMired, d65Temperature.tintDuv),
    moved = place(whiteMired + shiftMired, d65Temperature.tintDuv + tintDuv);
  return uvToXy([moved[0] + u - base[0], moved[1] + v - base[1]]);
}
