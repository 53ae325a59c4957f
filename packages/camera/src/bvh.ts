import type { Mesh } from './mesh.ts';

/** A bounding volume hierarchy over triangles: flat nodes, triangles in leaf order as origin and two edges. */
export interface Tree {
  bounds: Float32Array;
  /** per node: first child, or ~first triangle; triangle count (0 for inner nodes) */
  links: Int32Array;
  triangles: Float32Array;
  order: Int32Array;
}
const leafSize = 3;

/** Builds the tree by the binned surface-area heuristic (Wald 2007). */
export function buildTree(mesh: Mesh): Tree {
  const count = mesh.material.length;
  const boxes = new Float32Array(count * 6),
    centres = new Float32Array(count * 3);
  for (let t = 0; t < count; t++) {
    for (let k = 0; k < 3; k++) {
      const a = mesh.positions[mesh.index[t * 3]! * 3 + k]!,
        b = mesh.positions[mesh.index[t * 3 + 1]! * 3 + k]!,
        c = mesh.positions[mesh.index[t * 3 + 2]! * 3 + k]!;
      boxes[t * 6 + k] = Math.min(a, b, c);
      boxes[t * 6 + 3 + k] = Math.max(a, b, c);
      centres[t * 3 + k] = (Math.min(a, b, c) + Math.max(a, b, c)) / 2;
    }
  }
  const order = Int32Array.from({ length: count }, (_, i) => i);
  const bounds = new Float32Array(count * 12 + 12),
    links = new Int32Array(count * 4 + 4);
  let used = 1;
  const binCount = 12;
  const binBox = new Float32Array(binCount * 6),
    binN = new Int32Array(binCount),
    rightCost = new Float32Array(binCount);
  const stack = [[0, 0, count]] as [number, number, number][];
  const box = new Float32Array(6);
  const reset = (b: Float32Array, o: number): void => {
    for (let k = 0; k < 3; k++) {
      b[o + k] = Infinity;
      b[o + 3 + k] = -Infinity;
    }
  };
  const grow = (b: Float32Array, o: number, from: Float32Array, f: number): void => {
    for (let k = 0; k < 3; k++) {
      if (from[f + k]! < b[o + k]!) b[o + k] = from[f + k]!;
      if (from[f + 3 + k]! > b[o + 3 + k]!) b[o + 3 + k] = from[f + 3 + k]!;
    }
  };
  const area = (b: Float32Array, o: number): number => {
    const x = b[o + 3]! - b[o]!,
      y = b[o + 4]! - b[o + 1]!,
      z = b[o + 5]! - b[o + 2]!;
    return x < 0 ? 0 : x * y + y * z + z * x;
  };
  while (stack.length > 0) {
    const [node, first, last] = stack.pop()!;
    reset(bounds, node * 6);
    const spread = new Float32Array(6);
    reset(spread, 0);
    for (let i = first; i < last; i++) {
      const t = order[i]!;
      grow(bounds, node * 6, boxes, t * 6);
      for (let k = 0; k < 3; k++) {
        spread[k] = Math.min(spread[k]!, centres[t * 3 + k]!);
        spread[k + 3] = Math.max(spread[k + 3]!, centres[t * 3 + k]!);
      }
    }
    const n = last - first;
    let bestCost = n,
      bestAxis = -1,
      bestBin = 0;
    if (n > leafSize) {
      for (let axis = 0; axis < 3; axis++) {
        const low = spread[axis]!,
          scale = binCount / (spread[axis + 3]! - low);
        if (!Number.isFinite(scale)) continue;
        binN.fill(0);
        for (let b = 0; b < binCount; b++) reset(binBox, b * 6);
        for (let i = first; i < last; i++) {
          const t = order[i]!,
            b = Math.min(binCount - 1, Math.floor((centres[t * 3 + axis]! - low) * scale));
          binN[b]!++;
          grow(binBox, b * 6, boxes, t * 6);
        }
        reset(box, 0);
        for (let b = binCount - 1, total = 0; b > 0; b--) {
          grow(box, 0, binBox, b * 6);
          total += binN[b]!;
          rightCost[b] = area(box, 0) * total;
        }
        reset(box, 0);
        const whole = area(bounds, node * 6) || 1;
        for (let b = 0, total = 0; b < binCount - 1; b++) {
          grow(box, 0, binBox, b * 6);
          total += binN[b]!;
          const cost = 0.5 + (area(box, 0) * total + rightCost[b + 1]!) / whole;
          if (cost < bestCost && total > 0 && total < n) {
            bestCost = cost;
            bestAxis = axis;
            bestBin = b;
          }
        }
      }
    }
    let middle = first;
    if (bestAxis >= 0) {
      const low = spread[bestAxis]!,
        scale = binCount / (spread[bestAxis + 3]! - low);
      for (let i = first; i < last; i++) {
        const t = order[i]!;
        if (Math.min(binCount - 1, Math.floor((centres[t * 3 + bestAxis]! - low) * scale)) <= bestBin) {
          order[i] = order[middle]!;
          order[middle++] = t;
        }
      }
    } else if (n > 12) middle = first + (n >> 1);
    if (middle === first || middle === last) {
      links[node * 2] = ~first;
      links[node * 2 + 1] = n;
      continue;
    }
    links[node * 2] = used;
    links[node * 2 + 1] = 0;
    stack.push([used, first, middle], [used + 1, middle, last]);
    used += 2;
  }
  const triangles = new Float32Array(count * 9);
  for (let i = 0; i < count; i++) {
    const t = order[i]!;
    for (let k = 0; k < 3; k++) {
      const a = mesh.positions[mesh.index[t * 3]! * 3 + k]!;
      triangles[i * 9 + k] = a;
      triangles[i * 9 + 3 + k] = mesh.positions[mesh.index[t * 3 + 1]! * 3 + k]! - a;
      triangles[i * 9 + 6 + k] = mesh.positions[mesh.index[t * 3 + 2]! * 3 + k]! - a;
    }
  }
  return { bounds: bounds.slice(0, used * 6), links: links.slice(0, used * 2), triangles, order };
}

/** What a ray met: slot in leaf order (−1 for nothing), distance, barycentric coordinates. */
export interface Meeting {
  slot: number;
  distance: number;
  u: number;
  v: number;
}
const stack = new Int32Array(96);

/**
 * The nearest triangle along a ray (Möller and Trumbore 1997), or with `any` the first one found.
 * Writes into `out`; returns whether anything was met before `limit`.
 */
export function meet(
  tree: Tree,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  limit: number,
  any: boolean,
  out: Meeting,
): boolean {
  const { bounds, links, triangles } = tree;
  const ix = 1 / dx,
    iy = 1 / dy,
    iz = 1 / dz;
  let top = 0,
    best = limit,
    found = -1;
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top]!;
    const b = node * 6;
    let t0 = (bounds[b]! - ox) * ix,
      t1 = (bounds[b + 3]! - ox) * ix;
    let near = t0 < t1 ? t0 : t1,
      far = t0 < t1 ? t1 : t0;
    t0 = (bounds[b + 1]! - oy) * iy;
    t1 = (bounds[b + 4]! - oy) * iy;
    if (t0 > t1) {
      const s = t0;
      t0 = t1;
      t1 = s;
    }
    if (t0 > near) near = t0;
    if (t1 < far) far = t1;
    t0 = (bounds[b + 2]! - oz) * iz;
    t1 = (bounds[b + 5]! - oz) * iz;
    if (t0 > t1) {
      const s = t0;
      t0 = t1;
      t1 = s;
    }
    if (t0 > near) near = t0;
    if (t1 < far) far = t1;
    if (near > far || far < 0 || near > best) continue;
    const link = links[node * 2]!;
    if (link >= 0) {
      const c = link * 6,
        d = c + 6;
      const towards =
        (bounds[c]! + bounds[c + 3]! - bounds[d]! - bounds[d + 3]!) * dx +
        (bounds[c + 1]! + bounds[c + 4]! - bounds[d + 1]! - bounds[d + 4]!) * dy +
        (bounds[c + 2]! + bounds[c + 5]! - bounds[d + 2]! - bounds[d + 5]!) * dz;
      stack[top++] = towards > 0 ? link : link + 1;
      stack[top++] = towards > 0 ? link + 1 : link;
      continue;
    }
    const first = ~link,
      last = first + links[node * 2 + 1]!;
    for (let i = first; i < last; i++) {
      const q = i * 9;
      const e1x = triangles[q + 3]!,
        e1y = triangles[q + 4]!,
        e1z = triangles[q + 5]!,
        e2x = triangles[q + 6]!,
        e2y = triangles[q + 7]!,
        e2z = triangles[q + 8]!;
      const px = dy * e2z - dz * e2y,
        py = dz * e2x - dx * e2z,
        pz = dx * e2y - dy * e2x;
      const determinant = e1x * px + e1y * py + e1z * pz;
      if (determinant > -1e-14 && determinant < 1e-14) continue;
      const inverse = 1 / determinant;
      const sx = ox - triangles[q]!,
        sy = oy - triangles[q + 1]!,
        sz = oz - triangles[q + 2]!;
      const u = (sx * px + sy * py + sz * pz) * inverse;
      if (u < 0 || u > 1) continue;
      const rx = sy * e1z - sz * e1y,
        ry = sz * e1x - sx * e1z,
        rz = sx * e1y - sy * e1x;
      const v = (dx * rx + dy * ry + dz * rz) * inverse;
      if (v < 0 || u + v > 1) continue;
      const t = (e2x * rx + e2y * ry + e2z * rz) * inverse;
      if (t > 1e-5 && t < best) {
        best = t;
        found = i;
        out.u = u;
        out.v = v;
        if (any) {
          out.slot = i;
          out.distance = t;
          return true;
        }
      }
    }
  }
  out.slot = found;
  out.distance = best;
  return found >= 0;
}
