import { layOut } from './arena.ts';
import type { AreaRun } from './area.ts';

const tileRows = 48;

/** Samples of a Gaussian, from its middle to `radius`, of sum one over both sides. */
export function gaussian(sigma: number, radius: number): number[] {
  const half = Array.from({ length: radius + 1 }, (_, i) => (sigma > 0 ? Math.exp(-0.5 * (i / sigma) ** 2) : i === 0 ? 1 : 0)),
    sum = half.reduce((s, v, i) => s + (i === 0 ? v : 2 * v), 0);
  return half.map((v) => v / sum);
}
/** Spread of the blur, of the reach: three deviations lie within it. */
export const deviations = 3;

/** Runs the crispness of some rows. */
export function runCrispness({ kernels, pass, planes, out, width, height, first, end, edge }: AreaRun): void {
  const n = width * height,
    count = end - first,
    sets = planes.length / n,
    sigma = (pass.reach * edge) / deviations,
    radius = Math.ceil(deviations * sigma),
    weights = gaussian(sigma, radius),
    stride = (width + 2 * radius + 7) & ~3,
    lines = tileRows + 2 * radius;
  for (let k = 3; k < sets; k++) out.set(planes.subarray(k * n + first * width, k * n + end * width), k * width * count);
  const at = layOut(kernels, {
    light: stride * lines * 4,
    down: stride * 4,
    blur: stride * 4,
    planes: 3 * stride * tileRows * 4,
    weights: (radius + 1) * 4,
    numbers: pass.parameters.length * 4,
    row: 3 * stride * 4,
  });
  const f32 = kernels.f32(),
    { lightness, blurDown, blurAcross, crispness } = kernels.exports;
  f32.set(weights, at.weights / 4);
  f32.set(pass.parameters, at.numbers / 4);
  const clamp = (v: number, most: number): number => Math.min(most, Math.max(0, v));
  for (let y = first; y < end; y += tileRows) {
    const rows = Math.min(tileRows, end - y);
    for (let j = -radius; j < rows + radius; j++) {
      // beyond the picture its border goes on
      const from = clamp(y + j, height - 1) * width;
      for (let c = 0; c < 3; c++) f32.set(planes.subarray(c * n + from, c * n + from + width), (at.row + c * stride * 4) / 4);
      const line = at.light + (j + radius) * stride * 4;
      lightness(at.row, at.row + stride * 4, at.row + 2 * stride * 4, width, line + radius * 4, at.numbers);
      const head = line / 4;
      f32.fill(f32[head + radius]!, head, head + radius);
      f32.fill(f32[head + radius + width - 1]!, head + radius + width, head + stride);
    }
    for (let j = 0; j < rows; j++) {
      const own = at.light + (j + radius) * stride * 4,
        from = (y + j) * width;
      blurDown(own, stride * 4, at.down, stride, at.weights, radius);
      blurAcross(at.down + radius * 4, at.blur, width, at.weights, radius);
      for (let c = 0; c < 3; c++) f32.set(planes.subarray(c * n + from, c * n + from + width), (at.row + c * stride * 4) / 4);
      crispness(at.row, at.row + stride * 4, at.row + 2 * stride * 4, own + radius * 4, at.blur, width, at.numbers);
      const to = (y + j - first) * width;
      for (let c = 0; c < 3; c++)
        out.set(f32.subarray((at.row + c * stride * 4) / 4, (at.row + c * stride * 4) / 4 + width), c * width * count + to);
    }
  }
}
