import { applyTable, type Rgb, type Table } from '../colour/table.ts';

/** Weight of smoothness beside one pixel's wish in a cell, and how many samples are taken at most. */
const smoothness = 0.02,
  most = 120000;

/**
 * A smooth 3D table that takes one picture to another of the same size (interleaved RGB, 0–1): least squares of its change from
 * no change, with second differences held small (Tikhonov), by conjugate gradients. Where the picture has no colours the table
 * goes on smoothly.
 */
export function fitTable(before: Float32Array, after: Float32Array, size: number, title: string): Table {
  const n = size ** 3,
    count = before.length / 3,
    stride = Math.max(1, Math.floor(count / most)),
    strides = [1, size, size * size] as const,
    cells: Int32Array[] = [],
    weights: Float32Array[] = [],
    wishes: [number, number, number][] = [];
  for (let i = 0; i < count; i += stride) {
    const rgb = [0, 1, 2].map((c) => Math.min(1, Math.max(0, before[i * 3 + c]!))),
      at = rgb.map((v) => v * (size - 1)),
      cell = at.map((v) => Math.min(size - 2, Math.floor(v))),
      f = at.map((v, c) => v - cell[c]!),
      idx = new Int32Array(8),
      w = new Float32Array(8);
    for (let k = 0; k < 8; k++) {
      const d = [k & 1, (k >> 1) & 1, k >> 2];
      idx[k] = cell.reduce((s, v, c) => s + (v + d[c]!) * strides[c]!, 0);
      w[k] = d.reduce((p, v, c) => p * (v ? f[c]! : 1 - f[c]!), 1);
    }
    cells.push(idx);
    weights.push(w);
    wishes.push([0, 1, 2].map((c) => after[i * 3 + c]! - rgb[c]!) as [number, number, number]);
  }
  const held = smoothness * Math.max(1, cells.length / n),
    faint = 1e-6 * Math.max(1, cells.length / n);
  /** (JᵀJ + λ·DᵀD + ε) x */
  const normal = (x: Float64Array): Float64Array => {
    const out = x.map((v) => v * faint);
    for (let i = 0; i < cells.length; i++) {
      const idx = cells[i]!,
        w = weights[i]!;
      let v = 0;
      for (let k = 0; k < 8; k++) v += w[k]! * x[idx[k]!]!;
      for (let k = 0; k < 8; k++) out[idx[k]!]! += w[k]! * v;
    }
    for (let axis = 0; axis < 3; axis++) {
      const s = strides[axis]!;
      for (let j = 0; j < n; j++) {
        const p = Math.floor(j / s) % size;
        if (p === 0 || p === size - 1) continue;
        const d = held * (x[j - s]! - 2 * x[j]! + x[j + s]!);
        out[j - s]! += d;
        out[j]! -= 2 * d;
        out[j + s]! += d;
      }
    }
    return out;
  };
  const data = new Float32Array(n * 3);
  for (let c = 0; c < 3; c++) {
    const x = new Float64Array(n),
      r = new Float64Array(n);
    for (let i = 0; i < cells.length; i++) for (let k = 0; k < 8; k++) r[cells[i]![k]!]! += weights[i]![k]! * wishes[i]![c]!;
    let p = r.slice(),
      rr = r.reduce((s, v) => s + v * v, 0);
    const enough = rr * 1e-10;
    for (let step = 0; step < 240 && rr > enough && rr > 1e-20; step++) {
      const q = normal(p),
        alpha = rr / p.reduce((s, v, i) => s + v * q[i]!, 0);
      for (let i = 0; i < n; i++) {
        x[i]! += alpha * p[i]!;
        r[i]! -= alpha * q[i]!;
      }
      const next = r.reduce((s, v) => s + v * v, 0),
        beta = next / rr;
      rr = next;
      p = p.map((v, i) => r[i]! + beta * v);
    }
    for (let j = 0; j < n; j++) data[j * 3 + c] = (Math.floor(j / strides[c]!) % size) / (size - 1) + x[j]!;
  }
  return { kind: '3d', title, size, domainMin: [0, 0, 0], domainMax: [1, 1, 1], data };
}

/** How well a fitted table serves: the share of its cells that had colours, and what is left between it and the picture (0–255). */
export function fitReport(table: Table, before: Float32Array, after: Float32Array): { coverage: number; mean: number; worst: number } {
  const cells = 9,
    seen = new Uint8Array(cells ** 3),
    count = before.length / 3,
    stride = Math.max(1, Math.floor(count / 60000));
  let sum = 0,
    worst = 0,
    n = 0;
  for (let i = 0; i < count; i += stride) {
    const rgb = [before[i * 3]!, before[i * 3 + 1]!, before[i * 3 + 2]!] as Rgb,
      k = rgb.map((v) => Math.min(cells - 1, Math.max(0, Math.floor(v * cells))));
    seen[k[0]! + cells * (k[1]! + cells * k[2]!)] = 1;
    const out = applyTable(table, rgb),
      d = Math.max(...out.map((v, c) => Math.abs(v - after[i * 3 + c]!))) * 255;
    sum += d;
    n++;
    if (d > worst) worst = d;
  }
  return { coverage: seen.reduce((a, b) => a + b, 0) / cells ** 3, mean: sum / n, worst };
}
