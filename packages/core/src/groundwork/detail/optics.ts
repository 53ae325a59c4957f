/** How a frame was taken, as far as its sharpness goes; null where the file does not say. */
export interface Optics {
  aperture: number | null;
  pitchUm: number | null;
}
/** Green light, where luma is, in micrometres. */
const wavelengthUm = 0.55;

/**
 * Micrometres from pixel to pixel, from the two focal lengths a file states (Exif 2.32: FocalLength and FocalLengthIn35mmFilm,
 * whose frame is 36 mm wide); null where it states only one.
 */
export function pitchOf(exif: { focalMm: number; focalMm35?: number }, longEdgePx: number): number | null {
  if (!(exif.focalMm > 0) || !exif.focalMm35 || !(exif.focalMm35 > 0)) return null;
  return (36000 * exif.focalMm) / exif.focalMm35 / longEdgePx;
}

/** What a frame's file says of it. */
export const opticsOf = (
  exif: { aperture: number; focalMm: number; focalMm35?: number },
  size: { width: number; height: number },
): Optics => ({
  aperture: exif.aperture > 0 ? exif.aperture : null,
  pitchUm: pitchOf(exif, Math.max(size.width, size.height)),
});

/** Contrast a perfect lens leaves at a frequency (cycles per pixel): the circular aperture's, (2/π)(arccos ν − ν√(1 − ν²)), ν = f·λN/pitch (Goodman, Introduction to Fourier Optics, 6.3). */
export function diffraction(cyclesPerPx: number, aperture: number, pitchUm: number): number {
  const v = (cyclesPerPx * wavelengthUm * aperture) / pitchUm;
  return v >= 1 ? 0 : (2 / Math.PI) * (Math.acos(v) - v * Math.sqrt(1 - v * v));
}
/** Contrast a low-pass filter of a Gaussian spread leaves. */
export const filtered = (cyclesPerPx: number, spreadPx: number): number => Math.exp(-2 * (Math.PI * spreadPx * cyclesPerPx) ** 2);
/** Contrast a square photosite leaves along a row: sin(πf)/(πf). */
export const photosite = (cyclesPerPx: number): number =>
  cyclesPerPx === 0 ? 1 : Math.sin(Math.PI * cyclesPerPx) / (Math.PI * cyclesPerPx);

/** What aperture and filter leave together. */
export function transfer(cyclesPerPx: number, { aperture, pitchUm }: Optics, filterPx: number): number {
  const lens = aperture && pitchUm ? diffraction(cyclesPerPx, aperture, pitchUm) : 1;
  return lens * filtered(cyclesPerPx, filterPx);
}
/** How much of the contrast lost is never asked back: what is nearly gone would be noise. Tuned on the camera's scenes at f/4 to f/22. */
const hold = 0.035;
/** The gain that returns it, held where little is left (Wiener; Tikhonov): H/(H² + k), 1 at frequency 0. */
export const returned = (left: number): number => ((1 + hold) * left) / (left * left + hold);
