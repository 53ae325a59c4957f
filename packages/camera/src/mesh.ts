/** A growing triangle mesh with smooth normals, texture coordinates and a material number per triangle. */
export interface Mesh {
  positions: number[];
  normals: number[];
  uvs: number[];
  index: number[];
  material: number[];
}
export type Point = readonly [number, number, number];

export const emptyMesh = (): Mesh => ({ positions: [], normals: [], uvs: [], index: [], material: [] });
export const add = (a: Point, b: Point, t = 1): Point => [a[0] + b[0] * t, a[1] + b[1] * t, a[2] + b[2] * t];
export const subtract = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const cross = (a: Point, b: Point): Point => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
export const length = (a: Point): number => Math.hypot(a[0], a[1], a[2]);
export const unit = (a: Point): Point => {
  const l = length(a) || 1;
  return [a[0] / l, a[1] / l, a[2] / l];
};

/** A surface given by a function of (u, v) in the unit square, in columns × rows cells. Normals by difference. */
export function addSurface(mesh: Mesh, columns: number, rows: number, material: number, at: (u: number, v: number) => Point): void {
  const base = mesh.positions.length / 3;
  const points: Point[] = [];
  for (let j = 0; j <= rows; j++) for (let i = 0; i <= columns; i++) points.push(at(i / columns, j / rows));
  const point = (i: number, j: number): Point =>
    points[Math.min(rows, Math.max(0, j)) * (columns + 1) + Math.min(columns, Math.max(0, i))]!;
  for (let j = 0; j <= rows; j++) {
    for (let i = 0; i <= columns; i++) {
      mesh.positions.push(...point(i, j));
      mesh.normals.push(...unit(cross(subtract(point(i + 1, j), point(i - 1, j)), subtract(point(i, j + 1), point(i, j - 1)))));
      mesh.uvs.push(i / columns, j / rows);
    }
  }
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      const a = base + j * (columns + 1) + i,
        b = a + 1,
        c = a + columns + 1,
        d = c + 1;
      mesh.index.push(a, b, d, a, d, c);
      mesh.material.push(material, material);
    }
  }
}

/** A tube of the given sides along a path; radius may change along it. */
export function addTube(mesh: Mesh, path: readonly Point[], sides: number, material: number, radius: (t: number) => number): void {
  let side: Point = [0, 0, 0];
  const frames = path.map((p, i) => {
    const forward = unit(subtract(path[Math.min(path.length - 1, i + 1)]!, path[Math.max(0, i - 1)]!));
    const seed: Point = i === 0 ? (Math.abs(forward[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0]) : side;
    side = unit(cross(cross(forward, seed), forward));
    return { p, side, up: cross(forward, side) };
  });
  addSurface(mesh, sides, path.length - 1, material, (u, v) => {
    const { p, side: s, up } = frames[Math.round(v * (path.length - 1))]!;
    const r = radius(v),
      angle = u * 2 * Math.PI;
    return add(add(p, s, Math.cos(angle) * r), up, Math.sin(angle) * r);
  });
}

/** A solid of revolution about the vertical through `centre`, from a profile of [radius, height]. */
export function addLathe(
  mesh: Mesh,
  centre: Point,
  profile: readonly (readonly [number, number])[],
  sides: number,
  material: number,
): void {
  addSurface(mesh, sides, profile.length - 1, material, (u, v) => {
    const [r, h] = profile[Math.round(v * (profile.length - 1))]!;
    const angle = -u * 2 * Math.PI;
    return [centre[0] + Math.cos(angle) * r, centre[1] + h, centre[2] + Math.sin(angle) * r];
  });
}

/** An ellipsoid, optionally displaced along its radius by `bulge(direction)`. */
export function addEllipsoid(
  mesh: Mesh,
  centre: Point,
  radii: Point,
  detail: number,
  material: number,
  bulge: (d: Point) => number = () => 0,
): void {
  addSurface(mesh, detail * 2, detail, material, (u, v) => {
    const phi = u * 2 * Math.PI,
      theta = Math.PI * (1 - v);
    const d: Point = [Math.sin(theta) * Math.cos(phi), -Math.cos(theta) * -1, Math.sin(theta) * Math.sin(phi)];
    const r = 1 + bulge(d);
    return [centre[0] + d[0] * radii[0] * r, centre[1] + d[1] * radii[1] * r, centre[2] + d[2] * radii[2] * r];
  });
}

/** A flat parallelogram from a corner along two edges; its normal is edge1 × edge2. */
export function addQuad(mesh: Mesh, corner: Point, edge1: Point, edge2: Point, material: number): void {
  addSurface(mesh, 1, 1, material, (u, v) => add(add(corner, edge1, u), edge2, v));
}

/** A box between two corners, turned about the vertical through its centre. */
export function addBox(mesh: Mesh, low: Point, high: Point, material: number, turn = 0): void {
  const c = [(low[0] + high[0]) / 2, (low[2] + high[2]) / 2] as const;
  const at = (x: number, y: number, z: number): Point => {
    const dx = x - c[0],
      dz = z - c[1];
    return [c[0] + dx * Math.cos(turn) + dz * Math.sin(turn), y, c[1] - dx * Math.sin(turn) + dz * Math.cos(turn)];
  };
  const [x0, y0, z0] = low,
    [x1, y1, z1] = high;
  const face = (a: Point, b: Point, c2: Point): void => addQuad(mesh, a, subtract(b, a), subtract(c2, a), material);
  face(at(x0, y0, z1), at(x1, y0, z1), at(x0, y1, z1));
  face(at(x1, y0, z0), at(x0, y0, z0), at(x1, y1, z0));
  face(at(x1, y0, z1), at(x1, y0, z0), at(x1, y1, z1));
  face(at(x0, y0, z0), at(x0, y0, z1), at(x0, y1, z0));
  face(at(x0, y1, z1), at(x1, y1, z1), at(x0, y1, z0));
  face(at(x0, y0, z0), at(x1, y0, z0), at(x0, y0, z1));
}

/**
 * The zero surface of a signed distance field, by naive surface nets (Gibson 1998) on a regular grid.
 * The field is negative inside.
 */
export function addField(
  mesh: Mesh,
  low: Point,
  high: Point,
  cell: number,
  field: (p: Point) => number,
  materialAt: (p: Point) => number,
  uvAt: (p: Point) => readonly [number, number] = () => [0, 0],
): void {
  const n = [0, 1, 2].map((k) => Math.ceil((high[k]! - low[k]!) / cell) + 1) as [number, number, number];
  const values = new Float32Array(n[0] * n[1] * n[2]);
  const at = (i: number, j: number, k: number): number => i + n[0] * (j + n[1] * k);
  // blocks whose middle is far from the surface are not looked at cell by cell
  const block = 8,
    far = block * cell * 1.6 + 0.012;
  for (let kk = 0; kk < n[2]; kk += block)
    for (let jj = 0; jj < n[1]; jj += block)
      for (let ii = 0; ii < n[0]; ii += block) {
        const middle = field([low[0] + (ii + block / 2) * cell, low[1] + (jj + block / 2) * cell, low[2] + (kk + block / 2) * cell]),
          skip = Math.abs(middle) > far;
        for (let k = kk; k < Math.min(n[2], kk + block); k++)
          for (let j = jj; j < Math.min(n[1], jj + block); j++)
            for (let i = ii; i < Math.min(n[0], ii + block); i++) {
              values[at(i, j, k)] = skip ? middle : field([low[0] + i * cell, low[1] + j * cell, low[2] + k * cell]);
            }
      }
  const vertex = new Int32Array(values.length).fill(-1);
  for (let k = 0; k < n[2] - 1; k++)
    for (let j = 0; j < n[1] - 1; j++)
      for (let i = 0; i < n[0] - 1; i++) {
        let count = 0,
          x = 0,
          y = 0,
          z = 0;
        for (let e = 0; e < 12; e++) {
          const axis = e >> 2,
            o1 = e & 1,
            o2 = (e >> 1) & 1;
          const a = axis === 0 ? [0, o1, o2] : axis === 1 ? [o1, 0, o2] : [o1, o2, 0];
          const b = axis === 0 ? [1, o1, o2] : axis === 1 ? [o1, 1, o2] : [o1, o2, 1];
          const va = values[at(i + a[0]!, j + a[1]!, k + a[2]!)]!,
            vb = values[at(i + b[0]!, j + b[1]!, k + b[2]!)]!;
          if (va < 0 === vb < 0) continue;
          const t = va / (va - vb);
          x += a[0]! + (b[0]! - a[0]!) * t;
          y += a[1]! + (b[1]! - a[1]!) * t;
          z += a[2]! + (b[2]! - a[2]!) * t;
          count++;
        }
        if (count === 0) continue;
        const p: Point = [low[0] + (i + x / count) * cell, low[1] + (j + y / count) * cell, low[2] + (k + z / count) * cell];
        vertex[at(i, j, k)] = mesh.positions.length / 3;
        mesh.positions.push(...p);
        const h = cell * 0.5;
        mesh.normals.push(
          ...unit([
            field([p[0] + h, p[1], p[2]]) - field([p[0] - h, p[1], p[2]]),
            field([p[0], p[1] + h, p[2]]) - field([p[0], p[1] - h, p[2]]),
            field([p[0], p[1], p[2] + h]) - field([p[0], p[1], p[2] - h]),
          ]),
        );
        mesh.uvs.push(...uvAt(p));
      }
  for (let k = 1; k < n[2] - 1; k++)
    for (let j = 1; j < n[1] - 1; j++)
      for (let i = 1; i < n[0] - 1; i++) {
        const inside = values[at(i, j, k)]! < 0;
        for (let axis = 0; axis < 3; axis++) {
          const next = values[at(i + (axis === 0 ? 1 : 0), j + (axis === 1 ? 1 : 0), k + (axis === 2 ? 1 : 0))]!;
          if (inside === next < 0) continue;
          const u: Point = axis === 0 ? [0, 1, 0] : axis === 1 ? [0, 0, 1] : [1, 0, 0];
          const w: Point = axis === 0 ? [0, 0, 1] : axis === 1 ? [1, 0, 0] : [0, 1, 0];
          const corner = (a: number, b: number): number =>
            vertex[at(i - u[0] * a - w[0] * b, j - u[1] * a - w[1] * b, k - u[2] * a - w[2] * b)]!;
          const a = corner(0, 0),
            b = corner(1, 0),
            c = corner(1, 1),
            d = corner(0, 1);
          if (Math.min(a, b, c, d) < 0) continue;
          mesh.index.push(a, b, c, a, c, d);
          const m = materialAt([mesh.positions[a * 3]!, mesh.positions[a * 3 + 1]!, mesh.positions[a * 3 + 2]!]);
          mesh.material.push(m, m);
        }
      }
}
