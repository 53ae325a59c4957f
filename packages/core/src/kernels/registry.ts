/**
 * Every kernel a pass can call, and what it needs:
 * - `point`: the pixel alone;
 * - `rows`: the place of each row in the whole picture (`zones` the frame's guide besides);
 * - `place`: where the pixel lies on the uncropped frame;
 * - `field`: a random field that belongs to the film plane;
 * - `map`: small fields of the whole picture as it is just before the pass;
 * - `area`: the pixel's neighbours, as far as the pass says;
 * - `bracket`: planes put aside before some passes and joined with what came of them.
 */
export const kernelNeeds = {
  ends: 'point',
  matrix: 'point',
  rootPolynomial: 'point',
  intoGamut: 'point',
  response: 'point',
  toLab: 'point',
  fromLab: 'point',
  saturation: 'point',
  grade: 'point',
  mono: 'point',
  curve: 'point',
  hueBands: 'point',
  colourRange: 'point',
  vibrance: 'point',
  curves: 'point',
  curveLuminance: 'point',
  curveLightness: 'point',
  contrast: 'point',
  affine: 'point',
  affineTable: 'point',
  acescct: 'point',
  filmPlaces: 'point',
  lut3d: 'point',
  lut1d: 'point',
  toneColour: 'point',
  wash: 'point',
  vignette: 'place',
  veil: 'place',
  border: 'place',
  overprint: 'place',
  grain: 'field',
  zones: 'rows',
  lensGain: 'rows',
  localContrast: 'map',
  haze: 'map',
  glow: 'map',
  crispness: 'area',
  scatter: 'area',
  hold: 'bracket',
  join: 'bracket',
} as const satisfies Record<string, Need>;
export type Need = 'point' | 'rows' | 'place' | 'field' | 'map' | 'area' | 'bracket';
export type KernelWith<N extends Need> = {
  [K in keyof typeof kernelNeeds]: (typeof kernelNeeds)[K] extends N ? K : never;
}[keyof typeof kernelNeeds];
export type PointwiseKernel = KernelWith<'point'>;
