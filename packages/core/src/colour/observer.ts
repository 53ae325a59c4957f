/**
 * CIE 1931 2° colour-matching functions by the multi-lobe fit of Wyman, Sloan and Shirley 2013
 * ("Simple Analytic Approximations to the CIE XYZ Color Matching Functions", JCGT 2:2).
 * @param nanometres wavelength, 380–780
 */
export function colourMatching(nanometres: number): [number, number, number] {
  const lobe = (mean: number, below: number, above: number): number => {
    const t = (nanometres - mean) * (nanometres < mean ? below : above);
    return Math.exp(-0.5 * t * t);
  };
  return [
    0.362 * lobe(442.0, 0.0624, 0.0374) + 1.056 * lobe(599.8, 0.0264, 0.0323) - 0.065 * lobe(501.1, 0.049, 0.0382),
    0.821 * lobe(568.8, 0.0213, 0.0247) + 0.286 * lobe(530.9, 0.0613, 0.0322),
    1.217 * lobe(437.0, 0.0845, 0.0278) + 0.681 * lobe(459.0, 0.0385, 0.0725),
  ];
}

/** Planck's law, relative to its value at 560 nm. */
export function blackbody(nanometres: number, kelvin: number): number {
  const radiance = (nm: number): number => Math.pow(nm, -5) / (Math.exp(1.4388e7 / (nm * kelvin)) - 1);
  return radiance(nanometres) / radiance(560);
}

/** CIE 015 daylight components S0, S1, S2 from 380 to 720 nm in steps of 20 nm. */
const daylightComponents: readonly (readonly [number, number, number])[] = [
  [63.4, 38.5, 3.0],
  [94.8, 43.4, -1.1],
  [105.9, 43.9, -0.7],
  [113.9, 36.7, -2.6],
  [125.5, 32.6, -2.8],
  [121.3, 24.3, -2.6],
  [113.1, 16.2, -1.5],
  [106.5, 8.6, -1.2],
  [105.3, 4.2, -0.5],
  [100.0, 0.0, 0.0],
  [95.1, -3.5, 0.5],
  [90.5, -5.8, 3.2],
  [88.4, -8.6, 4.7],
  [85.1, -10.9, 6.7],
  [82.6, -12.0, 8.6],
  [81.3, -13.6, 10.2],
  [74.3, -13.3, 9.6],
  [63.3, -10.6, 7.0],
];

/** Chromaticity of CIE daylight (CIE 015), 4000–25000 K. */
export function daylightChromaticity(kelvin: number): [number, number] {
  const t = kelvin;
  const x =
    t <= 7000
      ? -4.607e9 / t ** 3 + 2.9678e6 / t ** 2 + 0.09911e3 / t + 0.244063
      : -2.0064e9 / t ** 3 + 1.9018e6 / t ** 2 + 0.24748e3 / t + 0.23704;
  return [x, -3 * x * x + 2.87 * x - 0.275];
}

/** Relative spectral power of CIE daylight (CIE 015), 100 at 560 nm divided by 100; linear between 20 nm knots. */
export function daylight(nanometres: number, kelvin: number): number {
  const [x, y] = daylightChromaticity(kelvin);
  const m = 0.0241 + 0.2562 * x - 0.7341 * y;
  const m1 = (-1.3515 - 1.7703 * x + 5.9114 * y) / m;
  const m2 = (0.03 - 31.4424 * x + 30.0717 * y) / m;
  const at = Math.min(Math.max((nanometres - 380) / 20, 0), daylightComponents.length - 1.001);
  const i = Math.floor(at);
  const value = (k: number): number => {
    const [s0, s1, s2] = daylightComponents[k]!;
    return s0 + m1 * s1 + m2 * s2;
  };
  return (value(i) * (1 - at + i) + value(i + 1) * (at - i)) / 100;
}
