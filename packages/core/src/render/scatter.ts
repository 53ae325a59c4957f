import { layOut } from './arena.ts';
import type { AreaRun } from './area.ts';
import { gaussian } from './crispness.ts';
import type { AreaPass } from './pass.ts';

/** The wide part of scattered light: its deviation against the narrow one's, and its share. */
const wide = { times: 2.5, share: 0.4 };
/** Deviations of the wide part that are reckoned with. */
const tails = 3.2;

/**
 * Light that is scattered: of each channel a share leaves its place and comes down about it, in two Gaussians, so that none is lost.
 * @param shares of red, green and blue light, 0–1
 * @param deviation of the narrow Gaussian, in shares of the long edge
 */
export const scatterPass = (shares: readonly [number, number, number], deviation: number): AreaPass => ({
  kernel: 'scatter',
  parameters: [...shares, deviation],
  reach: tails * wide.times * deviation,
});

/** A Gaussian over squares, less what squares and the way between them widen by themselves. */
const over = (deviationInSquares: number, radius: number): number[] =>
  gaussian(Math.sqrt(Math.max(0.05, deviationInSquares ** 2 - 0.25)), radius);

/** Runs the scattering of light for some rows: on a grid of squares that belong to the picture, not to the piece. */
export function runScatter({ kernels, pass, planes, out, width, height, first, end, edge, x, y }: AreaRun): void {
  const n = width * height,
    count = end - first,
    deviation = pass.parameters[3]! * edge,
    side = 2 ** Math.max(0, Math.floor(Math.log2(deviation))),
    radius = Math.max(1, Math.floor(Math.ceil(pass.reach * edge) / side) - 2);
  for (let k = 0; k < planes.length / n; k++)
    if (k > 2 || pass.parameters[k] === 0) out.set(planes.subarray(k * n + first * width, k * n + end * width), k * width * count);
  const left = Math.floor(x / side),
    top = Math.floor(y / side),
    columns = Math.floor((x + width - 1) / side) - left + 1,
    rows = Math.floor((y + height - 1) / side) - top + 1,
    stride = (columns + 2 * radius + 7) & ~3,
    line = (columns + 9) & ~3;
  const at = layOut(kernels, {
    grid: stride * (rows + 2 * radius) * 4,
    down: stride * 4,
    near: line * 4,
    far: line * 4,
    blurred: line * rows * 4,
    room: line * 4,
    row: width * 4,
    weights: (radius + 1) * 8,
  });
  const { squares, blurDown, blurAcross, spread } = kernels.exports,
    f32 = kernels.f32(),
    farWeights = at.weights + (radius + 1) * 4;
  f32.set(over(deviation / side, radius), at.weights / 4);
  f32.set(over((wide.times * deviation) / side, radius), farWeights / 4);
  const gridRow = (j: number): number => at.grid / 4 + (j + radius) * stride;
  /** How many of a square's pixels lie in the piece. */
  const inside = (square: number, from: number, size: number): number =>
    Math.min(from + size, (square + 1) * side) - Math.max(from, square * side);
  const own = Array.from({ length: columns }, (_, i) => inside(left + i, x, width));

  function gather(plane: Float32Array): void {
    f32.fill(0, at.grid / 4, at.grid / 4 + stride * (rows + 2 * radius));
    for (let j = 0; j < height; j++) {
      f32.set(plane.subarray(j * width, (j + 1) * width), at.row / 4);
      squares(at.row, (gridRow(Math.floor((y + j) / side) - top) + radius) * 4, width, side, x - left * side);
    }
    for (let j = 0; j < rows; j++) {
      const row = gridRow(j),
        high = inside(top + j, y, height);
      own.forEach((v, i) => (f32[row + radius + i]! /= v * high));
      // beyond the picture its border goes on
      f32.fill(f32[row + radius]!, row, row + radius);
      f32.fill(f32[row + radius + columns - 1]!, row + radius + columns, row + stride);
    }
    for (let j = 1; j <= radius; j++) {
      f32.copyWithin(gridRow(-j), gridRow(0), gridRow(0) + stride);
      f32.copyWithin(gridRow(rows - 1 + j), gridRow(rows - 1), gridRow(rows - 1) + stride);
    }
  }
  function blur(): void {
    for (let j = 0; j < rows; j++) {
      const from = gridRow(j) * 4,
        to = at.blurred / 4 + j * line;
      for (const [weights, into] of [
        [at.weights, at.near],
        [farWeights, at.far],
      ] as const) {
        blurDown(from, stride * 4, at.down, stride, weights, radius);
        blurAcross(at.down + radius * 4, into, columns, weights, radius);
      }
      for (let i = 0; i < columns; i++) {
        const near = f32[at.near / 4 + i]!;
        f32[to + 1 + i] = near + wide.share * (f32[at.far / 4 + i]! - near);
      }
      f32[to] = f32[to + 1]!;
      f32.fill(f32[to + columns]!, to + columns + 1, to + line);
    }
  }
  for (let c = 0; c < 3; c++) {
    const share = pass.parameters[c]!;
    if (share === 0) continue;
    gather(planes.subarray(c * n, (c + 1) * n));
    blur();
    for (let j = 0; j < count; j++) {
      const place = Math.min(rows - 1, Math.max(0, (y + first + j + 0.5) / side - 0.5 - top)),
        low = Math.min(Math.max(0, rows - 2), Math.floor(place)),
        high = Math.min(rows - 1, low + 1),
        start = c * n + (first + j) * width;
      f32.set(planes.subarray(start, start + width), at.row / 4);
      const from = (x + 0.5) / side + 0.5 - left;
      spread(at.row, width, at.blurred + low * line * 4, at.blurred + high * line * 4, place - low, at.room, line, from, 1 / side, share);
      out.set(f32.subarray(at.row / 4, at.row / 4 + width), (c * count + j) * width);
    }
  }
}
