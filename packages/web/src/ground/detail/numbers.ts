import { detailRanges, number, plainDetail, type Detail } from '@dyepot/core';

const { noise, softness, sharpness } = plainDetail,
  of = (
    label: string,
    unit: string,
    range: keyof typeof detailRanges,
    value: number,
    step: number,
    decimals: number,
  ): ReturnType<typeof number> => number(label, unit, detailRanges[range][0], detailRanges[range][1], value, step, decimals);

/** The numbers of detail as controls; a deviation is one of the frame's own measured noise. */
export const numbers = {
  lumaFine: of('Luma, finest', '×', 'deviations', noise.luma.fine, 0.1, 1),
  lumaCoarse: of('Luma, coarse', '×', 'deviations', noise.luma.coarse, 0.1, 1),
  colourFine: of('Colour, finest', '×', 'deviations', noise.colour.fine, 0.1, 1),
  colourCoarse: of('Colour, coarse', '×', 'deviations', noise.colour.coarse, 0.1, 1),
  darks: of('In the darks', '×', 'tone', noise.darks, 0.05, 2),
  lights: of('In the lights', '×', 'tone', noise.lights, 0.05, 2),
  share: number('Softness returned', '%', 0, 100, softness.share * 100, 1, 0),
  aperture: of('Aperture f/', '', 'aperture', 8, 0.1, 1),
  pitchUm: of('Pixel pitch', 'µm', 'pitchUm', 6, 0.1, 1),
  filterPx: of('Low-pass filter', 'px', 'filterPx', softness.filterPx, 0.01, 2),
  gain: of('Crest', '×', 'gain', sharpness.gain, 0.05, 2),
  sizePx: of('at', 'px', 'sizePx', sharpness.sizePx, 0.1, 1),
  coarsePx: of('Coarse foot', 'px', 'coarsePx', sharpness.coarsePx, 0.1, 1),
  finePx: of('Fine foot', 'px', 'finePx', sharpness.finePx, 0.1, 1),
  faint: of('Faint', '×', 'faint', sharpness.faint, 0.1, 1),
  strong: of('Strong', '×', 'strong', sharpness.strong, 1, 0),
  kept: number('Kept there', '%', 0, 100, sharpness.kept * 100, 1, 0),
} as const;
export type DetailNumber = keyof typeof numbers;
export type Values = Partial<Record<DetailNumber, number>>;

/** Those numbers as they stand; what the file has to say is filled in. */
export function valuesOf(
  { noise: n, softness: f, sharpness: s }: Detail,
  file: { aperture: number | null; pitchUm: number | null },
): Record<DetailNumber, number> {
  return {
    lumaFine: n.luma.fine,
    lumaCoarse: n.luma.coarse,
    colourFine: n.colour.fine,
    colourCoarse: n.colour.coarse,
    darks: n.darks,
    lights: n.lights,
    share: f.share * 100,
    aperture: f.aperture ?? file.aperture ?? numbers.aperture.default,
    pitchUm: f.pitchUm ?? file.pitchUm ?? numbers.pitchUm.default,
    filterPx: f.filterPx,
    gain: s.gain,
    sizePx: s.sizePx,
    coarsePx: s.coarsePx,
    finePx: s.finePx,
    faint: s.faint,
    strong: s.strong,
    kept: s.kept * 100,
  };
}
const limited = (v: number, name: 'sizePx' | 'coarsePx' | 'finePx' | 'strong'): number =>
  Math.min(detailRanges[name][1], Math.max(detailRanges[name][0], v));
/** Detail with some numbers changed; the crest pushes its feet along, and what is strong stays above what is faint. */
export function withValues(d: Detail, v: Values): Detail {
  const sharpness = {
    gain: v.gain ?? d.sharpness.gain,
    sizePx: v.sizePx ?? d.sharpness.sizePx,
    coarsePx: v.coarsePx ?? d.sharpness.coarsePx,
    finePx: v.finePx ?? d.sharpness.finePx,
    faint: v.faint ?? d.sharpness.faint,
    strong: v.strong ?? d.sharpness.strong,
    kept: v.kept === undefined ? d.sharpness.kept : v.kept / 100,
  };
  if (v.coarsePx !== undefined) sharpness.coarsePx = limited(Math.max(v.coarsePx, sharpness.sizePx * 1.1), 'coarsePx');
  if (v.finePx !== undefined) sharpness.finePx = limited(Math.min(v.finePx, sharpness.sizePx / 1.1), 'finePx');
  sharpness.coarsePx = limited(Math.max(sharpness.coarsePx, sharpness.sizePx * 1.1), 'coarsePx');
  sharpness.finePx = limited(Math.min(sharpness.finePx, sharpness.sizePx / 1.1), 'finePx');
  sharpness.strong = limited(Math.max(sharpness.strong, sharpness.faint * 2), 'strong');
  return {
    noise: {
      luma: { fine: v.lumaFine ?? d.noise.luma.fine, coarse: v.lumaCoarse ?? d.noise.luma.coarse },
      colour: { fine: v.colourFine ?? d.noise.colour.fine, coarse: v.colourCoarse ?? d.noise.colour.coarse },
      darks: v.darks ?? d.noise.darks,
      lights: v.lights ?? d.noise.lights,
    },
    softness: {
      share: v.share === undefined ? d.softness.share : v.share / 100,
      aperture: v.aperture ?? d.softness.aperture,
      pitchUm: v.pitchUm ?? d.softness.pitchUm,
      filterPx: v.filterPx ?? d.softness.filterPx,
    },
    sharpness,
  };
}
export interface DetailGraphProps {
  values: Record<DetailNumber, number>;
  onSet: (values: Values, gesture: string) => void;
}
