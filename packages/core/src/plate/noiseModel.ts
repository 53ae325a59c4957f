/** Variance of camera light (1 = clipping): slope · light + floor. Photons make the slope, reading out the floor. */
export interface NoiseModel {
  slope: number;
  floor: number;
}
