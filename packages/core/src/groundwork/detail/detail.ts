/**
 * What is done to a frame's details: noise over size and brightness, softness of the optics returned, sharpness over size and
 * contrast. A size is that of one light and one dark line together, in pixels of the full picture.
 */
export interface Detail {
  noise: {
    /** how many of the noise's own deviations a detail has to stand out by, where it is finest and where it is coarsest; 0–5, 0 takes nothing */
    luma: Ends;
    colour: Ends;
    /** factors of both in the darkest and in the brightest places, 0–3; between them they go evenly over √light */
    darks: number;
    lights: number;
  };
  softness: {
    /** how much of what aperture and filter took is returned, 0–1 */
    share: number;
    /** f-number and micrometres from pixel to pixel; null: as the file says */
    aperture: number | null;
    pitchUm: number | null;
    /** spread (standard deviation) of the low-pass filter before the sensor, 0–0.8 px; 0 where the camera has none */
    filterPx: number;
  };
  sharpness: {
    /** added to details of the crest's size, in shares of themselves: −1 takes them away, 3 makes four of them */
    gain: number;
    /** size at the crest, and where the response has fallen to nothing on the coarse and on the fine side, px */
    sizePx: number;
    coarsePx: number;
    finePx: number;
    /** contrast a place needs, and that at which an edge is strong, in deviations of the frame's noise */
    faint: number;
    strong: number;
    /** share of the response that strong edges keep, 0–1 */
    kept: number;
  };
}
export interface Ends {
  fine: number;
  coarse: number;
}
/** What each number may be. */
export const detailRanges = {
  deviations: [0, 5],
  tone: [0, 3],
  aperture: [0.7, 64],
  pitchUm: [0.5, 50],
  filterPx: [0, 0.8],
  gain: [-1, 3],
  sizePx: [2, 16],
  coarsePx: [3, 48],
  finePx: [1, 12],
  faint: [0.25, 64],
  strong: [2, 512],
} as const satisfies Record<string, readonly [number, number]>;

export const plainDetail: Detail = {
  noise: { luma: { fine: 0, coarse: 0 }, colour: { fine: 0, coarse: 0 }, darks: 1, lights: 1 },
  softness: { share: 0, aperture: null, pitchUm: null, filterPx: 0 },
  sharpness: { gain: 0, sizePx: 3, coarsePx: 9, finePx: 1.4, faint: 2, strong: 96, kept: 0.6 },
};
const some = ({ fine, coarse }: Ends): boolean => fine > 0 || coarse > 0;
export const quietsLuma = (d: Detail): boolean => some(d.noise.luma);
export const quietsColour = (d: Detail): boolean => some(d.noise.colour);
export const returnsSoftness = (d: Detail): boolean => d.softness.share > 0;
export const sharpens = (d: Detail): boolean => d.sharpness.gain !== 0;
export const detailActs = (d: Detail): boolean => quietsLuma(d) || quietsColour(d) || returnsSoftness(d) || sharpens(d);

/** Detail as groundwork of version 1 kept it: amounts of 0 to 100 (sharpening to 150) and a radius in pixels. */
export interface Detail1 {
  luminanceNoise: number;
  colourNoise: number;
  sharpen: number;
  radiusPx: number;
  fine: number;
  edgesOnly: number;
}
export const plainDetail1: Detail1 = { luminanceNoise: 0, colourNoise: 0, sharpen: 0, radiusPx: 1, fine: 50, edgesOnly: 20 };
/** That, carried over: noise exactly, sharpening as near as a response over size comes to a radius. */
export function fromDetail1(d: Detail1): Detail {
  const luma = (4.2 * d.luminanceNoise) / 100,
    colour = (3.6 * d.colourNoise) / 100,
    sizePx = Math.min(12, Math.max(2, 2.6 * d.radiusPx));
  return {
    ...plainDetail,
    noise: { ...plainDetail.noise, luma: { fine: luma, coarse: luma }, colour: { fine: colour, coarse: colour } },
    sharpness:
      d.sharpen === 0
        ? plainDetail.sharpness
        : {
            ...plainDetail.sharpness,
            gain: Math.min(3, (1.6 * d.sharpen) / 100),
            sizePx,
            coarsePx: 3 * sizePx,
            faint: (0.75 + (100 - d.fine) / 40) * (1 + d.edgesOnly / 25),
          },
  };
}
