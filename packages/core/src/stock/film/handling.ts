import { lightOf, bell, edge, spectrumOf, type Spectrum } from '../../colour/spectrum.ts';
import { filterSpectrum, type LensFilter } from '../../colour/lensFilters.ts';
import { lately } from './lately.ts';
import type { Layer, StockSheet } from './sheet.ts';

/** How a sheet is used: what changes from roll to roll and print to print. */
export interface Handling {
  /** stops that the film is rated over its speed (under it: negative), and pushed in development */
  ratedEv: number;
  pushStops: number;
  /** contrast and colour against the sheet's, 1 being as it is */
  contrast: number;
  colour: number;
  /** the print lighter or darker, in stops of middle grey */
  printEv: number;
  filter: LensFilter;
  /** whether what the filter takes is given back */
  compensated: boolean;
}
export const asDesigned: Handling = {
  ratedEv: 0,
  pushStops: 0,
  contrast: 1,
  colour: 1,
  printEv: 0,
  filter: 'none',
  compensated: true,
};
/** What a layer sees, wavelength by wavelength. */
export const sees = ({ cut, ...b }: Layer): Spectrum => spectrumOf((nm) => bell(b, nm) * (cut > 0 ? edge(cut, nm) : 1));

type Exposing = (reflected: Spectrum) => number[];
const known = lately<Exposing>(12);
/** How reflectances expose the layers under the scene's light, through the filter: the same function where all of that is the same. */
export function exposing(sheet: StockSheet, { filter, compensated }: Handling): Exposing {
  const { balancedForKelvin, corrected, layers } = sheet;
  return known(JSON.stringify([balancedForKelvin, corrected, layers, filter, compensated]), () =>
    exposingBy({ balancedForKelvin, corrected, layers }, filter, compensated),
  );
}
function exposingBy(
  sheet: Pick<StockSheet, 'balancedForKelvin' | 'corrected' | 'layers'>,
  filter: LensFilter,
  compensated: boolean,
): Exposing {
  const balanced = lightOf(sheet.balancedForKelvin),
    scene = sheet.corrected ? balanced : lightOf(5500),
    through = filterSpectrum(filter),
    total = (light: Spectrum, layer: Spectrum): number => light.reduce((sum, v, i) => sum + v * layer[i]!, 0);
  const layers = sheet.layers.map(sees),
    key = layers[Math.min(1, layers.length - 1)]!,
    lit = scene.map((v, i) => v * through[i]!),
    // the light is metered as the green layer, or the only one, sees it
    level = total(scene, key) / total(balanced, key),
    loss = compensated ? total(lit, key) / total(scene, key) : 1;
  const weights = layers.map((layer) => {
    const white = total(balanced, layer) * level * loss;
    return layer.map((v, i) => (v * lit[i]!) / white);
  });
  return (reflected) => weights.map((w) => dot(w, reflected));
}

/** The sum of two spectra's products. */
function dot(a: Spectrum, b: Spectrum): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
