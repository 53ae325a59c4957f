/** The colour of what surrounds each place of a picture, on a small grid: camera red and blue of one green. */
export interface Surround {
  width: number;
  height: number;
  red: Float32Array;
  blue: Float32Array;
}
