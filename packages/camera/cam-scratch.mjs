// packages/camera/src/main.ts
import { mkdirSync as mkdirSync2, writeFileSync as writeFileSync2 } from "node:fs";
import { dirname as dirname2, join } from "node:path";
import { tmpdir } from "node:os";
import { parseArgs } from "node:util";

// packages/camera/src/render-light.ts
import { readFileSync, writeFileSync, existsSync, mkdirSync } from "node:fs";
import { dirname } from "node:path";

// packages/core/src/colour/observer.ts
function colourMatching(nanometres) {
  const lobe = (mean, below, above) => {
    const t = (nanometres - mean) * (nanometres < mean ? below : above);
    return Math.exp(-0.5 * t * t);
  };
  return [
    0.362 * lobe(442, 0.0624, 0.0374) + 1.056 * lobe(599.8, 0.0264, 0.0323) - 0.065 * lobe(501.1, 0.049, 0.0382),
    0.821 * lobe(568.8, 0.0213, 0.0247) + 0.286 * lobe(530.9, 0.0613, 0.0322),
    1.217 * lobe(437, 0.0845, 0.0278) + 0.681 * lobe(459, 0.0385, 0.0725)
  ];
}
function blackbody(nanometres, kelvin) {
  const radiance = (nm) => Math.pow(nm, -5) / (Math.exp(14388e3 / (nm * kelvin)) - 1);
  return radiance(nanometres) / radiance(560);
}
var daylightComponents = [
  [63.4, 38.5, 3],
  [94.8, 43.4, -1.1],
  [105.9, 43.9, -0.7],
  [113.9, 36.7, -2.6],
  [125.5, 32.6, -2.8],
  [121.3, 24.3, -2.6],
  [113.1, 16.2, -1.5],
  [106.5, 8.6, -1.2],
  [105.3, 4.2, -0.5],
  [100, 0, 0],
  [95.1, -3.5, 0.5],
  [90.5, -5.8, 3.2],
  [88.4, -8.6, 4.7],
  [85.1, -10.9, 6.7],
  [82.6, -12, 8.6],
  [81.3, -13.6, 10.2],
  [74.3, -13.3, 9.6],
  [63.3, -10.6, 7]
];
function daylightChromaticity(kelvin) {
  const t = kelvin;
  const x = t <= 7e3 ? -4607e6 / t ** 3 + 2967800 / t ** 2 + 99.11 / t + 0.244063 : -20064e5 / t ** 3 + 1901800 / t ** 2 + 247.48 / t + 0.23704;
  return [x, -3 * x * x + 2.87 * x - 0.275];
}
function daylight(nanometres, kelvin) {
  const [x, y] = daylightChromaticity(kelvin);
  const m = 0.0241 + 0.2562 * x - 0.7341 * y;
  const m1 = (-1.3515 - 1.7703 * x + 5.9114 * y) / m;
  const m2 = (0.03 - 31.4424 * x + 30.0717 * y) / m;
  const at = Math.min(Math.max((nanometres - 380) / 20, 0), daylightComponents.length - 1.001);
  const i = Math.floor(at);
  const value = (k) => {
    const [s0, s1, s2] = daylightComponents[k];
    return s0 + m1 * s1 + m2 * s2;
  };
  return (value(i) * (1 - at + i) + value(i + 1) * (at - i)) / 100;
}

// packages/camera/src/spectrum.ts
var bands = 16;
var wavelengths = Array.from({ length: bands }, (_, i) => 400 + 20 * i);
function spectrum(of) {
  return Float64Array.from(wavelengths, of);
}
var observer = (() => {
  const x = spectrum((nm) => colourMatching(nm)[0]);
  const y = spectrum((nm) => colourMatching(nm)[1]);
  const z = spectrum((nm) => colourMatching(nm)[2]);
  const sum = y.reduce((a, b) => a + b, 0);
  return [x.map((v) => v / sum), y.map((v) => v / sum), z.map((v) => v / sum)];
})();
function lightOf(kelvin) {
  const raw = spectrum((nm) => kelvin < 4e3 ? blackbody(nm, kelvin) : daylight(nm, kelvin));
  const luminance = dot(raw, observer[1]);
  return raw.map((v) => v / luminance);
}
function dot(a, b) {
  let sum = 0;
  for (let i = 0; i < bands; i++) sum += a[i] * b[i];
  return sum;
}
var rise = (nm, at, width2) => 1 / (1 + Math.exp(-(nm - at) / width2));
var paints = [
  spectrum((nm) => rise(nm, 585, 9)),
  spectrum((nm) => rise(nm, 492, 9) * (1 - rise(nm, 585, 9))),
  spectrum((nm) => (1 - rise(nm, 492, 9)) * (1 - rise(nm, 585, 9)))
];
function smoothestReflectance(xyz, light2) {
  const weight = observer.map((curve) => curve.map((v, i) => v * light2[i]));
  const scale2 = 1 / weight[1].reduce((a, b) => a + b, 0);
  const z = new Float64Array(bands).fill(Math.atanh(2 * Math.min(0.97, Math.max(0.02, xyz[1])) - 1));
  const lambda = new Float64Array(3);
  const size2 = bands + 3;
  for (let iteration = 0; iteration < 60; iteration++) {
    const rho = z.map((v) => (Math.tanh(v) + 1) / 2);
    const slope = z.map((v) => (1 - Math.tanh(v) ** 2) / 2);
    const curvature = z.map((v) => -Math.tanh(v) * (1 - Math.tanh(v) ** 2));
    const system = Array.from({ length: size2 }, () => new Float64Array(size2 + 1));
    for (let i = 0; i < bands; i++) {
      const row = system[i];
      row[i] = (i === 0 || i === bands - 1 ? 2 : 4) + 1e-6;
      if (i > 0) row[i - 1] = -2;
      if (i < bands - 1) row[i + 1] = -2;
      let gradient = 0;
      for (let j = 0; j < bands; j++) gradient += row[j] * z[j];
      let pull = 0;
      for (let k = 0; k < 3; k++) {
        pull += lambda[k] * weight[k][i] * scale2;
        row[bands + k] = weight[k][i] * scale2 * slope[i];
        system[bands + k][i] = row[bands + k];
      }
      row[size2] = -(gradient + pull * slope[i]);
      row[i] += pull * curvature[i];
    }
    for (let k = 0; k < 3; k++) system[bands + k][size2] = xyz[k] - dot(rho, weight[k]) * scale2;
    const step = solve(system);
    for (let i = 0; i < bands; i++) z[i] += step[i];
    for (let k = 0; k < 3; k++) lambda[k] += step[bands + k];
    if (Math.max(...step.map(Math.abs)) < 1e-9) break;
  }
  return z.map((v) => (Math.tanh(v) + 1) / 2);
}
function solve(rows) {
  const n = rows.length;
  for (let column = 0; column < n; column++) {
    let pivot = column;
    for (let r = column + 1; r < n; r++) if (Math.abs(rows[r][column]) > Math.abs(rows[pivot][column])) pivot = r;
    [rows[column], rows[pivot]] = [rows[pivot], rows[column]];
    for (let r = column + 1; r < n; r++) {
      const factor = rows[r][column] / rows[column][column];
      if (factor !== 0) for (let c = column; c <= n; c++) rows[r][c] -= factor * rows[column][c];
    }
  }
  const x = new Float64Array(n);
  for (let r = n - 1; r >= 0; r--) {
    let sum = rows[r][n];
    for (let c = r + 1; c < n; c++) sum -= rows[r][c] * x[c];
    x[r] = sum / rows[r][r];
  }
  return x;
}

// packages/camera/src/film.ts
function emptyFilm(width2, height2) {
  const n = width2 * height2;
  return { width: width2, height: height2, surface: new Float32Array(n * bands), glow: new Float32Array(n * bands), albedo: new Float32Array(n * bands), guide: new Float32Array(n * 4), moments: new Float32Array(n * 2) };
}
function develop(film, samples, levels = 4) {
  const { width: width2, height: height2, surface, glow: glow2, albedo, guide, moments } = film;
  const n = width2 * height2;
  let light2 = new Float32Array(n * bands), next = new Float32Array(n * bands);
  let variance = new Float32Array(n), nextVariance = new Float32Array(n);
  const brightness = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    let mean = 0, albedoSum = 0;
    for (let b = 0; b < bands; b++) {
      light2[i * bands + b] = surface[i * bands + b] / (albedo[i * bands + b] + 3e-3);
      mean += light2[i * bands + b];
      albedoSum += albedo[i * bands + b] + 3e-3;
    }
    brightness[i] = mean;
    const scale2 = bands / albedoSum;
    variance[i] = Math.max(0, moments[i * 2 + 1] - moments[i * 2] ** 2) / samples * scale2 * scale2;
  }
  const kernel = [0.375, 0.25, 0.0625];
  for (let level = 0; level < levels; level++) {
    const step = 1 << level;
    for (let y = 0; y < height2; y++) {
      for (let x = 0; x < width2; x++) {
        const i = y * width2 + x;
        let v = 0, vw = 0;
        for (let j = -1; j <= 1; j++) for (let k = -1; k <= 1; k++) {
          const yy = y + j, xx = x + k;
          if (yy < 0 || xx < 0 || yy >= height2 || xx >= width2) continue;
          v += variance[yy * width2 + xx];
          vw++;
        }
        const tolerance = 3 * Math.sqrt(v / vw) + 1e-4 + 0.01 * brightness[i];
        let total = 0, totalVariance = 0;
        const o = i * bands;
        for (let b = 0; b < bands; b++) next[o + b] = 0;
        for (let j = -2; j <= 2; j++) {
          const yy = y + j * step;
          if (yy < 0 || yy >= height2) continue;
          for (let k = -2; k <= 2; k++) {
            const xx = x + k * step;
            if (xx < 0 || xx >= width2) continue;
            const q = yy * width2 + xx;
            let w = kernel[Math.abs(j)] * kernel[Math.abs(k)];
            if (q !== i) {
              const cosine = guide[i * 4] * guide[q * 4] + guide[i * 4 + 1] * guide[q * 4 + 1] + guide[i * 4 + 2] * guide[q * 4 + 2];
              const far = Math.abs(guide[i * 4 + 3] - guide[q * 4 + 3]) / (0.02 * guide[i * 4 + 3] * Math.hypot(j, k) * step + 1e-6);
              w *= Math.max(0, cosine) ** 24 * Math.exp(-far * 0.25 - Math.abs(brightness[i] - brightness[q]) / tolerance);
              if (w < 1e-4) continue;
            }
            total += w;
            totalVariance += w * w * variance[q];
            const p = q * bands;
            for (let b = 0; b < bands; b++) next[o + b] += w * light2[p + b];
          }
        }
        for (let b = 0; b < bands; b++) next[o + b] /= total;
        nextVariance[i] = totalVariance / (total * total);
      }
    }
    [light2, next] = [next, light2];
    [variance, nextVariance] = [nextVariance, variance];
    for (let i = 0; i < n; i++) {
      let mean = 0;
      for (let b = 0; b < bands; b++) mean += light2[i * bands + b];
      brightness[i] = mean;
    }
  }
  for (let i = 0; i < n * bands; i++) light2[i] = light2[i] * (albedo[i] + 3e-3) + glow2[i];
  return light2;
}

// packages/camera/src/mesh.ts
var emptyMesh = () => ({ positions: [], normals: [], uvs: [], index: [], material: [] });
var add = (a, b, t = 1) => [a[0] + b[0] * t, a[1] + b[1] * t, a[2] + b[2] * t];
var subtract = (a, b) => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
var cross = (a, b) => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
var length = (a) => Math.hypot(a[0], a[1], a[2]);
var unit = (a) => {
  const l = length(a) || 1;
  return [a[0] / l, a[1] / l, a[2] / l];
};
function addSurface(mesh, columns, rows, material, at) {
  const base = mesh.positions.length / 3;
  const points = [];
  for (let j = 0; j <= rows; j++) for (let i = 0; i <= columns; i++) points.push(at(i / columns, j / rows));
  const point = (i, j) => points[Math.min(rows, Math.max(0, j)) * (columns + 1) + Math.min(columns, Math.max(0, i))];
  for (let j = 0; j <= rows; j++) {
    for (let i = 0; i <= columns; i++) {
      mesh.positions.push(...point(i, j));
      mesh.normals.push(...unit(cross(subtract(point(i + 1, j), point(i - 1, j)), subtract(point(i, j + 1), point(i, j - 1)))));
      mesh.uvs.push(i / columns, j / rows);
    }
  }
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      const a = base + j * (columns + 1) + i, b = a + 1, c = a + columns + 1, d = c + 1;
      mesh.index.push(a, b, d, a, d, c);
      mesh.material.push(material, material);
    }
  }
}
function addTube(mesh, path, sides, material, radius) {
  let side = [0, 0, 0];
  const frames = path.map((p, i) => {
    const forward = unit(subtract(path[Math.min(path.length - 1, i + 1)], path[Math.max(0, i - 1)]));
    const seed = i === 0 ? Math.abs(forward[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0] : side;
    side = unit(cross(cross(forward, seed), forward));
    return { p, side, up: cross(forward, side) };
  });
  addSurface(mesh, sides, path.length - 1, material, (u, v) => {
    const { p, side: s, up } = frames[Math.round(v * (path.length - 1))];
    const r = radius(v), angle = u * 2 * Math.PI;
    return add(add(p, s, Math.cos(angle) * r), up, Math.sin(angle) * r);
  });
}
function addLathe(mesh, centre2, profile, sides, material) {
  addSurface(mesh, sides, profile.length - 1, material, (u, v) => {
    const [r, h] = profile[Math.round(v * (profile.length - 1))];
    const angle = -u * 2 * Math.PI;
    return [centre2[0] + Math.cos(angle) * r, centre2[1] + h, centre2[2] + Math.sin(angle) * r];
  });
}
function addEllipsoid(mesh, centre2, radii, detail, material, bulge = () => 0) {
  addSurface(mesh, detail * 2, detail, material, (u, v) => {
    const phi = u * 2 * Math.PI, theta = Math.PI * (1 - v);
    const d = [Math.sin(theta) * Math.cos(phi), -Math.cos(theta) * -1, Math.sin(theta) * Math.sin(phi)];
    const r = 1 + bulge(d);
    return [centre2[0] + d[0] * radii[0] * r, centre2[1] + d[1] * radii[1] * r, centre2[2] + d[2] * radii[2] * r];
  });
}
function addQuad(mesh, corner, edge1, edge2, material) {
  addSurface(mesh, 1, 1, material, (u, v) => add(add(corner, edge1, u), edge2, v));
}
function addBox(mesh, low, high, material, turn = 0) {
  const c = [(low[0] + high[0]) / 2, (low[2] + high[2]) / 2];
  const at = (x, y, z) => {
    const dx = x - c[0], dz = z - c[1];
    return [c[0] + dx * Math.cos(turn) + dz * Math.sin(turn), y, c[1] - dx * Math.sin(turn) + dz * Math.cos(turn)];
  };
  const [x0, y0, z0] = low, [x1, y1, z1] = high;
  const face2 = (a, b, c2) => addQuad(mesh, a, subtract(b, a), subtract(c2, a), material);
  face2(at(x0, y0, z1), at(x1, y0, z1), at(x0, y1, z1));
  face2(at(x1, y0, z0), at(x0, y0, z0), at(x1, y1, z0));
  face2(at(x1, y0, z1), at(x1, y0, z0), at(x1, y1, z1));
  face2(at(x0, y0, z0), at(x0, y0, z1), at(x0, y1, z0));
  face2(at(x0, y1, z1), at(x1, y1, z1), at(x0, y1, z0));
  face2(at(x0, y0, z0), at(x1, y0, z0), at(x0, y0, z1));
}
function addField(mesh, low, high, cell, field, materialAt, uvAt = () => [0, 0]) {
  const n = [0, 1, 2].map((k) => Math.ceil((high[k] - low[k]) / cell) + 1);
  const values2 = new Float32Array(n[0] * n[1] * n[2]);
  const at = (i, j, k) => i + n[0] * (j + n[1] * k);
  const block = 8, far = block * cell * 1.6 + 0.012;
  for (let kk = 0; kk < n[2]; kk += block) for (let jj = 0; jj < n[1]; jj += block) for (let ii = 0; ii < n[0]; ii += block) {
    const middle = field([low[0] + (ii + block / 2) * cell, low[1] + (jj + block / 2) * cell, low[2] + (kk + block / 2) * cell]), skip = Math.abs(middle) > far;
    for (let k = kk; k < Math.min(n[2], kk + block); k++) for (let j = jj; j < Math.min(n[1], jj + block); j++) for (let i = ii; i < Math.min(n[0], ii + block); i++) {
      values2[at(i, j, k)] = skip ? middle : field([low[0] + i * cell, low[1] + j * cell, low[2] + k * cell]);
    }
  }
  const vertex = new Int32Array(values2.length).fill(-1);
  for (let k = 0; k < n[2] - 1; k++) for (let j = 0; j < n[1] - 1; j++) for (let i = 0; i < n[0] - 1; i++) {
    let count = 0, x = 0, y = 0, z = 0;
    for (let e = 0; e < 12; e++) {
      const axis = e >> 2, o1 = e & 1, o2 = e >> 1 & 1;
      const a = axis === 0 ? [0, o1, o2] : axis === 1 ? [o1, 0, o2] : [o1, o2, 0];
      const b = axis === 0 ? [1, o1, o2] : axis === 1 ? [o1, 1, o2] : [o1, o2, 1];
      const va = values2[at(i + a[0], j + a[1], k + a[2])], vb = values2[at(i + b[0], j + b[1], k + b[2])];
      if (va < 0 === vb < 0) continue;
      const t = va / (va - vb);
      x += a[0] + (b[0] - a[0]) * t;
      y += a[1] + (b[1] - a[1]) * t;
      z += a[2] + (b[2] - a[2]) * t;
      count++;
    }
    if (count === 0) continue;
    const p = [low[0] + (i + x / count) * cell, low[1] + (j + y / count) * cell, low[2] + (k + z / count) * cell];
    vertex[at(i, j, k)] = mesh.positions.length / 3;
    mesh.positions.push(...p);
    const h = cell * 0.5;
    mesh.normals.push(...unit([
      field([p[0] + h, p[1], p[2]]) - field([p[0] - h, p[1], p[2]]),
      field([p[0], p[1] + h, p[2]]) - field([p[0], p[1] - h, p[2]]),
      field([p[0], p[1], p[2] + h]) - field([p[0], p[1], p[2] - h])
    ]));
    mesh.uvs.push(...uvAt(p));
  }
  for (let k = 1; k < n[2] - 1; k++) for (let j = 1; j < n[1] - 1; j++) for (let i = 1; i < n[0] - 1; i++) {
    const inside = values2[at(i, j, k)] < 0;
    for (let axis = 0; axis < 3; axis++) {
      const next = values2[at(i + (axis === 0 ? 1 : 0), j + (axis === 1 ? 1 : 0), k + (axis === 2 ? 1 : 0))];
      if (inside === next < 0) continue;
      const u = axis === 0 ? [0, 1, 0] : axis === 1 ? [0, 0, 1] : [1, 0, 0];
      const w = axis === 0 ? [0, 0, 1] : axis === 1 ? [1, 0, 0] : [0, 1, 0];
      const corner = (a2, b2) => vertex[at(i - u[0] * a2 - w[0] * b2, j - u[1] * a2 - w[1] * b2, k - u[2] * a2 - w[2] * b2)];
      const a = corner(0, 0), b = corner(1, 0), c = corner(1, 1), d = corner(0, 1);
      if (Math.min(a, b, c, d) < 0) continue;
      mesh.index.push(a, b, c, a, c, d);
      const m = materialAt([mesh.positions[a * 3], mesh.positions[a * 3 + 1], mesh.positions[a * 3 + 2]]);
      mesh.material.push(m, m);
    }
  }
}

// packages/camera/src/random.ts
function seeded(seed) {
  let state = seed >>> 0;
  return () => {
    state = state + 1831565813 | 0;
    let t = Math.imul(state ^ state >>> 15, 1 | state);
    t = t + Math.imul(t ^ t >>> 7, 61 | t) ^ t;
    return ((t ^ t >>> 14) >>> 0) / 4294967296;
  };
}
function normal(random) {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
function lattice(x, y, z) {
  let h = Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(z, 2147483647 - 1274126177);
  h = Math.imul(h ^ h >>> 13, 1274126177);
  h ^= h >>> 16;
  return (h >>> 0) / 4294967296;
}
function noise3(x, y, z) {
  const xi = Math.floor(x), yi = Math.floor(y), zi = Math.floor(z);
  let fx = x - xi, fy = y - yi, fz = z - zi;
  fx = fx * fx * (3 - 2 * fx);
  fy = fy * fy * (3 - 2 * fy);
  fz = fz * fz * (3 - 2 * fz);
  const a = lattice(xi, yi, zi), b = lattice(xi + 1, yi, zi), c = lattice(xi, yi + 1, zi), d = lattice(xi + 1, yi + 1, zi);
  const e = lattice(xi, yi, zi + 1), f = lattice(xi + 1, yi, zi + 1), g = lattice(xi, yi + 1, zi + 1), h = lattice(xi + 1, yi + 1, zi + 1);
  const near = (a + (b - a) * fx) * (1 - fy) + (c + (d - c) * fx) * fy;
  const far = (e + (f - e) * fx) * (1 - fy) + (g + (h - g) * fx) * fy;
  return near + (far - near) * fz;
}
function fractal(x, y, z, octaves) {
  let sum = 0, weight = 0.5, total = 0;
  [x, y, z] = [x * 0.36 + y * 0.48 - z * 0.8, -x * 0.8 + y * 0.6, x * 0.48 + y * 0.64 + z * 0.6];
  for (let i = 0; i < octaves; i++) {
    sum += weight * noise3(x, y, z);
    total += weight;
    const a = x * 0.8 - y * 0.6, b = x * 0.6 + y * 0.8, c = b * 0.6 + z * 0.8;
    x = a * 2.03 + 17.1;
    y = (b * 0.8 - z * 0.6) * 2.03 + 5.7;
    z = c * 2.03 + 9.2;
    weight *= 0.5;
  }
  return sum / total;
}
function smoothstep(edge0, edge1, x) {
  const t = Math.min(1, Math.max(0, (x - edge0) / (edge1 - edge0)));
  return t * t * (3 - 2 * t);
}

// packages/camera/src/field.ts
var ball = (p, c, r) => Math.hypot(p[0] - c[0], p[1] - c[1], p[2] - c[2]) - r;
function egg(p, c, r) {
  const x = (p[0] - c[0]) / r[0], y = (p[1] - c[1]) / r[1], z = (p[2] - c[2]) / r[2];
  const k = Math.hypot(x, y, z), g = Math.hypot(x / r[0], y / r[1], z / r[2]);
  return g < 1e-9 ? -Math.min(...r) : k * (k - 1) / g;
}
function along(p, a, b) {
  const bx = b[0] - a[0], by = b[1] - a[1], bz = b[2] - a[2], ax = p[0] - a[0], ay = p[1] - a[1], az = p[2] - a[2];
  const t = Math.min(1, Math.max(0, (ax * bx + ay * by + az * bz) / (bx * bx + by * by + bz * bz)));
  return { t, distance: Math.hypot(ax - bx * t, ay - by * t, az - bz * t) };
}
function limb(p, a, b, ra, rb) {
  const { t, distance } = along(p, a, b);
  return distance - (ra + (rb - ra) * t);
}
var blend = (a, b, k) => {
  const h = Math.max(0, k - Math.abs(a - b)) / k;
  return Math.min(a, b) - h * h * k * 0.25;
};
var carve = (a, b, k) => -blend(-a, b, k);

// packages/camera/src/hair.ts
var centre = [0, 0.03, -0.012];
var scalp = [0.078, 0.101, 0.096];
var knot = [0, 0.02, -0.128];
function hairAt(p) {
  const front = smoothstep(0.02, 0.075, p[2]), back = smoothstep(0, -0.05, p[2]);
  const line = 0.03 + 0.062 * front - 0.105 * back;
  return smoothstep(line - 4e-3, line + 6e-3, p[1] - 0.012 * noise3(p[0] * 70, p[1] * 70, p[2] * 70));
}
function addHair(mesh, random, material, strands) {
  const towards = unit([(knot[0] - centre[0]) / scalp[0], (knot[1] - centre[1]) / scalp[1], (knot[2] - centre[2]) / scalp[2]]);
  for (let i = 0, grown = 0; grown < strands && i < strands * 6; i++) {
    const d = unit([normal(random), normal(random), normal(random)]), root = [centre[0] + d[0] * scalp[0], centre[1] + d[1] * scalp[1], centre[2] + d[2] * scalp[2]];
    if (hairAt(root) < 0.4 + 0.5 * random()) continue;
    grown++;
    const dot2 = Math.max(-1, Math.min(1, d[0] * towards[0] + d[1] * towards[1] + d[2] * towards[2])), angle = Math.acos(dot2);
    const stray = i % 29 === 0 ? 0.016 * random() : 0, rise2 = 2e-3 + 6e-3 * random(), lock = 7e-3 * noise3(d[0] * 9, d[1] * 9, d[2] * 9), steps = 14, phase = random() * 20;
    const path = [];
    for (let k = 0; k <= steps; k++) {
      const t = k / steps, a = Math.sin((1 - t) * angle), b = Math.sin(t * angle), s = Math.sin(angle) || 1;
      const q = [0, 1, 2].map((j) => (a * d[j] + b * towards[j]) / s);
      const lift = 1 + (rise2 + lock + stray * Math.sin(t * 3.1)) * 12 * Math.sin(Math.min(1, t * 3) * 1.57) + 0.1 * Math.max(0, t - 0.85);
      const wave = 25e-4 * (1 + 5 * (stray > 0 ? 1 : 0));
      path.push([0, 1, 2].map((j) => centre[j] + q[j] * scalp[j] * lift + wave * (noise3(phase + j * 7, t * 5, j) - 0.5)));
    }
    addTube(mesh, path, 3, material, (t) => 7e-4 * (1 - 0.4 * t));
  }
  for (let i = 0; i < strands / 5; i++) {
    const tilt = 0.5 * normal(random), r = 0.036 * Math.sqrt(0.25 + 0.75 * random()), deep = 0.026 * (random() - 0.5), phase = random() * 6.28, path = [];
    for (let k = 0; k <= 20; k++) {
      const a = phase + k / 20 * 5.5, rr = r * (1 + 0.05 * Math.sin(a * 2 + tilt));
      path.push([knot[0] + rr * Math.cos(a), knot[1] + rr * Math.sin(a) * 0.95 + 6e-3 * tilt, knot[2] - 0.012 + deep + 0.012 * Math.sin(a + tilt) * (1 - (r / 0.036) ** 2)]);
    }
    addTube(mesh, path, 3, material, () => 8e-4);
  }
}

// packages/camera/src/hand.ts
function bonesOf(hand) {
  const f = unit(hand.forward), n = unit(add(hand.back, f, -(hand.back[0] * f[0] + hand.back[1] * f[1] + hand.back[2] * f[2])));
  const s = unit(cross(f, n)).map((v) => v * hand.thumb), c = hand.curl;
  const at = (a, b, d) => [0, 1, 2].map((k) => hand.wrist[k] + f[k] * a + s[k] * b + n[k] * d);
  const towards = (angle, aside) => unit([0, 1, 2].map((k) => f[k] * Math.cos(angle) - n[k] * Math.sin(angle) + s[k] * aside));
  const bones = [];
  const fingers = [[0.028, 0.088, 0.96, 0.07], [95e-4, 0.093, 1.06, 0.02], [-95e-4, 0.089, 1, -0.03], [-0.028, 0.079, 0.8, -0.1]];
  fingers.forEach(([aside, length2, size2, splay], i) => {
    let from2 = at(length2, aside, -2e-3 * Math.abs(i - 1.3)), angle = 0.15 + c * (1.15 + 0.06 * i);
    const spread = splay * (1 - c);
    for (const [j, [l, r0, r1]] of [[0.043, 98e-4, 86e-4], [0.026, 87e-4, 78e-4], [0.02, 78e-4, 6e-3]].entries()) {
      const to = add(from2, towards(angle, spread), l * size2);
      bones.push({ from: from2, to, r0: r0 * (i === 3 ? 0.87 : 1), r1: r1 * (i === 3 ? 0.87 : 1), nail: j === 2 });
      from2 = to;
      angle += 0.2 + c * (j === 0 ? 1.45 : 0.85);
    }
  });
  let from = at(0.022, 0.026, -0.012);
  const ways = [towards(0.5 + 0.35 * c, 0.75 - 0.35 * c), towards(0.45 + 0.75 * c, 0.35 - 0.55 * c), towards(0.5 + 0.85 * c, 0.15 - 0.75 * c)];
  for (const [j, [l, r0, r1]] of [[0.042, 0.0145, 0.0115], [0.03, 0.0112, 98e-4], [0.024, 98e-4, 68e-4]].entries()) {
    const to = add(from, ways[j], l);
    bones.push({ from, to, r0, r1, nail: j === 2 });
    from = to;
  }
  return bones;
}
function handField(elbow, hand) {
  const bones = bonesOf(hand), f = unit(hand.forward), n = unit(add(hand.back, f, -(hand.back[0] * f[0] + hand.back[1] * f[1] + hand.back[2] * f[2]))), s = cross(f, n);
  const at = (a, b, d) => [0, 1, 2].map((k) => hand.wrist[k] + f[k] * a + s[k] * hand.thumb * b + n[k] * d);
  const muscle = [0, 1, 2].map((k) => elbow[k] + (hand.wrist[k] - elbow[k]) * 0.3);
  const knuckles = bones.filter((_, i) => i % 3 === 0 && i < 12).map((b) => b.from);
  const joints = bones.filter((_, i) => i % 3 !== 0).map((b) => b.from);
  const heel = [at(-0.02, 0, 0), at(-0.03, 8e-3, 0), at(0.01, 8e-3, 0), at(-0.03, -0.01, 3e-3), at(0.01, -0.01, 3e-3)], middle = at(0.1, 0, 0);
  const rays = [-1.5, -0.5, 0.5, 1.5].map((i) => [at(0.01, i * 0.012, 0), at(0.085, i * 0.019, 0)]), root = at(0.012, 0, 0.0155);
  const humps = knuckles.map((k) => add(k, n, 2e-3)), cords = knuckles.map((k) => add(k, n, 75e-4));
  const palm = [at(0.05, 0, -4e-3), at(0.03, 0.02, -0.014), at(0.045, -0.024, -0.01)];
  return {
    distance: (p) => {
      let d = blend(limb(p, elbow, muscle, 0.04, 0.043), limb(p, muscle, heel[0], 0.043, 0.027), 0.02);
      d = blend(d, limb(p, heel[1], heel[2], 0.021, 0.021), 0.02);
      d = blend(d, limb(p, heel[3], heel[4], 0.02, 0.02), 0.02);
      if (along(p, hand.wrist, middle).distance > 0.16) return d;
      for (const [a, b] of rays) d = blend(d, limb(p, a, b, 0.0165, 0.0125), 0.014);
      d = blend(d, ball(p, palm[0], 0.016), 0.02);
      d = blend(d, egg(p, palm[1], [0.018, 0.018, 0.018]), 0.018);
      d = blend(d, ball(p, palm[2], 0.015), 0.016);
      for (const k of humps) d = blend(d, ball(p, k, 0.0105), 9e-3);
      let fingers = 9;
      for (let i = 0; i < bones.length; i += 3) {
        let one = 9;
        for (let j = 0; j < 3; j++) {
          const b = bones[i + j];
          one = blend(one, limb(p, b.from, b.to, b.r0, b.r1), 3e-3);
        }
        fingers = blend(fingers, one, 25e-4);
      }
      for (const j of joints) fingers = blend(fingers, ball(p, j, 86e-4), 2e-3);
      for (const k of cords) d = blend(d, limb(p, root, k, 2e-3, 26e-4), 8e-3);
      return blend(d, fingers, 9e-3);
    },
    tone: (p) => {
      let red = 0, nail = 0;
      for (const k of [...knuckles, ...joints]) red = Math.max(red, smoothstep(0.02, 8e-3, ball(p, k, 0)));
      for (const b of bones) if (b.nail) {
        const { t, distance } = along(p, b.from, b.to);
        if (distance > 0.02) continue;
        red = Math.max(red, 0.8 * smoothstep(0.3, 1, t) * smoothstep(0.014, 8e-3, distance));
        const way = unit(add(b.to, b.from, -1)), up = unit(add(n, way, -(n[0] * way[0] + n[1] * way[1] + n[2] * way[2])));
        const lift = (p[0] - b.to[0]) * up[0] + (p[1] - b.to[1]) * up[1] + (p[2] - b.to[2]) * up[2];
        if (t > 0.45 && lift > 42e-4) nail = Math.max(nail, smoothstep(0.45, 0.6, t));
      }
      return [red, -nail];
    }
  };
}

// packages/camera/src/figure.ts
function face(q) {
  const p = [Math.abs(q[0]), q[1], q[2]];
  let d = egg(p, [0, 0.03, -0.012], [0.074, 0.098, 0.092]);
  d = blend(d, egg(p, [0, -0.035, 0.02], [0.056, 0.084, 0.066]), 0.04);
  d = blend(d, ball(p, [0, -0.101, 0.056], 0.018), 0.04);
  d = blend(d, ball(p, [0.038, -0.02, 0.055], 0.024), 0.035);
  d = blend(d, limb(p, [0.047, -0.045, -5e-3], [0.018, -0.099, 0.044], 0.015, 0.014), 0.03);
  d = blend(d, limb(p, [0.012, 0.03, 0.08], [0.042, 0.03, 0.064], 7e-3, 6e-3), 0.024);
  d = carve(d, ball(p, [0.031, 0.012, 0.095], 0.016), 0.02);
  d = blend(d, egg(p, [0.031, 0.011, 0.07], [0.015, 0.0105, 0.0125]), 5e-3);
  d = blend(d, limb(p, [0, 0.02, 0.079], [0, -0.02, 0.1], 6e-3, 95e-4), 0.018);
  d = blend(d, ball(p, [0.0105, -0.0245, 0.089], 68e-4), 8e-3);
  d = blend(d, limb(p, [0, -0.0535, 0.0855], [0.018, -0.0585, 0.076], 45e-4, 3e-3), 7e-3);
  d = blend(d, limb(p, [0, -0.064, 0.0845], [0.016, -0.0615, 0.076], 55e-4, 3e-3), 7e-3);
  d = blend(d, egg(p, [0.076, 0, -0.012], [9e-3, 0.031, 0.019]), 9e-3);
  d = carve(d, egg(p, [0.084, 2e-3, -6e-3], [6e-3, 0.018, 9e-3]), 6e-3);
  d = blend(d, limb(q, [0, -0.08, -0.022], [0, -0.25, -0.045], 0.05, 0.056), 0.035);
  return blend(d, limb(p, [0.05, -0.06, -0.02], [0.014, -0.21, 0.012], 0.014, 0.011), 0.03);
}
function complexion(q) {
  const x = Math.abs(q[0]), y = q[1], z = q[2], p = [x, y, z];
  const spot = (c, r) => smoothstep(r, r * 0.3, Math.hypot(x - c[0], y - c[1], z - c[2]));
  const red = Math.max(
    0.45 * spot([0.042, -0.025, 0.07], 0.035),
    0.5 * spot([0, -0.02, 0.105], 0.022),
    0.7 * spot([0.078, 0, -0.012], 0.035),
    smoothstep(55e-4, 1e-3, limb(p, [0, -0.0585, 0.0885], [0.018, -0.0595, 0.078], 3e-3, 1e-3))
  );
  const dark = Math.max(
    0.8 * smoothstep(4e-3, 0, limb(p, [0.016, 0.029, 0.084], [0.046, 0.03, 0.064], 35e-4, 2e-3)),
    0.75 * smoothstep(32e-4, 0, limb(p, [0.02, 9e-3, 0.082], [0.043, 85e-4, 0.073], 22e-4, 15e-4)),
    hairAt(q)
  );
  return [red, dark];
}
function kerchief(p) {
  const around = Math.atan2(p[0], p[1] + 0.04), back = smoothstep(0.07, -0.1, p[2]);
  const fold = 35e-4 * (1 - Math.abs(2 * noise3(around * 7, p[2] * 9, 3) - 1)) * (0.4 + 1.5 * back) + 25e-4 * noise3(p[0] * 60, p[1] * 60, p[2] * 30);
  const cap = egg(p, [0, 0.034, -0.018], [0.084, 0.106, 0.106]) + 4e-3 - fold;
  const line = 0.04 + 0.045 * smoothstep(0, 0.075, p[2]) - 0.1 * smoothstep(0.01, -0.07, p[2]);
  const tie = Math.min(egg(p, [0, -0.05, -0.118], [0.02, 0.015, 0.014]), limb(p, [6e-3, -0.05, -0.118], [0.026, -0.14, -0.125], 6e-3, 0.015), limb(p, [-6e-3, -0.05, -0.118], [-0.012, -0.155, -0.12], 6e-3, 0.016));
  return Math.min(Math.max(cap, line - p[1]), tie + 0.6 * fold);
}
function addHat(mesh, material, band) {
  addSurface(mesh, 120, 40, material, (u, v) => {
    const a = u * 2 * Math.PI, t = v, r = t < 0.45 ? 0.098 * Math.pow(t / 0.45, 0.5) : 0.1 + 0.13 * ((t - 0.45) / 0.55);
    const y = t < 0.45 ? 0.155 - 0.075 * Math.pow(t / 0.45, 3) : 0.08 - 0.05 * ((t - 0.45) / 0.55) ** 1.4 + 0.02 * Math.max(0, t - 0.45) * (Math.sin(2 * a + 0.6) + 0.8 * Math.sin(3 * a + 2));
    return [Math.sin(a) * r * 0.95, y + 0.01, -0.012 + Math.cos(a) * r * 1.08];
  });
  addLathe(mesh, [0, 0.01, -0.012], [[0.1, 0.082], [0.1035, 0.086], [0.1025, 0.112], [0.099, 0.116]], 72, band);
}
var ridge = (n) => 1 - Math.abs(2 * n - 1);
function addFigure(mesh, random, pose, materials) {
  const append = (piece, origin, turn, tilt) => {
    const base = mesh.positions.length / 3;
    for (const name of ["positions", "normals"]) {
      const list = piece[name];
      for (let i = 0; i < list.length; i += 3) {
        let x = list[i], y = list[i + 1], z = list[i + 2];
        [y, z] = [y * Math.cos(tilt) - z * Math.sin(tilt), y * Math.sin(tilt) + z * Math.cos(tilt)];
        [x, z] = [x * Math.cos(turn) + z * Math.sin(turn), -x * Math.sin(turn) + z * Math.cos(turn)];
        if (name === "positions") {
          x += origin[0];
          y += origin[1];
          z += origin[2];
        }
        [x, z] = [x * Math.cos(pose.turn) + z * Math.sin(pose.turn), -x * Math.sin(pose.turn) + z * Math.cos(pose.turn)];
        const own = name === "positions" ? pose.at : [0, 0, 0];
        mesh[name].push(x + own[0], y + own[1], z + own[2]);
      }
    }
    for (const v of piece.uvs) mesh.uvs.push(v);
    for (const v of piece.index) mesh.index.push(v + base);
    for (const v of piece.material) mesh.material.push(v);
  };
  const headAt = [0, 1.57, pose.lean + 0.035], head = emptyMesh();
  const covered = (p) => pose.wears === "kerchief" ? kerchief(p) : 9;
  addField(head, [-0.15, -0.25, -0.17], [0.15, 0.17, 0.14], 29e-4, (p) => Math.min(face(p), covered(p)), (p) => covered(p) < face(p) + 1e-3 ? materials.scarf : materials.skin, complexion);
  if (pose.wears !== "kerchief") addHair(head, random, materials.hair, 4200);
  if (pose.wears === "hat") addHat(head, materials.straw ?? materials.scarf, materials.scarf);
  append(head, headAt, pose.headTurn, pose.headTilt);
  for (const { elbow, hand } of pose.arms) {
    const piece = emptyMesh(), field = handField(elbow, hand), ends2 = [elbow, hand.wrist, hand.wrist.map((v, k) => v + hand.forward[k] * 0.2)];
    const low2 = [0, 1, 2].map((k) => Math.min(...ends2.map((e) => e[k])) - 0.075), high2 = [0, 1, 2].map((k) => Math.max(...ends2.map((e) => e[k])) + 0.075);
    addField(piece, low2, high2, 27e-4, field.distance, () => materials.skin, field.tone);
    append(piece, [0, 0, 0], 0, 0);
  }
  const straight = (p) => [p[0], p[1], p[2] - pose.lean * smoothstep(0.85, 1.5, p[1])];
  const shoulders = [[0.168, 1.375, pose.lean * 0.92 - 5e-3], [-0.168, 1.375, pose.lean * 0.92 - 5e-3]];
  const creases = (p, a, b, near) => {
    const l = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]), s = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1]) + (p[2] - a[2]) * (b[2] - a[2])) / (l * l);
    const warp = 0.25 * noise3(p[0] * 14, p[1] * 14, p[2] * 14);
    return (0.011 * Math.exp(-(((s - near) / 0.38) ** 2)) + 3e-3) * (ridge(noise3(s * l * 34 + warp * 5, (p[0] - a[0]) * 7 + 3, (p[2] - a[2]) * 7)) ** 2 - 0.3);
  };
  const sleeve = (p) => {
    let d = 9;
    for (let i = 0; i < 2; i++) {
      const { elbow, hand, rolled = 0.3 } = pose.arms[i], s = shoulders[i], w = hand.wrist;
      const cuff = [0, 1, 2].map((k) => elbow[k] + (w[k] - elbow[k]) * rolled);
      const roll = [0, 1, 2].map((k) => elbow[k] + (w[k] - elbow[k]) * (rolled - 0.09));
      const upper = limb(p, s, elbow, 0.066, 0.056) - creases(p, s, elbow, 0.95), lower = limb(p, elbow, cuff, 0.055, 0.052) - creases(p, elbow, cuff, 0.1);
      d = Math.min(d, blend(blend(upper, lower, 0.03), limb(p, roll, cuff, 0.055, 0.058) - 3e-3 * noise3(p[0] * 70, p[1] * 70, p[2] * 70), 6e-3));
    }
    return d;
  };
  const torso = (p) => {
    const q = straight(p), a = Math.atan2(q[0], q[2]);
    let d = blend(egg(q, [0, 1.2, 5e-3], [0.165, 0.25, 0.112]), egg(q, [0, 0.97, 0], [0.158, 0.19, 0.125]), 0.1);
    d = blend(d, limb(q, [-0.14, 1.385, -8e-3], [0.14, 1.385, -8e-3], 0.058, 0.058), 0.1);
    d = blend(d, limb(q, [0, 1.38, -0.01], [0, 1.46, 0], 0.085, 0.058), 0.05);
    const drape = ridge(noise3(a * 4.2 + 0.4 * noise3(q[0] * 6, q[1] * 3, 8), q[1] * 1.6, 5)) ** 1.5;
    const skirt = Math.max(Math.hypot(q[0], q[2] * 1.2) - (0.15 + 0.15 * (1.02 - q[1]) + (0.012 + 0.05 * Math.max(0, 0.95 - q[1])) * drape), Math.max(q[1] - 1.02, 0.05 - q[1])) * 0.8;
    const waist = 0.016 * Math.exp(-(((q[1] - 1.03) / 0.035) ** 2));
    const chest = 0.011 * (ridge(noise3(q[0] * 11 + q[1] * 9, q[1] * 7 - q[0] * 4, q[2] * 12)) ** 2 - 0.4) * smoothstep(1.46, 1.36, q[1]);
    return blend(d, skirt, 0.1) + waist - chest;
  };
  const cloth = (p) => {
    const t = torso(p), s = sleeve(p);
    return t > 0.2 && s > 0.2 ? Math.min(t, s) : blend(t, s, 0.035) + 3e-3 * (fractal(p[0] * 26, p[1] * 22, p[2] * 26, 2) - 0.5);
  };
  const bib = (p) => {
    const q = straight(p), half = q[1] > 1.03 ? 0.115 + 0.02 * (1.33 - q[1]) : 0.115 + 0.9 * Math.min(0.1, 1.03 - q[1]) + 0.05 * (1.03 - q[1]), wavy = 6e-3 * noise3(q[1] * 9, q[0] > 0 ? 3 : 8, 1);
    const strap = smoothstep(8e-3, 0, Math.abs(Math.abs(q[0]) - 0.1 + 0.25 * Math.max(0, q[1] - 1.33)) - 0.012) * (q[1] > 1.3 ? 1 : 0);
    const string = q[1] > 1.02 && q[1] < 1.045 ? 1 : 0;
    return Math.max(q[2] > 0.02 ? smoothstep(6e-3, -2e-3, Math.abs(q[0]) - half + wavy) * (q[1] < 1.33 ? 1 : 0) : 0, strap, string) * (sleeve(p) > torso(p) + 0.01 ? 1 : 0);
  };
  const hollow = (p) => {
    const q = straight(p);
    let d = limb(q, [0, 1.43, 0.03], [0, 1.6, 0.03], 0.052, 0.07);
    for (const { elbow, hand, rolled = 0.3 } of pose.arms) {
      const inside = along(p, elbow, hand.wrist);
      if (inside.t > rolled - 0.12) d = Math.min(d, inside.distance - 0.047);
    }
    return d;
  };
  const ends = pose.arms.flatMap((a) => [a.elbow, a.hand.wrist]), body = emptyMesh();
  const low = [Math.min(-0.36, ...ends.map((e) => e[0] - 0.1)), 0.04, Math.min(-0.32, ...ends.map((e) => e[2] - 0.1))];
  const high = [Math.max(0.36, ...ends.map((e) => e[0] + 0.1)), Math.max(1.5, ...ends.map((e) => e[1] + 0.1)), Math.max(0.36, ...ends.map((e) => e[2] + 0.1))];
  addField(body, low, high, 62e-4, (p) => {
    const c = cloth(p);
    return c > 0.05 ? c : carve(c - 5e-3 * bib(p), hollow(p), 6e-3);
  }, (p) => bib(p) > 0.5 ? materials.apron : materials.shirt);
  append(body, [0, 0, 0], 0, 0);
}

// packages/camera/src/materials.ts
var dyes = {
  madder: [0.46, 0.085, 0.055],
  weld: [0.72, 0.52, 0.07],
  woad: [0.09, 0.2, 0.36],
  walnut: [0.27, 0.155, 0.085],
  orchil: [0.45, 0.16, 0.27],
  oakgall: [0.075, 0.075, 0.085],
  fern: [0.2, 0.27, 0.08],
  indigo: [0.035, 0.06, 0.18],
  cream: [0.72, 0.66, 0.54],
  rust: [0.5, 0.2, 0.07]
};
var yarn = (paint) => (s, o) => {
  const twist = 0.5 + 0.5 * Math.sin(s.u * 6.283 + s.v * 420);
  const k = (0.72 + 0.36 * twist) * (0.85 + 0.3 * noise3(s.x * 60, s.y * 60, s.z * 60));
  o.r = paint[0] * k;
  o.g = paint[1] * k;
  o.b = paint[2] * k;
  o.gloss = 0.025;
  o.roughness = 0.55;
  o.through = 0.15;
};
var woven = (paint, through, threads = 900) => (s, o) => {
  const warp = Math.sin(s.u * threads) * Math.sin(s.v * threads);
  const k = (0.93 + 0.07 * warp) * (0.82 + 0.36 * fractal(s.u * 7 + paint[0] * 50, s.v * 9, 3.1, 4));
  o.r = paint[0] * k;
  o.g = paint[1] * k;
  o.b = paint[2] * k;
  o.through = through;
  o.gloss = 0.02;
  o.roughness = 0.7;
};
var linen = (paint) => (s, o) => {
  const weave = Math.sin(s.x * 2100 + 3 * noise3(s.x * 90, s.y * 30, s.z * 90)) * Math.sin(s.y * 2100 + 2 * noise3(s.x * 50, s.y * 90, s.z * 50));
  const worn = fractal(s.x * 11, s.y * 11, s.z * 11, 4) - 0.5, k = 0.92 + 0.1 * weave + 0.3 * worn;
  o.r = paint[0] * k;
  o.g = paint[1] * k;
  o.b = paint[2] * k;
  o.nx += crease(s.x, s.y, s.z);
  o.ny += crease(s.x + 9, s.y, s.z);
  o.nz += crease(s.x, s.y + 9, s.z);
  o.through = 0.04;
};
var crease = (x, y, z) => 0.5 * (fractal(x * 45, y * 33, z * 45, 3) - 0.5) + 0.16 * (noise3(x * 330, y * 330, z * 330) - 0.5);
var skin = (paint) => (s, o) => {
  const mottle = fractal(s.x * 34, s.y * 34, s.z * 34, 4) - 0.5, pore = noise3(s.x * 900, s.y * 900, s.z * 900) - 0.5;
  const freckle = smoothstep(0.72, 0.8, noise3(s.x * 210, s.y * 210, s.z * 210)) * 0.16, red = Math.max(0, s.u), nail = Math.max(0, -s.v), hair2 = Math.max(0, s.v);
  const k = (1 + 0.07 * pore) * (1 - freckle);
  o.r = paint[0] * k * (1 + 0.1 * mottle) * (1 - 0.06 * red);
  o.g = paint[1] * k * (1 - 0.28 * mottle) * (1 - freckle) * (1 - 0.36 * red);
  o.b = paint[2] * k * (1 - 0.26 * mottle) * (1 - freckle) * (1 - 0.34 * red);
  o.g += nail * 0.05;
  o.b += nail * 0.05;
  o.r += (0.045 - o.r) * hair2;
  o.g += (0.03 - o.g) * hair2;
  o.b += (0.02 - o.b) * hair2;
  o.gloss = 0.03 + 0.02 * nail;
  o.roughness = 0.46 + 0.1 * mottle - 0.16 * nail;
  o.wrap = 0.28 * (1 - hair2);
  o.nx += 0.1 * pore + 0.12 * (noise3(s.x * 260, s.y * 420, s.z * 260) - 0.5);
  o.ny += 0.16 * (noise3(s.x * 250 + 7, s.y * 400, s.z * 250) - 0.5);
};
var hair = (paint) => (s, o) => {
  const k = 0.7 + 0.6 * noise3(s.x * 120, s.y * 120, s.z * 120);
  o.r = paint[0] * k;
  o.g = paint[1] * k;
  o.b = paint[2] * k;
  o.gloss = 0.05;
  o.roughness = 0.4;
  o.through = 0.2;
};
var straw = (paint) => (s, o) => {
  const braid = Math.abs(Math.sin(s.v * 75)), strand = noise3(s.u * 320 + s.v * 40, s.v * 160, 3), k = 0.55 + 0.3 * braid + 0.35 * strand;
  o.r = paint[0] * k;
  o.g = paint[1] * k;
  o.b = paint[2] * k;
  o.gloss = 0.03;
  o.roughness = 0.5;
  o.through = 0.12;
  o.ny += 0.5 * (braid - 0.5);
};
var stone = (paint, scale2, bump = 0.35) => (s, o) => {
  const broad = fractal(s.x * scale2, s.y * scale2, s.z * scale2, 5), fine = fractal(s.x * scale2 * 14, s.y * scale2 * 14, s.z * scale2 * 14, 3);
  const k = 0.55 + 0.6 * broad + 0.3 * (fine - 0.5);
  o.r = paint[0] * k * (0.96 + 0.1 * broad);
  o.g = paint[1] * k;
  o.b = paint[2] * k * (1.05 - 0.12 * broad);
  const q = scale2 * 9;
  o.nx += bump * (noise3(s.x * q, s.y * q, s.z * q) - 0.5);
  o.ny += bump * (noise3(s.x * q + 40, s.y * q, s.z * q) - 0.5);
  o.nz += bump * (noise3(s.x * q, s.y * q + 40, s.z * q) - 0.5);
};
var wood = (paint, upright, plank) => (s, o) => {
  const along2 = upright ? s.y : s.x, across = upright ? Math.atan2(s.z, s.x) * 0.3 + s.x : s.z;
  const board = Math.floor(across / plank), inBoard = across / plank - board;
  const tone = 0.75 + 0.5 * noise3(board * 7.3, 1.1, 0);
  const ring = fractal(along2 * 2.2 + board * 13, across * 60, s.z * (upright ? 3 : 0.1), 4), grain = noise3(along2 * 14 + board * 5, across * 420, 2);
  const gap = smoothstep(0, 0.025, inBoard) * smoothstep(1, 0.975, inBoard);
  const k = tone * (0.55 + 0.7 * ring) * (0.85 + 0.3 * grain) * (0.25 + 0.75 * gap);
  o.r = paint[0] * k;
  o.g = paint[1] * k;
  o.b = paint[2] * k;
  o.gloss = 0.03;
  o.roughness = 0.45 + 0.25 * grain;
};
var brick = (paint, axis) => (s, o) => {
  const along2 = axis === "x" ? s.x : s.z, row = Math.floor(s.y / 0.075), x = along2 / 0.225 + (row & 1) * 0.5, column = Math.floor(x);
  const inX = Math.abs(x - column - 0.5) * 0.225 + 6e-3 * (noise3(s.x * 40, s.y * 40, s.z * 40) - 0.5), inY = Math.abs(s.y / 0.075 - row - 0.5) * 0.075;
  const mortar = Math.max(smoothstep(0.103, 0.108, inX), smoothstep(0.029, 0.033, inY));
  const tone = 0.55 + 0.8 * noise3(column * 5.1, row * 3.7, 0.5), wear = 0.6 + 0.8 * fractal(s.x * 22, s.y * 22, s.z * 22, 4);
  const k = tone * wear;
  o.r = paint[0] * k * (1 - mortar) + 0.3 * mortar * wear;
  o.g = paint[1] * k * (1 - mortar) + 0.27 * mortar * wear;
  o.b = paint[2] * k * (1 - mortar) + 0.22 * mortar * wear;
  o.nx += 0.3 * (noise3(s.x * 90, s.y * 90, s.z * 90) - 0.5);
  o.ny += (s.y / 0.075 - row - 0.5 > 0 ? 0.5 : -0.5) * mortar;
};
var bath = (paint) => (s, o) => {
  const scum = smoothstep(0.55, 0.75, fractal(s.x * 14, s.z * 14, paint[0] * 9, 4));
  const k = 0.6 + 2.2 * scum;
  o.r = paint[0] * k;
  o.g = paint[1] * k;
  o.b = paint[2] * k;
  o.gloss = 0.03 * (1 - scum) + 0.01;
  o.roughness = 0.1 + 0.4 * scum;
  o.nx += 0.12 * (fractal(s.x * 24, s.z * 24, 4.2, 2) - 0.5);
  o.nz += 0.12 * (fractal(s.x * 24, s.z * 24, 8.7, 2) - 0.5);
};
var fleece = (paint) => (s, o) => {
  const dirt = fractal(s.x * 13, s.y * 13, s.z * 13, 4), curl = noise3(s.x * 180, s.y * 70, s.z * 180);
  const k = (0.62 + 0.5 * dirt) * (0.78 + 0.34 * curl);
  o.r = paint[0] * k;
  o.g = paint[1] * k * (0.95 + 0.05 * dirt);
  o.b = paint[2] * k * (0.82 + 0.2 * dirt);
  o.through = 0.3;
};
var plain = (paint, gloss = 0, roughness = 0.6, through = 0) => (_s, o) => {
  o.r = paint[0];
  o.g = paint[1];
  o.b = paint[2];
  o.gloss = gloss;
  o.roughness = roughness;
  o.through = through;
};
var iron = (s, o) => {
  const k = 0.35 + 0.5 * fractal(s.x * 60, s.y * 60, s.z * 60, 3);
  o.r = 0.3 * k;
  o.g = 0.27 * k;
  o.b = 0.25 * k;
  o.metal = 0.35;
  o.gloss = 0.3;
  o.roughness = 0.55;
};
var glow = (power) => (_s, o) => {
  o.r = o.g = o.b = 0;
  o.glow = power;
};
var blades = (low, high) => (s, o) => {
  const patch = fractal(s.x * 0.9, s.z * 0.9, 2.2, 3), k = 0.45 + 0.75 * s.v, m = smoothstep(0.35, 0.65, patch);
  o.r = (low[0] + (high[0] - low[0]) * m) * k;
  o.g = (low[1] + (high[1] - low[1]) * m) * k;
  o.b = (low[2] + (high[2] - low[2]) * m) * k;
  o.through = 0.35;
};
var chartBoard = (patches) => {
  const board = new Float64Array(16).fill(0.035);
  return (s, o) => {
    const x = (s.u - 0.02) / 0.96 * 6, y = (1 - s.v - 0.03) / 0.94 * 4;
    const i = Math.floor(x), j = Math.floor(y);
    const inside = i >= 0 && i < 6 && j >= 0 && j < 4 && Math.abs(x - i - 0.5) < 0.43 && Math.abs(y - j - 0.5) < 0.43;
    o.spectrum = inside ? patches[j * 6 + i] : board;
  };
};
var solid = (reflectance) => (_s, o) => {
  o.spectrum = reflectance;
};

// packages/camera/src/chart.ts
var patchLab = [
  [37.986, 13.555, 14.059],
  [65.711, 18.13, 17.81],
  [49.927, -4.88, -21.925],
  [43.139, -13.095, 21.905],
  [55.112, 8.844, -25.399],
  [70.719, -33.397, -0.199],
  [62.661, 36.067, 57.096],
  [40.02, 10.41, -45.964],
  [51.124, 48.239, 16.248],
  [30.325, 22.976, -21.587],
  [72.532, -23.709, 57.255],
  [71.941, 19.363, 67.857],
  [28.778, 14.179, -50.297],
  [55.261, -38.342, 31.37],
  [42.101, 53.378, 28.19],
  [81.733, 4.039, 79.819],
  [51.935, 49.986, -14.574],
  [51.038, -28.631, -28.638],
  [96.539, -0.425, 1.186],
  [81.257, -0.638, -0.335],
  [66.766, -0.734, -0.504],
  [50.867, -0.153, -0.27],
  [35.656, -0.421, -1.231],
  [20.461, -0.079, -0.973]
];
function patchReflectances() {
  const d50 = lightOf(5003);
  const white = observer.map((curve) => dot(curve, d50));
  const patches = patchLab.map(([L, a, b]) => {
    const fy = (L + 16) / 116;
    const cube = (f) => f > 6 / 29 ? f ** 3 : 3 * (6 / 29) ** 2 * (f - 4 / 29);
    return smoothestReflectance([white[0] * cube(fy + a / 500), cube(fy), white[2] * cube(fy - b / 200)], d50);
  });
  return [...patches, new Float64Array(16).fill(0.18)];
}

// packages/camera/src/props.ts
function use(stage, material) {
  stage.materials.push(material);
  return stage.materials.length - 1;
}
function addChart(stage, foot, towards, size2 = 1) {
  const face2 = unit(subtract(towards, foot)), side = unit(cross([0, 1, 0], face2)), up = unit(cross(face2, side));
  const patches = patchReflectances();
  const edge1 = [side[0] * 0.3 * size2, side[1] * 0.3 * size2, side[2] * 0.3 * size2], edge2 = [up[0] * 0.2 * size2, up[1] * 0.2 * size2, up[2] * 0.2 * size2];
  const corner = add(foot, side, -0.26 * size2), cardCorner = add(foot, side, 0.07 * size2);
  const cardEdge1 = [side[0] * 0.16 * size2, side[1] * 0.16 * size2, side[2] * 0.16 * size2];
  addQuad(stage.mesh, corner, edge1, edge2, use(stage, chartBoard(patches)));
  addQuad(stage.mesh, cardCorner, cardEdge1, edge2, use(stage, solid(patches[24])));
  stage.chart = { corner, edge1, edge2, cardCorner, cardEdge1, cardEdge2: edge2 };
}
function addHank(stage, peg, drop, width2, strands, material, turn = 0) {
  const { random } = stage, seed = random() * 100;
  for (let i = 0; i < strands; i++) {
    const r = 0.036 * Math.sqrt(random()) * (i % 23 === 0 ? 1.35 : 1), a = 2 * Math.PI * random(), slack = 1 + 0.02 * normal(random) + (i % 17 === 0 ? 0.03 : 0), phase = random();
    const path = [];
    const steps = 84;
    for (let k = 0; k <= steps; k++) {
      const t = (k / steps + phase) * 2 * Math.PI, s = Math.sin(t), c = Math.cos(t);
      const twist = a + 1.6 * (1 - c) + 0.5 * noise3(seed, c * 2 + i * 0.13, s);
      const narrow = width2 * (0.55 + 0.45 * Math.sin((1 - c) / 2 * Math.PI * 0.8));
      const wob = 4e-3 * (noise3(i * 1.7, t * 2.2, seed) - 0.5);
      const x = narrow * Math.sign(s) * Math.pow(Math.abs(s), 0.55) + r * Math.cos(twist) + wob;
      const z = r * Math.sin(twist) * 0.85 + wob + 0.03;
      path.push([peg[0] + x * Math.cos(turn) + z * Math.sin(turn), peg[1] - (1 - c) / 2 * drop * slack + r * 0.6 * c * Math.sin(twist), peg[2] - x * Math.sin(turn) + z * Math.cos(turn)]);
    }
    addTube(stage.mesh, path, 5, material, () => 19e-4);
  }
}
function addBallOfYarn(stage, centre2, radius, turns, material) {
  const { random } = stage;
  for (let i = 0; i < turns; i++) {
    const n = unit([normal(random), normal(random), normal(random)]), a = unit(cross(n, [0.31, 0.9, 0.2])), b = cross(n, a), r = radius * (0.94 + 0.06 * random()), off = (random() - 0.5) * radius * 0.9, rr = Math.sqrt(Math.max(0, r * r - off * off));
    const path = [];
    for (let k = 0; k <= 40; k++) {
      const t = k / 40 * 2 * Math.PI;
      path.push(add(add(add(centre2, n, off), a, rr * Math.cos(t)), b, rr * Math.sin(t)));
    }
    addTube(stage.mesh, path, 5, material, () => 21e-4);
  }
}
function addGrass(stage, count, area, ground, height2, low, high) {
  const material = use(stage, blades(low, high));
  const { random } = stage;
  for (let i = 0; i < count; i++) {
    const [x, z] = area(random), y = ground(x, z), h = height2 * (0.45 + 0.9 * random()) * (0.5 + noise3(x * 0.8, 3, z * 0.8)), bend = h * (0.2 + 0.6 * random()), angle = 2 * Math.PI * random(), w = 35e-4 + 3e-3 * random();
    const ca = Math.cos(angle), sa = Math.sin(angle);
    addSurface(stage.mesh, 1, 2, material, (u, v) => [x + ca * bend * v * v + (u - 0.5) * w * (1 - v * 0.9) * sa, y + h * v, z + sa * bend * v * v - (u - 0.5) * w * (1 - v * 0.9) * ca]);
  }
}

// packages/camera/src/scenes/dusk.ts
var sun = unit([0.5, 0.06, -1]);
function sky(dx, dy, dz, out2) {
  const height2 = Math.max(0, dy), near = Math.max(0, dx * sun[0] + dy * sun[1] + dz * sun[2]), band = Math.exp(-height2 * 7);
  const towards = 0.3 + 0.7 * near * near;
  let r = 0.1 + 0.66 * band * towards, g = 0.16 + 0.23 * band * towards, b = 0.36 + 0.02 * band - 0.3 * band * towards;
  const halo = 1.3 * near ** 90 + 0.3 * near ** 12;
  r += halo * 1.2;
  g += halo * 0.5;
  b += halo * 0.1;
  if (dy > 0.015) {
    const px = dx / (dy + 0.09), pz = dz / (dy + 0.09);
    const cloud = smoothstep(0.44, 0.7, fractal(px * 0.55 + 3, pz * 1.6, 1.7, 6)) * smoothstep(0.015, 0.12, dy) * 0.85;
    const lit = Math.max(0, fractal(px * 0.55 + 3.2, pz * 1.6 + 0.3, 1.7, 5) - 0.4) * 2, under = band * towards;
    r += cloud * (0.25 + 1.6 * under - 0.5 * lit * r);
    g += cloud * (0.16 + 0.55 * under - 0.5 * lit * g);
    b += cloud * (0.17 + 0.3 * under - 0.45 * lit * b);
  }
  const k = dy < 0 ? 0.2 : 0.8;
  out2.r = r * k;
  out2.g = g * k;
  out2.b = b * k;
}
function duskScene(stage, view, light2, skyLight) {
  const { mesh, random } = stage;
  const ground = (x, z) => 0.25 * (fractal(x * 0.25, 3, z * 0.25, 3) - 0.5) - 0.02 * Math.max(0, -z - 3);
  addSurface(mesh, 140, 200, use(stage, stone([0.1, 0.105, 0.045], 0.7, 0.6)), (u, v) => {
    const x = (u - 0.5) * 60, z = 4 - 56 * v * v;
    return [x, ground(x, z), z];
  });
  for (let i = 0; i < 3; i++) {
    const far = -60 - 70 * i;
    const tone = [[0.045, 0.055, 0.04], [0.09, 0.085, 0.1], [0.16, 0.13, 0.155]][i];
    addSurface(mesh, 700, 2, use(stage, plain(tone)), (u, v) => {
      const x = (u - 0.5) * 260 * (1 + i * 0.7), trees = i < 2 ? (2.2 - i) * fractal(x * 0.5, i * 9, 0, 5) : 0;
      return [x, v * (2.5 + i * 3.5 + (5 + 5 * i) * fractal(x * 0.018 + i * 3, i, 0, 3) + trees) - 2.5, far];
    });
  }
  addGrass(stage, 52e3, (q) => {
    const z = 2.2 - 11 * q() ** 1.4;
    return [(q() - 0.5) * (7 + (2.6 - z) * 1.1), z];
  }, ground, 0.2, [0.14, 0.17, 0.05], [0.3, 0.25, 0.09]);
  const post = use(stage, wood([0.26, 0.2, 0.15], true, 0.3));
  for (const x of [-2.75, 2.9]) addTube(mesh, [[x, -0.3, -1.6], [x + 0.02, 1, -1.6], [x + 0.01, 2.25, -1.6]], 14, post, () => 0.045);
  const sag = (x) => 2.12 - 0.16 * (1 - ((x - 0.07) / 2.83) ** 2);
  addTube(mesh, Array.from({ length: 40 }, (_, i) => [-2.75 + 5.65 * i / 39, sag(-2.75 + 5.65 * i / 39), -1.6]), 6, use(stage, plain([0.3, 0.26, 0.2])), () => 6e-3);
  [dyes.madder, dyes.weld, dyes.woad, dyes.rust, dyes.orchil].forEach((paint, i) => {
    const x0 = -2.45 + i * 1.04, w = 0.86, d = 1.05 + 0.2 * random(), lean = 0.1 + 0.16 * random(), phase = random() * 9;
    addSurface(mesh, 140, 110, use(stage, woven(paint, 0.45, 1100)), (u, v) => {
      const x = x0 + u * w + 0.05 * Math.sin(v * 2.5 + phase) * v;
      const fold = (0.05 * Math.sin(u * 15 + phase + 2.2 * fractal(u * 2.5, v * 1.5, phase, 3)) + 0.02 * Math.sin(u * 37 - v * 4 + phase)) * (0.2 + 0.8 * v);
      return [x, sag(x0 + u * w) - v * d + 0.05 * v * Math.sin(u * 6 + phase), -1.6 + fold + lean * v * v];
    });
    for (const u of [0.04, 0.96]) addTube(mesh, [[x0 + u * w, sag(x0 + u * w) - 0.05, -1.6], [x0 + u * w, sag(x0 + u * w) + 0.04, -1.6]], 8, post, () => 0.011);
  });
  if (view === 1) {
    addFigure(mesh, random, {
      at: [0.62, ground(0.62, -1.2) + 0.01, -1.2],
      turn: 2.7,
      headTurn: 0.25,
      headTilt: -0.2,
      lean: 0.02,
      wears: "hat",
      arms: [
        { elbow: [0.3, 1.6, 0.14], hand: { wrist: [0.24, 1.85, 0.22], forward: [-0.1, 0.9, 0.3], back: [0.75, 0.1, -0.5], thumb: -1, curl: 0.8 } },
        { elbow: [-0.3, 1.36, 0.2], hand: { wrist: [-0.26, 1.6, 0.3], forward: [0.05, 0.85, 0.4], back: [-0.8, 0.1, -0.4], thumb: 1, curl: 0.8 } }
      ]
    }, { skin: use(stage, skin([0.58, 0.37, 0.27])), hair: use(stage, hair([0.16, 0.09, 0.045])), straw: use(stage, straw([0.6, 0.46, 0.24])), scarf: use(stage, linen(dyes.indigo)), shirt: use(stage, linen([0.2, 0.115, 0.085])), apron: use(stage, linen([0.5, 0.46, 0.38])) });
  }
  if (view === 2) {
    addChart(stage, [-0.1, 0.92, -0.55], [0.1, 1.15, 3], 1.3);
    addTube(mesh, [[-0.12, -0.2, -0.6], [-0.12, 0.95, -0.6]], 10, post, () => 0.02);
  }
  return {
    mesh,
    materials: stage.materials,
    sky,
    skySpectrum: skyLight,
    medium: null,
    bounces: 2,
    lamps: [{ kind: "far", towards: sun, spread: 0.02, power: 1100, spectrum: light2, visible: true }],
    eye: [[-0.2, 1.25, 3.1], [-0.75, 1.5, 2.5], [0.15, 1.2, 1.5], [-0.6, 1.5, 1.25]][view],
    target: [[0.15, 1.28, -1.6], [0.15, 1.38, -1.4], [-0.05, 1.1, -0.6], [-1, 1.45, -1.2]][view],
    focalMm: [30, 42, 45, 55][view],
    apertureF: [5.6, 3.2, 4, 2.2][view],
    focusAt: [[0, 1.2, -1.5], [0.2, 1.5, -1.55], [-0.1, 1, -0.55], [-1.1, 1.5, -0.9]][view]
  };
}

// packages/camera/src/scenes/moor.ts
var sun2 = unit([-0.95, 0.3, -0.5]);
function addLocks({ mesh, random }, surface, wool, count, fine) {
  for (let i = 0; i < count; i++) {
    const u = random(), v = 0.05 + 0.95 * random(), p = surface(u, v), q = surface(Math.min(1, u + 0.01), v), r = surface(u, Math.min(1, v + 0.01));
    let n = unit(cross(subtract(q, p), subtract(r, p)));
    if (n[2] + n[1] < 0) n = [-n[0], -n[1], -n[2]];
    const len = (0.035 + 0.045 * random()) * (0.4 + 0.6 * fine), curl = (6e-3 + 6e-3 * random()) * fine, turn = random() * 6, sx = 0.6 * normal(random), sy = 0.5 * normal(random);
    const path = [];
    for (let k = 0; k <= 7; k++) {
      const t = k / 7, w = t * 9 + turn;
      path.push([p[0] + n[0] * len * t * 0.7 + sx * len * t * 0.6 + curl * Math.cos(w) * t, p[1] + n[1] * len * t * 0.7 - 0.75 * len * t * t + sy * len * t * 0.3 + curl * Math.sin(w) * t, p[2] + n[2] * len * t * 0.8 + curl * Math.sin(w + 1) * t]);
    }
    addTube(mesh, path, 4, wool, (t) => 42e-4 * fine * (1 - 0.75 * t));
  }
}
function moorScene(stage, view, light2, skyLight) {
  const { mesh, random } = stage;
  const ground = (x, z) => 0.5 * (fractal(x * 0.22, 1, z * 0.22, 4) - 0.5) + 3.2 * (fractal(x * 0.021 + 4, 6, z * 0.021, 3) - 0.45) * Math.min(1, Math.max(0, (-z - 3) / 30));
  addSurface(mesh, 240, 260, use(stage, stone([0.16, 0.15, 0.075], 0.9, 0.6)), (u, v) => {
    const z = 4 - 130 * v * v, x = (u - 0.5) * (24 + (4 - z) * 1.2);
    return [x, ground(x, z), z];
  });
  addGrass(stage, 6e4, (q) => {
    const z = 2.4 - 13 * q() ** 1.5;
    return [(q() - 0.5) * (6 + (3 - z) * 1.2), z];
  }, ground, 0.26, [0.24, 0.2, 0.075], [0.2, 0.11, 0.1]);
  const stones = [use(stage, stone([0.33, 0.315, 0.29], 5, 0.5)), use(stage, stone([0.25, 0.25, 0.245], 6, 0.5)), use(stage, stone([0.36, 0.335, 0.28], 4, 0.5))];
  const wallZ = -1.5, top = 0.92;
  for (let row = 0; row < 8; row++) {
    let x = -5 + random() * 0.3;
    while (x < 5) {
      const w = 0.16 + 0.26 * random(), h = 0.125, cx = x + w / 2, cy = 0.03 + row * 0.118 + 0.02 * normal(random) * 0.4 + ground(cx, wallZ) * 0.6, seed = random() * 99, depth = 0.2 + 0.04 * random();
      addSurface(mesh, 20, 12, stones[Math.floor(random() * 3)], (u, v) => {
        const phi = u * 2 * Math.PI, theta = v * Math.PI, p = (c) => Math.sign(c) * Math.pow(Math.abs(c), 0.32);
        const dx = p(Math.sin(theta) > 0 ? Math.cos(phi) : 0) * Math.pow(Math.sin(theta), 0.32), dz = p(Math.sin(phi)) * Math.pow(Math.sin(theta), 0.32), dy = p(Math.cos(theta));
        const k = 1 + 0.18 * (noise3(dx * 1.6 + seed, dy * 1.6, dz * 1.6) - 0.5) + 0.05 * (noise3(dx * 6 + seed, dy * 6, dz * 6) - 0.5);
        return [cx + dx * w * k / 2, cy + dy * h * k / 2, wallZ + dz * depth * k];
      });
      x += w * 0.97;
    }
  }
  const wools = [use(stage, fleece([0.85, 0.8, 0.69])), use(stage, fleece([0.62, 0.52, 0.41])), use(stage, fleece([0.32, 0.25, 0.2]))];
  const spots = [[-1.75, 0], [-0.62, 1], [0.5, 0], [1.6, 2]];
  for (const [x0, kind] of spots) {
    const width2 = 0.86, base = top + ground(x0, wallZ) * 0.6 + 0.02, seed = random() * 50;
    const drape = (u, v) => {
      const ragged = fractal(u * 5 + seed, v * 4, 1, 3) - 0.5, hang = 0.75 + 0.5 * fractal(u * 2.6 + seed, 7, 0, 3) - 0.55 * (2 * u - 1) ** 4;
      const x = x0 + (u - 0.5) * width2 * (1 - 0.3 * (2 * v - 1) ** 2) + 0.14 * ragged, s = (v - 0.42) * 1.25, over = 0.2;
      const thick = (0.03 + 0.12 * fractal(u * 6 + seed, v * 7, 2, 4)) * (1 - (2 * u - 1) ** 6);
      if (s < -over) return [x, base + thick - (-over - s), wallZ - 0.25 - thick];
      const bend = Math.min(1, Math.max(0, (s + over) / (2 * over))), round = Math.sin(bend * Math.PI);
      if (s < over) return [x, base + thick * (0.5 + 0.5 * round) + 0.045 * round, wallZ + (bend - 0.5) * 0.5 + (bend - 0.5) * thick];
      return [x + 0.04 * Math.sin(u * 9 + seed), base + thick * 0.5 - (s - over) * hang, wallZ + 0.25 + thick * 0.9];
    };
    addSurface(mesh, 90, 90, wools[kind], drape);
    const close = view === 3 && x0 === 0.5;
    addLocks(stage, drape, wools[kind], close ? 3e4 : 5200, close ? 0.75 : 1);
  }
  const dead = use(stage, plain([0.05, 0.04, 0.035]));
  for (const [tx, tz, scale2] of [[3.6, -11, 1], [-7.5, -19, 1.3], [8, -27, 1.6]]) {
    const branch = (from, way, len, r, depth) => {
      const path = Array.from({ length: 6 }, (_, k) => [from[0] + way[0] * len * (k / 5) + 0.06 * len * (noise3(from[0] * 5, k, depth) - 0.5) * k, from[1] + way[1] * len * (k / 5), from[2] + way[2] * len * (k / 5)]);
      addTube(mesh, path, 5, dead, (t) => r * (1 - 0.45 * t));
      if (depth > 0) for (let i = 0; i < 3 + (depth > 3 ? 1 : 0); i++) branch(path[3 + Math.floor(random() * 3)], unit([way[0] + 0.7 * normal(random) + 0.25, way[1] + 0.35 * normal(random) + 0.12, way[2] + 0.7 * normal(random)]), len * (0.55 + 0.2 * random()), r * 0.55, depth - 1);
    };
    branch([tx, ground(tx, tz) - 0.2, tz], unit([0.18, 1, 0]), 1.5 * scale2, 0.13 * scale2, 5);
  }
  if (view === 1) {
    const at = [0.75, ground(0.75, -4.4) - 0.02, -4.4];
    addFigure(mesh, random, {
      at,
      turn: -0.75,
      headTurn: -0.2,
      headTilt: 0.15,
      lean: 0.05,
      wears: "kerchief",
      arms: [
        { elbow: [0.29, 1.08, 0.1], hand: { wrist: [0.2, 1.02, 0.34], forward: [-0.7, 0, 0.6], back: [0.5, -0.6, 0.6], thumb: -1, curl: 0.4 } },
        { elbow: [-0.29, 1.08, 0.1], hand: { wrist: [-0.2, 1, 0.34], forward: [0.7, 0, 0.6], back: [-0.5, -0.6, 0.6], thumb: 1, curl: 0.4 } }
      ]
    }, { skin: use(stage, skin([0.57, 0.37, 0.27])), hair: use(stage, hair([0.05, 0.035, 0.03])), scarf: use(stage, linen(dyes.madder)), shirt: use(stage, linen([0.16, 0.17, 0.17])), apron: use(stage, linen(dyes.oakgall)) });
    const c = Math.cos(-0.75), s = Math.sin(-0.75);
    const bundle = (u, v) => {
      const phi = u * 2 * Math.PI, theta = Math.PI * v, d = [Math.sin(theta) * Math.cos(phi), Math.cos(theta), Math.sin(theta) * Math.sin(phi)], r = 1 + 0.4 * (fractal(d[0] * 3.5, d[1] * 3.5, d[2] * 3.5, 4) - 0.5);
      return [at[0] + 0.33 * s + d[0] * 0.27 * r, at[1] + 1.13 + d[1] * 0.16 * r, at[2] + 0.33 * c + d[2] * 0.24 * r];
    };
    addSurface(mesh, 80, 50, wools[0], bundle);
    addLocks(stage, bundle, wools[0], 6e3, 0.9);
  }
  if (view === 3) {
    addFigure(mesh, random, {
      at: [0.5, 0.02, -2.05],
      turn: -0.1,
      headTurn: 0,
      headTilt: 0.4,
      lean: 0.16,
      wears: "kerchief",
      arms: [
        { elbow: [0.26, 1.12, 0.3], rolled: 0.25, hand: { wrist: [0.15, 1.07, 0.52], forward: [-0.35, -0.2, 0.85], back: [0.2, 0.95, 0.2], thumb: -1, curl: 0.3 } },
        { elbow: [-0.27, 1.13, 0.28], rolled: 0.25, hand: { wrist: [-0.14, 1.09, 0.48], forward: [0.45, -0.22, 0.8], back: [-0.2, 0.95, 0.25], thumb: 1, curl: 0.42 } }
      ]
    }, { skin: use(stage, skin([0.57, 0.37, 0.27])), hair: use(stage, hair([0.05, 0.035, 0.03])), scarf: use(stage, linen(dyes.madder)), shirt: use(stage, linen([0.2, 0.24, 0.27])), apron: use(stage, linen(dyes.walnut)) });
  }
  if (view === 2) {
    addTube(mesh, [[0.02, 0, -0.98], [0.02, 1.02, -0.98]], 10, use(stage, wood([0.3, 0.22, 0.15], true, 0.3)), () => 0.02);
    addChart(stage, [0.05, 0.88, -0.92], [0.1, 1.15, 3], 1.2);
  }
  const haze = (dx, dy, dz) => {
    const near = Math.max(0, dx * sun2[0] + dy * sun2[1] + dz * sun2[2]);
    return 0.34 + 0.75 * near ** 2 + 0.9 * near ** 14 + 2.5 * near ** 420 + 14 * near ** 4200;
  };
  return {
    mesh,
    materials: stage.materials,
    skySpectrum: skyLight,
    bounces: 2,
    sky: (dx, dy, dz, out2) => {
      const k = haze(dx, dy, dz), warm = Math.max(0, dx * sun2[0] + dy * sun2[1] + dz * sun2[2]) ** 2, clear = Math.max(0, dy), streak = 1 + 0.12 * (fractal(dx * 3 / (clear + 0.25), clear * 6, dz, 4) - 0.5);
      out2.r = streak * k * (0.84 + 0.4 * warm - 0.2 * clear);
      out2.g = streak * k * (0.86 + 0.14 * warm - 0.08 * clear);
      out2.b = streak * k * (0.92 - 0.16 * warm + 0.1 * clear);
    },
    lamps: [{ kind: "far", towards: sun2, spread: 0.1, power: 150, spectrum: light2, visible: false }],
    medium: {
      spectrum: skyLight,
      reach: 120,
      steps: 6,
      at: (x, y, z, dx, dy, dz, out2) => {
        out2.extinction = 0.055 * Math.exp(-Math.max(0, y) * 0.045) * (0.55 + 0.9 * fractal(x * 0.11, y * 0.2, z * 0.11, 3)) * smoothstep(0.5, -9, z);
        const k = haze(dx, dy, dz), warm = Math.max(0, dx * sun2[0] + dy * sun2[1] + dz * sun2[2]) ** 2;
        out2.r = k * (0.84 + 0.4 * warm);
        out2.g = k * (0.86 + 0.14 * warm);
        out2.b = k * (0.92 - 0.16 * warm);
      }
    },
    eye: [[0.3, 1.35, 2], [0.2, 1.5, 1.3], [0.15, 1.2, 1.3], [0.05, 1.38, -0.3]][view],
    target: [[-0.1, 0.98, -1.5], [0.15, 1.22, -2.2], [-0.05, 1, -1.1], [0.42, 1.07, -1.65]][view],
    focalMm: [32, 36, 45, 50][view],
    apertureF: [5.6, 4, 4, 3.5][view],
    focusAt: [[0, 1, -1.2], [0.4, 1.1, -2.4], [0, 1, -0.92], [0.45, 1.06, -1.5]][view]
  };
}

// packages/camera/src/scenes/vat.ts
function vatScene(stage, view, light2) {
  const { mesh } = stage;
  const back = use(stage, brick([0.34, 0.16, 0.1], "x")), side = use(stage, brick([0.3, 0.15, 0.1], "z"));
  addQuad(mesh, [-3.2, 0, -2.4], [6.4, 0, 0], [0, 3.2, 0], back);
  addQuad(mesh, [-3.2, 0, 3.6], [0, 0, -6], [0, 3.2, 0], side);
  addQuad(mesh, [3.2, 0, -2.4], [0, 0, 6], [0, 3.2, 0], side);
  addQuad(mesh, [-3.2, 3.2, -2.4], [6.4, 0, 0], [0, 0, 6], use(stage, wood([0.14, 0.09, 0.06], false, 0.2)));
  addQuad(mesh, [-3.2, 0, 3.6], [6.4, 0, 0], [0, 0, -6], use(stage, stone([0.17, 0.155, 0.14], 3, 0.3)));
  const staves = use(stage, wood([0.33, 0.2, 0.11], true, 0.085)), hoop = use(stage, iron);
  const vats = [[[-1.25, 0, -0.75], dyes.woad], [[0.05, 0, -1], dyes.madder], [[1.3, 0, -0.7], dyes.weld]];
  for (const [at, dye] of vats) {
    addLathe(mesh, at, [[0.4, 0], [0.45, 0.2], [0.475, 0.45], [0.47, 0.65], [0.45, 0.86], [0.425, 0.86], [0.44, 0.7], [0.44, 0.5]], 96, staves);
    for (const [h, r] of [[0.14, 0.442], [0.36, 0.474], [0.62, 0.477], [0.8, 0.46]]) addLathe(mesh, at, [[r, h], [r + 6e-3, h + 4e-3], [r + 6e-3, h + 0.034], [r, h + 0.038]], 96, hoop);
    addLathe(mesh, at, [[0.44, 0.77], [0, 0.77]], 64, use(stage, bath([dye[0] * 0.5, dye[1] * 0.5, dye[2] * 0.5])));
  }
  addTube(mesh, [[1.5, 0.55, -0.75], [1.25, 1.55, -0.5]], 12, use(stage, wood([0.5, 0.36, 0.22], true, 0.5)), () => 0.017);
  const line = use(stage, plain([0.3, 0.26, 0.2]));
  addTube(mesh, [[-3.1, 2.3, -1.9], [-1, 2.22, -1.9], [1, 2.22, -1.9], [3.1, 2.3, -1.9]], 8, line, () => 6e-3);
  [dyes.orchil, dyes.rust, dyes.indigo, dyes.fern, dyes.cream].forEach((paint, i) => {
    const x0 = -2.3 + i * 1, w = 0.62, d = 0.75 + 0.15 * stage.random();
    addSurface(mesh, 90, 60, use(stage, woven(paint, 0.25, 800)), (u, v) => {
      const fold = 0.045 * Math.sin(u * 19 + 3 * fractal(u * 3, i * 7, v, 2)) * (0.3 + 0.7 * v);
      return [x0 + u * w + 0.02 * Math.sin(v * 5 + i), 2.24 - v * d - 0.02 * Math.sin(u * 3.14), -1.9 + fold];
    });
  });
  const bulbs = [[-1, 1.98, -0.35], [0.95, 2.05, -0.9]];
  const shade = use(stage, plain([0.05, 0.09, 0.08], 0.05, 0.3)), lit = use(stage, glow(260));
  for (const b of bulbs) {
    addEllipsoid(mesh, b, [0.032, 0.042, 0.032], 20, lit);
    addLathe(mesh, [b[0], b[1] + 0.02, b[2]], [[0.2, 0], [0.13, 0.07], [0.045, 0.1], [0.03, 0.16]], 48, shade);
    addTube(mesh, [[b[0], b[1] + 0.17, b[2]], [b[0], 3.2, b[2]]], 6, line, () => 4e-3);
  }
  if (view === 1 || view === 2) {
    addFigure(mesh, stage.random, {
      at: [-0.5, 0.02, -1.5],
      turn: 0.5,
      headTurn: 0.1,
      headTilt: 0.5,
      lean: 0.14,
      wears: "kerchief",
      arms: [
        { elbow: [0.28, 1.12, 0.22], hand: { wrist: [0.13, 1.08, 0.4], forward: [-0.62, -0.1, 0.78], back: [0.646, 0.486, 0.576], thumb: 1, curl: 0.95 } },
        { elbow: [-0.27, 1.14, 0.2], hand: { wrist: [-0.12, 1.24, 0.37], forward: [0.62, 0.25, 0.74], back: [-0.66, -0.3, 0.65], thumb: -1, curl: 0.95 } }
      ]
    }, { skin: use(stage, skin([0.5, 0.29, 0.19])), hair: use(stage, hair([0.06, 0.04, 0.03])), scarf: use(stage, linen([0.4, 0.12, 0.07])), shirt: use(stage, linen([0.36, 0.38, 0.4])), apron: use(stage, linen([0.25, 0.15, 0.09])) });
    addTube(mesh, [[0.093, 0.438, -1.19], [-0.234, 1.077, -1.134], [-0.41, 1.42, -1.1]], 14, use(stage, wood([0.5, 0.36, 0.22], true, 0.5)), () => 0.0155);
  }
  if (view === 3) addChart(stage, [0, 0.868, -0.5], [0.05, 1.3, 2], 1.1);
  const lamps = bulbs.map((centre2) => ({ kind: "ball", centre: centre2, radius: 0.045, power: 260, spectrum: light2 }));
  lamps.push({ kind: "window", corner: [-1.5, 2.9, 2.6], edge1: [3, 0, 0], edge2: [0, 0, 0.9], power: view === 3 ? 1.6 : 0.45, spectrum: light2 });
  return {
    mesh,
    materials: stage.materials,
    sky: null,
    skySpectrum: light2,
    lamps,
    bounces: 3,
    medium: {
      spectrum: light2,
      reach: 6,
      steps: 14,
      at: (x, y, z, dx, dy, dz, out2) => {
        let density = 0.012 * smoothstep(0.2, -1.2, z);
        for (const [at] of vats) {
          const rise2 = y - 0.75, spread = 0.42 + 0.28 * Math.max(0, rise2);
          const q = ((x - at[0]) ** 2 + (z - at[2]) ** 2) / (spread * spread);
          if (rise2 > 0 && q < 4) density += 0.9 * smoothstep(-0.3, -0.9, z) * Math.exp(-q * 1.5) * Math.exp(-rise2 * 0.75) * smoothstep(0, 0.1, rise2) * Math.max(0, fractal(x * 3.2 + y, y * 2.1 - 1.4 * rise2, z * 3.2 + at[0], 5) - 0.36) * 4.5;
        }
        let glowing = 0.035;
        for (const b of bulbs) {
          const lx = b[0] - x, ly = b[1] - y, lz = b[2] - z, d2 = lx * lx + ly * ly + lz * lz + 0.02, cosine = (dx * lx + dy * ly + dz * lz) / Math.sqrt(d2);
          glowing += 0.13 * (0.55 + 0.9 * Math.max(0, cosine) ** 3) / d2 * (ly > -0.02 ? 1 : 0.25);
        }
        out2.extinction = density;
        out2.r = out2.g = out2.b = glowing;
      }
    },
    eye: [[0.3, 1.55, 2.9], [0.62, 1.42, 0.2], [0.95, 1.5, 1.5], [0.2, 1.32, 1.15]][view],
    target: [[0.05, 1.1, -1.2], [-0.2, 1.1, -1.05], [-0.25, 1.12, -1.25], [0, 0.95, -0.7]][view],
    focalMm: [28, 55, 38, 50][view],
    apertureF: [4, 2.2, 2.8, 4][view],
    focusAt: [[0, 0.8, -0.8], [-0.12, 1.1, -1], [0.05, 0.87, -0.6], [0, 0.95, -0.5]][view]
  };
}

// packages/camera/src/scenes/window.ts
function windowScene(stage, view, light2) {
  const { mesh } = stage;
  const wall = use(stage, stone([0.42, 0.405, 0.38], 2.2, 0.5)), plaster = use(stage, stone([0.5, 0.48, 0.44], 1.3, 0.2));
  addSurface(mesh, 160, 90, wall, (u, v) => {
    const x = -2.4 + 5 * u, y = 2.9 * v;
    return [x, y, -1.6 + 0.05 * fractal(x * 3.1, y * 4.3, 1, 4)];
  });
  addQuad(mesh, [2.6, 0, -1.7], [0, 0, 5], [0, 2.9, 0], plaster);
  addQuad(mesh, [-2.4, 0, 3.3], [0, 0, -5], [0, 2.9, 0], plaster);
  addQuad(mesh, [-2.4, 2.9, -1.7], [5, 0, 0], [0, 0, 5], use(stage, plain([0.5, 0.48, 0.43])));
  addQuad(mesh, [-2.4, 0, 3.3], [5, 0, 0], [0, 0, -5], use(stage, wood([0.24, 0.17, 0.11], false, 0.16)));
  addBox(mesh, [-1.15, 0.71, -1.35], [1.75, 0.755, -0.45], use(stage, wood([0.42, 0.27, 0.15], false, 0.18)));
  addBox(mesh, [-1.15, 0, -1.3], [-1.05, 0.71, -0.5], use(stage, wood([0.3, 0.2, 0.12], true, 0.2)));
  const rail = use(stage, wood([0.34, 0.22, 0.13], false, 0.5)), peg = use(stage, wood([0.5, 0.36, 0.22], false, 0.5));
  addBox(mesh, [-1.35, 1.74, -1.58], [1.75, 1.81, -1.53], rail);
  const colours = [dyes.madder, dyes.weld, dyes.woad, dyes.walnut, dyes.orchil, dyes.fern, dyes.indigo, dyes.cream];
  colours.forEach((paint, i) => {
    const x = -1.12 + i * 0.36;
    addTube(mesh, [[x, 1.775, -1.55], [x, 1.785, -1.45], [x, 1.8, -1.38]], 10, peg, () => 0.012);
    addHank(stage, [x, 1.78, -1.45], 0.62 + 0.06 * stage.random(), 0.034, view === 1 ? 190 : 170, use(stage, yarn(paint)), 0.5 * (stage.random() - 0.5));
  });
  addLathe(mesh, [0.55, 0.755, -0.86], [[0.05, 0], [0.09, 0.01], [0.14, 0.06], [0.165, 0.11], [0.16, 0.112], [0.13, 0.06], [0, 0.02]], 64, use(stage, plain([0.42, 0.44, 0.42], 0.05, 0.25)));
  const balls = [dyes.rust, dyes.weld, dyes.orchil].map((paint) => use(stage, yarn(paint)));
  addBallOfYarn(stage, [0.5, 0.85, -0.86], 0.055, 130, balls[0]);
  addBallOfYarn(stage, [0.61, 0.845, -0.85], 0.05, 120, balls[1]);
  addBallOfYarn(stage, [0.86, 0.8, -0.75], 0.047, 120, balls[2]);
  addSurface(mesh, 120, 60, use(stage, woven([0.62, 0.58, 0.5], 0.1, 700)), (u, v) => [-0.95 + 0.75 * u, 0.762 + 0.02 * fractal(u * 6, v * 5, 4, 3) + (v > 0.75 ? -(v - 0.75) * 1.1 : 0), -1.15 + 0.7 * Math.min(v, 0.76) + 0.012 * Math.sin(u * 25) * Math.max(0, v - 0.7)]);
  addTube(mesh, [[0.05, 0.765, -0.8], [0.33, 0.765, -0.72]], 10, use(stage, iron), () => 6e-3);
  if (view === 2) {
    addFigure(mesh, stage.random, {
      at: [-0.5, 0, -0.62],
      turn: -1.95,
      headTurn: 0.15,
      headTilt: 0.3,
      lean: 0.05,
      wears: "knot",
      arms: [
        { elbow: [0.27, 1.13, 0.1], hand: { wrist: [0.15, 1.24, 0.32], forward: [-0.35, 0.35, 0.85], back: [0.55, 0.75, -0.1], thumb: -1, curl: 0.62 } },
        { elbow: [-0.27, 1.12, 0.1], hand: { wrist: [-0.12, 1.2, 0.34], forward: [0.35, 0.25, 0.85], back: [-0.45, 0.85, -0.1], thumb: 1, curl: 0.62 } }
      ]
    }, { skin: use(stage, skin([0.57, 0.35, 0.25])), hair: use(stage, hair([0.09, 0.05, 0.03])), scarf: use(stage, linen(dyes.madder)), shirt: use(stage, linen([0.6, 0.565, 0.49])), apron: use(stage, linen(dyes.indigo)) });
    addHank(stage, [-0.9, 1.27, -0.78], 0.5, 0.05, 120, use(stage, yarn(dyes.weld)), -0.4);
    addHank(stage, [0.24, 1.86, 0.02], 0.75, 0.045, 210, use(stage, yarn(dyes.madder)), 0.3);
    addHank(stage, [0.42, 1.84, -0.08], 0.72, 0.045, 190, use(stage, yarn(dyes.indigo)), -0.3);
  }
  const eye = [[0.35, 1.35, 2.25], [-0.35, 1.42, 0.55], [0.1, 1.42, 1.12], [0.62, 1.1, 0.85]][view];
  const target = [[0.12, 1.22, -1.4], [-0.38, 1.42, -1.45], [-0.22, 1.36, -0.6], [0.3, 1.02, -0.9]][view];
  if (view === 3) addChart(stage, [0.2, 0.757, -0.68], [0.1, 1.1, 0.85]);
  return {
    mesh,
    materials: stage.materials,
    sky: null,
    skySpectrum: light2,
    medium: null,
    bounces: 3,
    lamps: [{ kind: "window", corner: [-2.35, 0.95, -1.1], edge1: [0, 0, 1.7], edge2: [0, 1.45, 0], power: 6, spectrum: light2 }],
    eye,
    target,
    focalMm: [38, 50, 45, 45][view],
    apertureF: [5.6, 2.8, 2.8, 4][view],
    focusAt: [[0, 1.4, -1.4], [-0.42, 1.4, -1.42], [0.33, 1.5, 0.05], [0.2, 0.85, -0.7]][view]
  };
}

// packages/camera/src/scenes/index.ts
var lights = ["window", "vat", "dusk", "moor"];
var kelvinOf = { window: 6800, vat: 2850, dusk: 4400, moor: 4700 };
function buildScene(name, kelvin, seed) {
  const [light2, viewText] = name.split("-");
  const view = Number(viewText ?? 0);
  if (!lights.includes(light2) || !(view >= 0 && view <= 3)) throw new RangeError(`no scene is called ${name}; there are ${lights.map((l) => `${l}-0\u2026${l}-3`).join(", ")}`);
  const k = kelvin ?? kelvinOf[light2];
  const stage = { mesh: emptyMesh(), materials: [], random: seeded(seed + 1e3 * lights.indexOf(light2)), chart: null };
  const main = lightOf(k);
  const scene2 = light2 === "window" ? windowScene(stage, view, main) : light2 === "vat" ? vatScene(stage, view, main) : light2 === "dusk" ? duskScene(stage, view, main, lightOf(Math.min(2e4, k * 1.55))) : moorScene(stage, view, main, lightOf(k * 1.3));
  return { scene: scene2, chart: stage.chart, kelvin: k, light: light2 };
}

// packages/camera/src/bvh.ts
var leafSize = 3;
function buildTree(mesh) {
  const count = mesh.material.length;
  const boxes = new Float32Array(count * 6), centres = new Float32Array(count * 3);
  for (let t = 0; t < count; t++) {
    for (let k = 0; k < 3; k++) {
      const a = mesh.positions[mesh.index[t * 3] * 3 + k], b = mesh.positions[mesh.index[t * 3 + 1] * 3 + k], c = mesh.positions[mesh.index[t * 3 + 2] * 3 + k];
      boxes[t * 6 + k] = Math.min(a, b, c);
      boxes[t * 6 + 3 + k] = Math.max(a, b, c);
      centres[t * 3 + k] = (Math.min(a, b, c) + Math.max(a, b, c)) / 2;
    }
  }
  const order = Int32Array.from({ length: count }, (_, i) => i);
  const bounds = new Float32Array(count * 12 + 12), links = new Int32Array(count * 4 + 4);
  let used = 1;
  const binCount = 12;
  const binBox = new Float32Array(binCount * 6), binN = new Int32Array(binCount), rightCost = new Float32Array(binCount);
  const stack2 = [[0, 0, count]];
  const box = new Float32Array(6);
  const reset = (b, o) => {
    for (let k = 0; k < 3; k++) {
      b[o + k] = Infinity;
      b[o + 3 + k] = -Infinity;
    }
  };
  const grow = (b, o, from, f) => {
    for (let k = 0; k < 3; k++) {
      if (from[f + k] < b[o + k]) b[o + k] = from[f + k];
      if (from[f + 3 + k] > b[o + 3 + k]) b[o + 3 + k] = from[f + 3 + k];
    }
  };
  const area = (b, o) => {
    const x = b[o + 3] - b[o], y = b[o + 4] - b[o + 1], z = b[o + 5] - b[o + 2];
    return x < 0 ? 0 : x * y + y * z + z * x;
  };
  while (stack2.length > 0) {
    const [node, first, last] = stack2.pop();
    reset(bounds, node * 6);
    const spread = new Float32Array(6);
    reset(spread, 0);
    for (let i = first; i < last; i++) {
      const t = order[i];
      grow(bounds, node * 6, boxes, t * 6);
      for (let k = 0; k < 3; k++) {
        spread[k] = Math.min(spread[k], centres[t * 3 + k]);
        spread[k + 3] = Math.max(spread[k + 3], centres[t * 3 + k]);
      }
    }
    const n = last - first;
    let bestCost = n, bestAxis = -1, bestBin = 0;
    if (n > leafSize) {
      for (let axis = 0; axis < 3; axis++) {
        const low = spread[axis], scale2 = binCount / (spread[axis + 3] - low);
        if (!Number.isFinite(scale2)) continue;
        binN.fill(0);
        for (let b = 0; b < binCount; b++) reset(binBox, b * 6);
        for (let i = first; i < last; i++) {
          const t = order[i], b = Math.min(binCount - 1, Math.floor((centres[t * 3 + axis] - low) * scale2));
          binN[b]++;
          grow(binBox, b * 6, boxes, t * 6);
        }
        reset(box, 0);
        for (let b = binCount - 1, total = 0; b > 0; b--) {
          grow(box, 0, binBox, b * 6);
          total += binN[b];
          rightCost[b] = area(box, 0) * total;
        }
        reset(box, 0);
        const whole = area(bounds, node * 6) || 1;
        for (let b = 0, total = 0; b < binCount - 1; b++) {
          grow(box, 0, binBox, b * 6);
          total += binN[b];
          const cost = 0.5 + (area(box, 0) * total + rightCost[b + 1]) / whole;
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
      const low = spread[bestAxis], scale2 = binCount / (spread[bestAxis + 3] - low);
      for (let i = first; i < last; i++) {
        const t = order[i];
        if (Math.min(binCount - 1, Math.floor((centres[t * 3 + bestAxis] - low) * scale2)) <= bestBin) {
          order[i] = order[middle];
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
    stack2.push([used, first, middle], [used + 1, middle, last]);
    used += 2;
  }
  const triangles = new Float32Array(count * 9);
  for (let i = 0; i < count; i++) {
    const t = order[i];
    for (let k = 0; k < 3; k++) {
      const a = mesh.positions[mesh.index[t * 3] * 3 + k];
      triangles[i * 9 + k] = a;
      triangles[i * 9 + 3 + k] = mesh.positions[mesh.index[t * 3 + 1] * 3 + k] - a;
      triangles[i * 9 + 6 + k] = mesh.positions[mesh.index[t * 3 + 2] * 3 + k] - a;
    }
  }
  return { bounds: bounds.slice(0, used * 6), links: links.slice(0, used * 2), triangles, order };
}
var stack = new Int32Array(96);
function meet(tree, ox, oy, oz, dx, dy, dz, limit, any, out2) {
  const { bounds, links, triangles } = tree;
  const ix = 1 / dx, iy = 1 / dy, iz = 1 / dz;
  let top = 0, best = limit, found = -1;
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top];
    const b = node * 6;
    let t0 = (bounds[b] - ox) * ix, t1 = (bounds[b + 3] - ox) * ix;
    let near = t0 < t1 ? t0 : t1, far = t0 < t1 ? t1 : t0;
    t0 = (bounds[b + 1] - oy) * iy;
    t1 = (bounds[b + 4] - oy) * iy;
    if (t0 > t1) {
      const s = t0;
      t0 = t1;
      t1 = s;
    }
    if (t0 > near) near = t0;
    if (t1 < far) far = t1;
    t0 = (bounds[b + 2] - oz) * iz;
    t1 = (bounds[b + 5] - oz) * iz;
    if (t0 > t1) {
      const s = t0;
      t0 = t1;
      t1 = s;
    }
    if (t0 > near) near = t0;
    if (t1 < far) far = t1;
    if (near > far || far < 0 || near > best) continue;
    const link = links[node * 2];
    if (link >= 0) {
      const c = link * 6, d = c + 6;
      const towards = (bounds[c] + bounds[c + 3] - bounds[d] - bounds[d + 3]) * dx + (bounds[c + 1] + bounds[c + 4] - bounds[d + 1] - bounds[d + 4]) * dy + (bounds[c + 2] + bounds[c + 5] - bounds[d + 2] - bounds[d + 5]) * dz;
      stack[top++] = towards > 0 ? link : link + 1;
      stack[top++] = towards > 0 ? link + 1 : link;
      continue;
    }
    const first = ~link, last = first + links[node * 2 + 1];
    for (let i = first; i < last; i++) {
      const q = i * 9;
      const e1x = triangles[q + 3], e1y = triangles[q + 4], e1z = triangles[q + 5], e2x = triangles[q + 6], e2y = triangles[q + 7], e2z = triangles[q + 8];
      const px = dy * e2z - dz * e2y, py = dz * e2x - dx * e2z, pz = dx * e2y - dy * e2x;
      const determinant = e1x * px + e1y * py + e1z * pz;
      if (determinant > -1e-14 && determinant < 1e-14) continue;
      const inverse = 1 / determinant;
      const sx = ox - triangles[q], sy = oy - triangles[q + 1], sz = oz - triangles[q + 2];
      const u = (sx * px + sy * py + sz * pz) * inverse;
      if (u < 0 || u > 1) continue;
      const rx = sy * e1z - sz * e1y, ry = sz * e1x - sx * e1z, rz = sx * e1y - sy * e1x;
      const v = (dx * rx + dy * ry + dz * rz) * inverse;
      if (v < 0 || u + v > 1) continue;
      const t = (e2x * rx + e2y * ry + e2z * rz) * inverse;
      if (t > 1e-5 && t < best) {
        best = t;
        found = i;
        out2.u = u;
        out2.v = v;
        if (any) {
          out2.slot = i;
          out2.distance = t;
          return true;
        }
      }
    }
  }
  out2.slot = found;
  out2.distance = best;
  return found >= 0;
}

// packages/camera/src/trace.ts
var prepare = (scene2) => ({ scene: scene2, tree: buildTree(scene2.mesh) });
function trace(prepared, film, samples, seed, progress = () => {
}) {
  const { width: width2, height: height2 } = film;
  const { scene: scene2, tree } = prepared;
  const { mesh, materials, lamps } = scene2;
  const normals = Float32Array.from(mesh.normals), uvs = Float32Array.from(mesh.uvs), index = Int32Array.from(mesh.index), material = Int16Array.from(mesh.material);
  const forward = unit(subtract(scene2.target, scene2.eye)), right = unit(cross(forward, [0, 1, 0])), up = cross(right, forward);
  const sensorHeight = 0.024, sensorWidth = sensorHeight * width2 / height2, focal = scene2.focalMm / 1e3;
  const lens = focal / scene2.apertureF / 2;
  const offset = subtract(scene2.focusAt, scene2.eye);
  const focus = offset[0] * forward[0] + offset[1] * forward[1] + offset[2] * forward[2];
  const throughput = new Float64Array(bands), sum = new Float64Array(bands), air = new Float64Array(bands), paint = new Float64Array(bands), albedo = new Float64Array(bands);
  const hit = { slot: -1, distance: 0, u: 0, v: 0 }, shadow = { slot: -1, distance: 0, u: 0, v: 0 };
  const spot = { x: 0, y: 0, z: 0, u: 0, v: 0, triangle: 0 };
  const surface = { r: 0, g: 0, b: 0, gloss: 0, roughness: 1, through: 0, metal: 0, wrap: 0, spectrum: null, nx: 0, ny: 0, nz: 0, glow: 0 };
  const tint = { r: 0, g: 0, b: 0 }, haze = { extinction: 0, r: 0, g: 0, b: 0 };
  const [paintR, paintG, paintB] = paints;
  for (let row = 0; row < height2; row++) {
    if (row % 16 === 0) progress(row / height2);
    const random = seeded(seed * 7919 + row * 104729 + 13);
    for (let column = 0; column < width2; column++) {
      sum.fill(0);
      air.fill(0);
      paint.fill(0);
      let gx = 0, gy = 0, gz = 0, away = 0, square = 0, before = 0;
      const turn1 = random(), turn2 = random(), turn3 = random(), turn4 = random();
      for (let s = 0; s < samples; s++) {
        const a1 = (turn1 + s * 0.7548776662) % 1, a2 = (turn2 + s * 0.5698402909) % 1;
        const l1 = (turn3 + s * 0.8191725134) % 1, l2 = (turn4 + s * 0.6710436067) % 1;
        const fx = ((column + 0.5 + (a1 - 0.5) * 1.4) / width2 - 0.5) * sensorWidth, fy = (0.5 - (row + 0.5 + (a2 - 0.5) * 1.4) / height2) * sensorHeight;
        const lr = lens * Math.sqrt(l1), la = 2 * Math.PI * l2;
        const lx = lr * Math.cos(la), ly = lr * Math.sin(la);
        const k = focus / focal;
        let dx = forward[0] * focus + right[0] * (fx * k - lx) + up[0] * (fy * k - ly);
        let dy = forward[1] * focus + right[1] * (fx * k - lx) + up[1] * (fy * k - ly);
        let dz = forward[2] * focus + right[2] * (fx * k - lx) + up[2] * (fy * k - ly);
        let n = 1 / Math.hypot(dx, dy, dz);
        dx *= n;
        dy *= n;
        dz *= n;
        let ox = scene2.eye[0] + right[0] * lx + up[0] * ly, oy = scene2.eye[1] + right[1] * lx + up[1] * ly, oz = scene2.eye[2] + right[2] * lx + up[2] * ly;
        throughput.fill(1);
        let mirror = true;
        for (let depth = 0; ; depth++) {
          const met = meet(tree, ox, oy, oz, dx, dy, dz, 1e6, false, hit);
          if (depth === 0 && scene2.medium) {
            const m = scene2.medium, far = Math.min(met ? hit.distance : m.reach, m.reach), step = far / m.steps;
            let passed = 1;
            for (let i = 0; i < m.steps; i++) {
              const t = (i + random()) * step;
              m.at(ox + dx * t, oy + dy * t, oz + dz * t, dx, dy, dz, haze);
              const lost = 1 - Math.exp(-haze.extinction * step);
              for (let b = 0; b < bands; b++) air[b] += passed * lost * (haze.r * paintR[b] + haze.g * paintG[b] + haze.b * paintB[b]) * m.spectrum[b];
              passed *= 1 - lost;
            }
            for (let b = 0; b < bands; b++) throughput[b] *= passed;
          }
          if (!met && depth === 0) {
            for (let b = 0; b < bands; b++) paint[b]++;
            gx -= dx;
            gy -= dy;
            gz -= dz;
            away += 1e3;
          }
          if (!met) {
            if (scene2.sky) {
              scene2.sky(dx, dy, dz, tint);
              for (let b = 0; b < bands; b++) sum[b] += throughput[b] * (tint.r * paintR[b] + tint.g * paintG[b] + tint.b * paintB[b]) * scene2.skySpectrum[b];
            }
            if (mirror) {
              for (const lamp of lamps) {
                if (lamp.kind !== "far" || !lamp.visible) continue;
                if (dx * lamp.towards[0] + dy * lamp.towards[1] + dz * lamp.towards[2] > Math.cos(lamp.spread)) for (let b = 0; b < bands; b++) air[b] += throughput[b] * lamp.power * lamp.spectrum[b];
              }
            }
            break;
          }
          const triangle = tree.order[hit.slot];
          const i0 = index[triangle * 3], i1 = index[triangle * 3 + 1], i2 = index[triangle * 3 + 2];
          const w = 1 - hit.u - hit.v;
          spot.x = ox + dx * hit.distance;
          spot.y = oy + dy * hit.distance;
          spot.z = oz + dz * hit.distance;
          spot.u = uvs[i0 * 2] * w + uvs[i1 * 2] * hit.u + uvs[i2 * 2] * hit.v;
          spot.v = uvs[i0 * 2 + 1] * w + uvs[i1 * 2 + 1] * hit.u + uvs[i2 * 2 + 1] * hit.v;
          spot.triangle = triangle;
          surface.nx = normals[i0 * 3] * w + normals[i1 * 3] * hit.u + normals[i2 * 3] * hit.v;
          surface.ny = normals[i0 * 3 + 1] * w + normals[i1 * 3 + 1] * hit.u + normals[i2 * 3 + 1] * hit.v;
          surface.nz = normals[i0 * 3 + 2] * w + normals[i1 * 3 + 2] * hit.u + normals[i2 * 3 + 2] * hit.v;
          surface.gloss = 0;
          surface.roughness = 0.6;
          surface.through = 0;
          surface.metal = 0;
          surface.wrap = 0;
          surface.spectrum = null;
          surface.glow = 0;
          materials[material[triangle]](spot, surface);
          if (surface.glow > 0) {
            if (depth === 0) {
              gx -= dx;
              gy -= dy;
              gz -= dz;
              away += hit.distance;
            }
            if (mirror) for (let b = 0; b < bands; b++) air[b] += throughput[b] * surface.glow * lamps[0].spectrum[b];
            break;
          }
          n = 1 / (Math.hypot(surface.nx, surface.ny, surface.nz) || 1);
          let nx = surface.nx * n, ny = surface.ny * n, nz = surface.nz * n;
          if (nx * dx + ny * dy + nz * dz > 0) {
            nx = -nx;
            ny = -ny;
            nz = -nz;
          }
          for (let b = 0; b < bands; b++) albedo[b] = surface.spectrum ? surface.spectrum[b] : surface.r * paintR[b] + surface.g * paintG[b] + surface.b * paintB[b];
          if (depth === 0) {
            for (let b = 0; b < bands; b++) paint[b] += albedo[b];
            gx += nx;
            gy += ny;
            gz += nz;
            away += hit.distance;
          }
          const facing = -(nx * dx + ny * dy + nz * dz);
          const fresnel = surface.gloss + (1 - surface.gloss) * Math.pow(1 - Math.max(0, facing), 5) * (surface.gloss > 0 ? Math.max(0, 1 - surface.roughness) : 0);
          const px = spot.x + nx * 1e-4, py = spot.y + ny * 1e-4, pz = spot.z + nz * 1e-4;
          if (lamps.length > 0) {
            const lamp = lamps[Math.floor(random() * lamps.length)];
            let tx = 0, ty = 0, tz = 0, distance = 1e5, weight = 0;
            if (lamp.kind === "far") {
              const r = lamp.spread * Math.sqrt(random()), angle2 = 2 * Math.PI * random();
              const side = unit(cross(lamp.towards, [0.3, 1, 0.1])), top = cross(side, lamp.towards);
              tx = lamp.towards[0] + r * (side[0] * Math.cos(angle2) + top[0] * Math.sin(angle2));
              ty = lamp.towards[1] + r * (side[1] * Math.cos(angle2) + top[1] * Math.sin(angle2));
              tz = lamp.towards[2] + r * (side[2] * Math.cos(angle2) + top[2] * Math.sin(angle2));
              n = 1 / Math.hypot(tx, ty, tz);
              tx *= n;
              ty *= n;
              tz *= n;
              weight = Math.PI * lamp.spread * lamp.spread;
            } else if (lamp.kind === "window") {
              const u = random(), v = random();
              tx = lamp.corner[0] + lamp.edge1[0] * u + lamp.edge2[0] * v - px;
              ty = lamp.corner[1] + lamp.edge1[1] * u + lamp.edge2[1] * v - py;
              tz = lamp.corner[2] + lamp.edge1[2] * u + lamp.edge2[2] * v - pz;
              distance = Math.hypot(tx, ty, tz);
              tx /= distance;
              ty /= distance;
              tz /= distance;
              const face2 = cross(lamp.edge1, lamp.edge2);
              weight = Math.abs(face2[0] * tx + face2[1] * ty + face2[2] * tz) / (distance * distance);
            } else {
              const z = 2 * random() - 1, angle2 = 2 * Math.PI * random(), r = Math.sqrt(1 - z * z) * lamp.radius;
              tx = lamp.centre[0] + r * Math.cos(angle2) - px;
              ty = lamp.centre[1] + z * lamp.radius - py;
              tz = lamp.centre[2] + r * Math.sin(angle2) - pz;
              distance = Math.hypot(tx, ty, tz);
              tx /= distance;
              ty /= distance;
              tz /= distance;
              weight = Math.PI * lamp.radius * lamp.radius / (distance * distance);
              distance -= lamp.radius * 2.2;
            }
            const cosine = nx * tx + ny * ty + nz * tz;
            const wrap = surface.wrap;
            if (weight > 0 && (cosine > -wrap || surface.through > 0)) {
              const lift = wrap > 0 ? 4e-3 : 0;
              const front = cosine > 0 || wrap > 0, sx = front ? px + nx * lift : spot.x - nx * 1e-4, sy = front ? py + ny * lift : spot.y - ny * 1e-4, sz = front ? pz + nz * lift : spot.z - nz * 1e-4;
              if (!meet(tree, sx, sy, sz, tx, ty, tz, distance - 1e-3, true, shadow)) {
                const full = weight * lamps.length * lamp.power * (wrap > 0 ? 1 : Math.abs(cosine)) / Math.PI, gain = depth > 0 ? Math.min(full, 2) : full;
                const share = (front ? 1 - surface.through : surface.through) * (1 - fresnel) * (1 - surface.metal);
                let sheen = 0;
                if (cosine > 0 && surface.gloss > 0) {
                  let hx = tx - dx, hy = ty - dy, hz = tz - dz;
                  n = 1 / Math.hypot(hx, hy, hz);
                  hx *= n;
                  hy *= n;
                  hz *= n;
                  const power = 2 / surface.roughness ** 4 - 2;
                  sheen = fresnel * (power + 8) * Math.pow(Math.max(0, hx * nx + hy * ny + hz * nz), power) / 8;
                }
                if (wrap > 0) {
                  for (let b = 0; b < bands; b++) {
                    const creep = wrap * (b / (bands - 1)) ** 2;
                    sum[b] += throughput[b] * gain * lamp.spectrum[b] * (albedo[b] * share * Math.max(0, (cosine + creep) / (1 + creep) ** 2) + sheen * Math.max(0, cosine));
                  }
                } else for (let b = 0; b < bands; b++) sum[b] += throughput[b] * gain * lamp.spectrum[b] * (albedo[b] * share + sheen * (surface.metal > 0 ? albedo[b] : 1));
              }
            }
          }
          if (depth >= scene2.bounces) break;
          const z2 = random(), angle = 2 * Math.PI * random();
          const shiny = random() < Math.max(fresnel, surface.metal);
          if (shiny) {
            const along2 = 2 * (nx * dx + ny * dy + nz * dz);
            dx -= along2 * nx;
            dy -= along2 * ny;
            dz -= along2 * nz;
            const blur = surface.roughness * surface.roughness * 1.2, z = Math.sqrt(z2) * blur;
            dx += z * Math.cos(angle);
            dy += z * Math.sin(angle);
            dz += z * Math.cos(angle * 1.7 + 1);
            if (dx * nx + dy * ny + dz * nz <= 0) break;
            if (surface.metal > 0) for (let b = 0; b < bands; b++) throughput[b] *= albedo[b];
            mirror = surface.roughness < 0.15;
          } else {
            const goes = random() < surface.through ? -1 : 1;
            const radius = Math.sqrt(z2), sign = nz >= 0 ? 1 : -1, a = -1 / (sign + nz), bb = nx * ny * a;
            const cx = radius * Math.cos(angle), cy = radius * Math.sin(angle), cz = Math.sqrt(1 - z2) * goes;
            dx = cx * (1 + sign * nx * nx * a) + cy * bb + cz * nx;
            dy = cx * sign * bb + cy * (sign + ny * ny * a) + cz * ny;
            dz = -cx * sign * nx - cy * ny + cz * nz;
            for (let b = 0; b < bands; b++) throughput[b] *= albedo[b];
            mirror = false;
          }
          n = 1 / Math.hypot(dx, dy, dz);
          dx *= n;
          dy *= n;
          dz *= n;
          const out2 = dx * nx + dy * ny + dz * nz > 0 ? 1e-4 : -1e-4;
          ox = spot.x + nx * out2;
          oy = spot.y + ny * out2;
          oz = spot.z + nz * out2;
        }
        let all = 0;
        for (let b = 0; b < bands; b++) all += sum[b];
        square += (all - before) ** 2;
        before = all;
      }
      const at = row * width2 + column, o = at * bands;
      for (let b = 0; b < bands; b++) {
        film.surface[o + b] = sum[b] / samples;
        film.glow[o + b] = air[b] / samples;
        film.albedo[o + b] = paint[b] / samples;
      }
      const norm = 1 / (Math.hypot(gx, gy, gz) || 1);
      film.guide.set([gx * norm, gy * norm, gz * norm, away / samples], at * 4);
      film.moments.set([before / samples, square / samples], at * 2);
    }
  }
}

// packages/camera/src/render-light.ts
function project(scene2, aspect, p) {
  const sub = (a, b) => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  const norm = (a) => {
    const l = Math.hypot(...a);
    return [a[0] / l, a[1] / l, a[2] / l];
  };
  const cr = (a, b) => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
  const d3 = (a, b) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const forward = norm(sub(scene2.target, scene2.eye)), right = norm(cr(forward, [0, 1, 0])), up = cr(right, forward), to = sub(p, scene2.eye);
  const k = scene2.focalMm / 24 / d3(to, forward);
  return [0.5 + d3(to, right) * k / aspect, 0.5 - d3(to, up) * k];
}
function renderLight(name, width2, height2, samples, kelvin, seed, progress) {
  const built = buildScene(name, kelvin, seed);
  const film = emptyFilm(width2, height2);
  trace(prepare(built.scene), film, samples, seed, progress);
  const at = (c2, ...edges) => project(built.scene, width2 / height2, edges.reduce((p, e) => [p[0] + e[0], p[1] + e[1], p[2] + e[2]], c2));
  const c = built.chart;
  return {
    width: width2,
    height: height2,
    bands: develop(film, samples),
    kelvin: built.kelvin,
    chart: c && {
      board: [at(c.corner, c.edge2), at(c.corner, c.edge1, c.edge2), at(c.corner, c.edge1), at(c.corner)],
      card: [at(c.cardCorner, c.cardEdge2), at(c.cardCorner, c.cardEdge1, c.cardEdge2), at(c.cardCorner, c.cardEdge1), at(c.cardCorner)]
    }
  };
}
function keptLight(folder, name, width2, height2, samples, kelvin, seed, progress) {
  const file = `${folder}/${name}-${width2}x${height2}-${samples}-${kelvin ?? "own"}-${seed}.light`;
  if (existsSync(file)) {
    const bytes2 = readFileSync(file), split = bytes2.readUInt32LE(0);
    const head2 = JSON.parse(bytes2.subarray(4, 4 + split).toString());
    return { ...head2, bands: new Float32Array(bytes2.buffer.slice(bytes2.byteOffset + 4 + split, bytes2.byteOffset + bytes2.length)) };
  }
  const light2 = renderLight(name, width2, height2, samples, kelvin, seed, progress);
  const { bands: bands2, ...rest } = light2;
  const head = Buffer.from(JSON.stringify(rest).padEnd(Math.ceil(JSON.stringify(rest).length / 4) * 4));
  const size2 = Buffer.alloc(4);
  size2.writeUInt32LE(head.length);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, Buffer.concat([size2, head, Buffer.from(bands2.buffer)]));
  return light2;
}

// packages/camera/src/sensor.ts
var bell = (nm, peak, width2) => Math.exp(-0.5 * ((nm - peak) / width2) ** 2);
var sensitivity = [
  spectrum((nm) => 0.78 * bell(nm, 602, 33) + 0.05 * bell(nm, 440, 25)),
  spectrum((nm) => 1 * bell(nm, 537, 40) + 0.02 * bell(nm, 620, 40)),
  spectrum((nm) => 0.86 * bell(nm, 459, 29) + 0.03 * bell(nm, 540, 40))
].map((s) => s.map((v) => v / 4.9));
function neutralOf(light2) {
  const [r, g, b] = sensitivity.map((s) => dot(s, light2));
  return [r / g, 1, b / g];
}
function colourMatrix(light2) {
  const samples = [...patchReflectances(), ...paints];
  const weights = samples.map((_, i) => i === 24 ? 60 : 1);
  const out2 = [];
  for (const s of sensitivity) {
    const rows = Array.from({ length: 3 }, () => new Float64Array(4));
    samples.forEach((r, i) => {
      const lit = r.map((v, b) => v * light2[b]), xyz = observer.map((o) => dot(o, lit)), camera = dot(s, lit), w = weights[i] / (xyz[1] + 0.02) ** 1.2;
      for (let a = 0; a < 3; a++) {
        for (let b = 0; b < 3; b++) rows[a][b] += w * xyz[a] * xyz[b];
        rows[a][3] += w * xyz[a] * camera;
      }
    });
    out2.push(...solve(rows));
  }
  const white = observer.map((o) => dot(o, light2));
  const top = Math.max(...[0, 1, 2].map((r) => out2[r * 3] * white[0] + out2[r * 3 + 1] * white[1] + out2[r * 3 + 2] * white[2]));
  return out2.map((v) => v / top);
}
function forwardMatrix(light2) {
  const d50Light = lightOf(5003), neutral = neutralOf(light2), white = observer.map((o) => dot(o, d50Light)), pcs = [0.9642, 1, 0.8249], green = dot(sensitivity[1], light2);
  const samples = patchReflectances().map((r) => ({
    camera: sensitivity.map((s, c) => dot(s, r.map((v, b) => v * light2[b])) / (green * neutral[c])),
    xyz: observer.map((o, k) => dot(o, r.map((v, b) => v * d50Light[b])) / white[k] * pcs[k])
  }));
  return [0, 1, 2].flatMap((k) => {
    const rows = Array.from({ length: 3 }, () => new Float64Array(4));
    for (const { camera, xyz } of [...samples, ...Array.from({ length: 40 }, () => ({ camera: [1, 1, 1], xyz: pcs }))]) {
      const w = 1 / (xyz[1] + 0.03) ** 1.2;
      for (let a = 0; a < 3; a++) {
        for (let b = 0; b < 3; b++) rows[a][b] += w * camera[a] * camera[b];
        rows[a][3] += w * camera[a] * xyz[k];
      }
    }
    const row = [...solve(rows)], sum = row[0] + row[1] + row[2];
    return row.map((v) => v * pcs[k] / sum);
  });
}
function removeSparks(rgb, width2, height2) {
  const before = rgb.slice();
  for (let y = 1; y < height2 - 1; y++) for (let x = 1; x < width2 - 1; x++) for (let c = 0; c < 3; c++) {
    let first = 0, second = 0;
    for (let j = -1; j <= 1; j++) for (let i = -1; i <= 1; i++) {
      if (i === 0 && j === 0) continue;
      const v = before[((y + j) * width2 + x + i) * 3 + c];
      if (v > first) {
        second = first;
        first = v;
      } else if (v > second) second = v;
    }
    const at = (y * width2 + x) * 3 + c;
    rgb[at] = Math.min(before[at], second * 1.5);
  }
}
function cameraLight(light2, width2, height2) {
  const { width: w, height: h, bands: values2 } = light2;
  const small = new Float32Array(w * h * 3);
  let logs = 0;
  for (let i = 0; i < w * h; i++) {
    const one = values2.subarray(i * bands, i * bands + bands);
    for (let c = 0; c < 3; c++) small[i * 3 + c] = dot(sensitivity[c], one);
    logs += Math.log(small[i * 3 + 1] + 1e-4);
  }
  removeSparks(small, w, h);
  const gain = 0.085 / Math.exp(logs / (w * h));
  if (width2 === w && height2 === h) return small.map((v) => v * gain);
  const out2 = new Float32Array(width2 * height2 * 3);
  for (let y = 0; y < height2; y++) {
    const sy = Math.min(h - 1.001, Math.max(0, (y + 0.5) * h / height2 - 0.5)), y0 = Math.floor(sy), ty = sy - y0;
    for (let x = 0; x < width2; x++) {
      const sx = Math.min(w - 1.001, Math.max(0, (x + 0.5) * w / width2 - 0.5)), x0 = Math.floor(sx), tx = sx - x0, o = (y0 * w + x0) * 3;
      const detail = gain * (1 + 0.22 * (noise3(x * 0.31, y * 0.31, 5) - 0.5) + 0.16 * (noise3(x * 0.77, y * 0.77, 9) - 0.5));
      for (let c = 0; c < 3; c++) {
        const a = small[o + c] * (1 - tx) + small[o + 3 + c] * tx, b = small[o + w * 3 + c] * (1 - tx) + small[o + w * 3 + 3 + c] * tx;
        out2[(y * width2 + x) * 3 + c] = (a * (1 - ty) + b * ty) * detail;
      }
    }
  }
  return out2;
}
var cellColours = (pattern2) => [...pattern2].map((c) => "RGB".indexOf(c));
function expose(camera, width2, height2, e) {
  const random = seeded(e.seed * 2654435761), cells = cellColours(e.pattern), white = (1 << e.bits) - 1;
  const well = 6e4 * 100 / e.iso, read = 2.2 + 300 / e.iso, gain = 2 ** e.ev;
  const mosaic = new Uint16Array(width2 * height2);
  for (let y = 0; y < height2; y++) {
    for (let x = 0; x < width2; x++) {
      const i = y * width2 + x, electrons = Math.max(0, camera[i * 3 + cells[(y & 1) * 2 + (x & 1)]] * gain * well);
      const noisy = Math.min(well, electrons + normal(random) * Math.sqrt(electrons + read * read));
      mosaic[i] = Math.min(white, Math.max(0, Math.round(e.black + noisy / well * (white - e.black))));
    }
  }
  return { width: width2, height: height2, mosaic, asShotNeutral: neutralOf(lightOf(e.believedKelvin)), camera };
}

// packages/core/src/formats/tiff.ts
var sizes = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 7: 1, 9: 4, 10: 8, 12: 8 };
var short = (tag, ...values2) => ({ tag, type: 3, values: values2 });
var long = (tag, ...values2) => ({ tag, type: 4, values: values2 });
var bytes = (tag, values2, type = 1) => ({ tag, type, values: values2 });
var text = (tag, value) => ({ tag, type: 2, values: [...new TextEncoder().encode(value), 0] });
var rational = (tag, values2, denominator = 1e4) => ({ tag, type: 5, values: Array.from(values2).flatMap((v) => [Math.round(v * denominator), denominator]) });
var signedRational = (tag, values2, denominator = 1e4) => ({ tag, type: 10, values: Array.from(values2).flatMap((v) => [Math.round(v * denominator), denominator]) });
function writeTiff(main) {
  const parts = [];
  let end = 8;
  const place = (b) => {
    const at = end;
    parts.push({ at, bytes: b });
    end += b.length + (b.length & 1);
    return at;
  };
  const directory = (d) => {
    const tags = [...d.tags];
    if (d.data) tags.push(long(d.data.offsetsTag, ...d.data.parts.map(place)), long(d.data.countsTag, ...d.data.parts.map((p) => p.length)));
    if (d.subdirectories) tags.push(long(330, ...d.subdirectories.map(directory)));
    if (d.exif) tags.push(long(34665, directory(d.exif)));
    tags.sort((a, b) => a.tag - b.tag);
    const out2 = new DataView(new ArrayBuffer(2 + tags.length * 12 + 4));
    out2.setUint16(0, tags.length, true);
    tags.forEach((t, i) => {
      const at = 2 + i * 12, width2 = sizes[t.type], paired = t.type === 5 || t.type === 10, count = t.values.length / (paired ? 2 : 1), value = new DataView(new ArrayBuffer(Math.max(4, count * width2)));
      for (let k = 0; k < t.values.length; k++) {
        const v = t.values[k];
        if (width2 === 1) value.setUint8(k, v);
        else if (t.type === 3) value.setUint16(k * 2, v, true);
        else if (t.type === 12) value.setFloat64(k * 8, v, true);
        else if (t.type === 9 || t.type === 10) value.setInt32(k * 4, v, true);
        else value.setUint32(k * 4, v, true);
      }
      out2.setUint16(at, t.tag, true);
      out2.setUint16(at + 2, t.type, true);
      out2.setUint32(at + 4, count, true);
      out2.setUint32(at + 8, count * width2 <= 4 ? value.getUint32(0, true) : place(new Uint8Array(value.buffer)), true);
    });
    return place(new Uint8Array(out2.buffer));
  };
  const first = directory(main);
  const file = new Uint8Array(end);
  for (const p of parts) file.set(p.bytes, p.at);
  file.set([73, 73, 42, 0]);
  new DataView(file.buffer).setUint32(4, first, true);
  return file;
}

// packages/camera/src/ljpeg.ts
function encodeLosslessJpeg(samples, width2, height2, stride, bits) {
  const differences = new Int32Array(width2 * height2);
  const counts = new Float64Array(17);
  for (let y = 0; y < height2; y++) {
    for (let x = 0; x < width2; x++) {
      const v = samples[y * stride + x];
      const p = x >= 2 ? samples[y * stride + x - 2] : y > 0 ? samples[(y - 1) * stride + x] : 1 << bits - 1;
      const d = (v - p + 32768 & 65535) - 32768;
      differences[y * width2 + x] = d;
      counts[32 - Math.clz32(Math.abs(d))]++;
    }
  }
  const { lengths, order } = codeLengths(counts);
  const codes = new Int32Array(17), sizes2 = new Int32Array(17);
  let code = 0, k = 0;
  for (let length2 = 1; length2 <= 16; length2++) {
    for (let i = 0; i < lengths[length2]; i++, k++) {
      codes[order[k]] = code++;
      sizes2[order[k]] = length2;
    }
    code <<= 1;
  }
  const out2 = new Uint8Array(width2 * height2 * 4 + 256);
  let at = 0;
  const put = (...b) => {
    for (const v of b) out2[at++] = v;
  };
  put(255, 216, 255, 195, 0, 14, bits, height2 >> 8, height2 & 255, width2 / 2 >> 8, width2 / 2 & 255, 2, 0, 17, 0, 1, 17, 0);
  put(255, 196, 0, 19 + order.length, 0, ...Array.from({ length: 16 }, (_, i) => lengths[i + 1]), ...order);
  put(255, 218, 0, 10, 2, 0, 0, 1, 0, 1, 0, 0);
  let hold = 0, held = 0;
  const bit = (value, n) => {
    for (let i = n - 1; i >= 0; i--) {
      hold = hold << 1 | value >> i & 1;
      if (++held === 8) {
        out2[at++] = hold;
        if (hold === 255) out2[at++] = 0;
        hold = 0;
        held = 0;
      }
    }
  };
  for (let i = 0; i < differences.length; i++) {
    const d = differences[i], n = 32 - Math.clz32(Math.abs(d));
    bit(codes[n], sizes2[n]);
    if (n > 0 && n < 16) bit(d < 0 ? d + (1 << n) - 1 : d, n);
  }
  if (held > 0) bit(127, 8 - held);
  put(255, 217);
  return out2.slice(0, at);
}
function codeLengths(counts) {
  const used = [...counts.keys()].filter((i) => counts[i] > 0);
  let nodes = [...used.map((i) => ({ weight: counts[i] + 1, leaves: [i] })), { weight: 0.5, leaves: [17] }];
  const depth = new Int32Array(18);
  while (nodes.length > 1) {
    nodes.sort((a2, b2) => b2.weight - a2.weight);
    const a = nodes.pop(), b = nodes.pop();
    for (const leaf of [...a.leaves, ...b.leaves]) depth[leaf]++;
    nodes = [...nodes, { weight: a.weight + b.weight, leaves: [...a.leaves, ...b.leaves] }];
  }
  const lengths = new Array(18).fill(0);
  const sorted = used.sort((a, b) => depth[a] - depth[b] || a - b);
  for (const i of sorted) lengths[Math.min(16, depth[i])]++;
  return { lengths, order: sorted };
}

// packages/camera/src/dng.ts
var tileSide = (side) => Math.min(256, Math.max(16, side - side % 16));
function writeDng(shot, e, o) {
  const { width: width2, height: height2, mosaic } = shot;
  const parts = [];
  const whole = o.layout === "tiles" && o.compression === "none";
  if (whole && (width2 % 16 !== 0 || height2 % 16 !== 0)) throw new RangeError("uncompressed tiles need a width and height divisible by 16");
  const [pw, ph] = whole ? [width2, height2] : o.layout === "tiles" ? [tileSide(width2), tileSide(height2)] : [width2, Math.min(height2, o.compression === "lossless" ? height2 : 64)];
  for (let y = 0; y < height2; y += ph) {
    for (let x = 0; x < width2; x += pw) {
      const rows = o.layout === "tiles" ? ph : Math.min(ph, height2 - y);
      const part = new Uint16Array(pw * rows);
      for (let j = 0; j < rows; j++) for (let i = 0; i < pw; i++) part[j * pw + i] = mosaic[Math.min(height2 - 2 + (j & 1), y + j) * width2 + Math.min(width2 - 2 + (i & 1), x + i)];
      parts.push(o.compression === "lossless" ? encodeLosslessJpeg(part, pw, rows, pw, e.bits) : new Uint8Array(part.buffer));
    }
  }
  const where = o.layout === "tiles" ? { tags: [long(322, pw), long(323, ph)], offsetsTag: 324, countsTag: 325 } : { tags: [long(278, ph)], offsetsTag: 273, countsTag: 279 };
  return writeTiff({
    tags: [
      long(254, 1),
      long(256, o.preview.width),
      long(257, o.preview.height),
      short(258, 8, 8, 8),
      short(259, 7),
      short(262, 6),
      text(271, "Hollin"),
      text(272, "Field One"),
      short(274, 1),
      short(277, 3),
      long(278, o.preview.height),
      rational(282, [300]),
      rational(283, [300]),
      short(284, 1),
      short(296, 2),
      text(305, "Dyepot simulated camera"),
      text(306, o.exif.time),
      rational(529, [0.299, 0.587, 0.114]),
      short(530, 2, 2),
      short(531, 1),
      rational(532, [0, 255, 128, 255, 128, 255], 1),
      bytes(50706, [1, 4, 0, 0]),
      bytes(50707, [1, 1, 0, 0]),
      text(50708, "Hollin Field One"),
      signedRational(50721, colourMatrix(lightOf(2856))),
      signedRational(50722, colourMatrix(lightOf(6504))),
      rational(50727, [1, 1, 1]),
      rational(50728, shot.asShotNeutral.map((v) => v / Math.max(...shot.asShotNeutral)), 1e6),
      signedRational(50730, [o.baselineExposureEv]),
      rational(50731, [1]),
      rational(50732, [1]),
      rational(50734, [1]),
      short(50778, 17),
      short(50779, 21),
      signedRational(50964, forwardMatrix(lightOf(2856))),
      signedRational(50965, forwardMatrix(lightOf(6504)))
    ],
    data: { offsetsTag: 273, countsTag: 279, parts: [o.preview.jpeg] },
    exif: {
      tags: [
        rational(33434, [o.exif.shutterSeconds], 1e6),
        rational(33437, [o.exif.aperture], 10),
        short(34855, o.exif.iso),
        bytes(36864, [48, 50, 51, 48], 7),
        text(36867, o.exif.time),
        text(36868, o.exif.time),
        short(37384, 0),
        rational(37386, [o.exif.focalMm], 10),
        rational(42034, [24, 70, 2.8, 2.8], 10),
        text(42035, "Hollin"),
        text(42036, "Hollin 24-70 mm f/2.8")
      ]
    },
    subdirectories: [{
      tags: [
        long(254, 0),
        long(256, width2),
        long(257, height2),
        short(258, 16),
        short(259, o.compression === "lossless" ? 7 : 1),
        short(262, 32803),
        short(277, 1),
        short(284, 1),
        ...where.tags,
        short(33421, 2, 2),
        bytes(33422, cellColours(e.pattern)),
        bytes(50710, [0, 1, 2]),
        short(50711, 1),
        short(50713, 2, 2),
        rational(50714, [e.black, e.black, e.black, e.black], 1),
        long(50717, (1 << e.bits) - 1),
        rational(50718, [1, 1], 1),
        rational(50719, [0, 0], 1),
        rational(50720, [width2, height2], 1),
        rational(50780, [1])
      ],
      data: { offsetsTag: where.offsetsTag, countsTag: where.countsTag, parts }
    }]
  });
}

// packages/camera/src/preview.ts
import sharp from "sharp";
async function previewOf(shot, ev, longEdge = 480) {
  const scale2 = Math.max(shot.width, shot.height) / longEdge, width2 = Math.round(shot.width / scale2), height2 = Math.round(shot.height / scale2);
  const pixels = new Uint8Array(width2 * height2 * 3);
  for (let y = 0; y < height2; y++) {
    for (let x = 0; x < width2; x++) {
      for (let c = 0; c < 3; c++) {
        let sum = 0;
        for (let k = 0; k < 4; k++) sum += shot.camera[(Math.floor((y + (k >> 1) * 0.5) * scale2) * shot.width + Math.floor((x + (k & 1) * 0.5) * scale2)) * 3 + c];
        pixels[(y * width2 + x) * 3 + c] = 255 * Math.pow(Math.min(1, sum / 4 * 2 ** (ev + 0.7) / shot.asShotNeutral[c]), 1 / 2.2);
      }
    }
  }
  return { width: width2, height: height2, jpeg: new Uint8Array(await sharp(pixels, { raw: { width: width2, height: height2, channels: 3 } }).jpeg({ quality: 80 }).toBuffer()) };
}

// packages/camera/src/take.ts
async function take(light2, o) {
  const shot = expose(cameraLight(light2, o.width, o.height), o.width, o.height, o);
  const baselineExposureEv = 0.7;
  const file = writeDng(shot, o, {
    compression: o.compression,
    layout: o.layout,
    preview: await previewOf(shot, o.ev),
    baselineExposureEv,
    exif: { iso: o.iso, shutterSeconds: 1 / 125 * 2 ** o.ev, aperture: o.aperture ?? 4, focalMm: o.focalMm ?? 40, time: o.time ?? "2026:10:12 09:30:00" }
  });
  return { file, camera: shot.camera, truth: { ev: o.ev, kelvin: light2.kelvin, believedKelvin: o.believedKelvin, iso: o.iso, chart: light2.chart } };
}

// packages/camera/src/main.ts
var { values } = parseArgs({
  options: {
    scene: { type: "string" },
    size: { type: "string", default: "1632x1088" },
    ev: { type: "string", default: "0" },
    kelvin: { type: "string" },
    believed: { type: "string" },
    iso: { type: "string", default: "200" },
    seed: { type: "string", default: "3" },
    samples: { type: "string", default: "8" },
    out: { type: "string" },
    pattern: { type: "string", default: "RGGB" },
    bits: { type: "string", default: "14" },
    compression: { type: "string", default: "lossless" },
    layout: { type: "string", default: "tiles" },
    time: { type: "string" },
    lights: { type: "string", default: join(tmpdir(), "dyepot-lights") },
    light: { type: "string" }
  }
});
var fail = (message) => {
  process.stderr.write(`camera: ${message}
`);
  process.exit(2);
};
var number = (name) => {
  const v = Number(values[name]);
  return Number.isFinite(v) ? v : fail(`--${name} takes a number, not \u201C${values[name]}\u201D`);
};
var scene = values.scene ?? fail("--scene NAME is needed, such as window-0");
var out = values.out ?? fail("--out FILE.dng is needed");
var size = /^(\d+)x(\d+)$/.exec(values.size) ?? fail("--size takes WIDTHxHEIGHT");
var [width, height] = [Number(size[1]), Number(size[2])];
var lightSize = /^(\d+)x(\d+)$/.exec(values.light ?? "");
var scale = Math.min(1, 1632 / Math.max(width, height));
var lw = lightSize ? Number(lightSize[1]) : Math.round(width * scale);
var lh = lightSize ? Number(lightSize[2]) : Math.round(height * scale);
var pattern = values.pattern;
var compression = values.compression;
var layout = values.layout;
if (pattern !== "RGGB" && pattern !== "BGGR" && pattern !== "GRBG" && pattern !== "GBRG") fail("--pattern takes RGGB, BGGR, GRBG or GBRG");
if (compression !== "none" && compression !== "lossless") fail("--compression takes none or lossless");
if (layout !== "strips" && layout !== "tiles") fail("--layout takes strips or tiles");
if (values.bits !== "12" && values.bits !== "14") fail("--bits takes 12 or 14");
var light = keptLight(values.lights, scene, lw, lh, number("samples"), values.kelvin ? number("kelvin") : null, number("seed"), (share) => process.stderr.write(`\rrendering light ${Math.round(share * 100)} %`));
var picture = await take(light, {
  width,
  height,
  ev: number("ev"),
  iso: number("iso"),
  seed: number("seed"),
  bits: values.bits === "12" ? 12 : 14,
  black: values.bits === "12" ? 128 : 512,
  pattern,
  compression,
  layout,
  believedKelvin: values.believed ? number("believed") : light.kelvin,
  ...values.time ? { time: values.time } : {}
});
mkdirSync2(dirname2(out), { recursive: true });
writeFileSync2(out, picture.file);
writeFileSync2(out.replace(/\.dng$/i, ".truth.json"), `${JSON.stringify(picture.truth, null, 2)}
`);
process.stderr.write(`\r${out}: ${width} \xD7 ${height}
`);
