/** A small, fast, seeded generator (mulberry32): uniform in [0, 1). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A standard normal deviate by Box and Muller. */
export function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

function lattice(x: number, y: number, z: number): number {
  let h = Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(z, 2147483647 - 1274126177);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  h ^= h >>> 16;
  return (h >>> 0) / 4294967296;
}

/** Smooth value noise in [0, 1) over three dimensions, period 1 per unit cell. */
export function noise3(x: number, y: number, z: number): number {
  const xi = Math.floor(x),
    yi = Math.floor(y),
    zi = Math.floor(z);
  let fx = x - xi,
    fy = y - yi,
    fz = z - zi;
  fx = fx * fx * (3 - 2 * fx);
  fy = fy * fy * (3 - 2 * fy);
  fz = fz * fz * (3 - 2 * fz);
  const a = lattice(xi, yi, zi),
    b = lattice(xi + 1, yi, zi),
    c = lattice(xi, yi + 1, zi),
    d = lattice(xi + 1, yi + 1, zi);
  const e = lattice(xi, yi, zi + 1),
    f = lattice(xi + 1, yi, zi + 1),
    g = lattice(xi, yi + 1, zi + 1),
    h = lattice(xi + 1, yi + 1, zi + 1);
  const near = (a + (b - a) * fx) * (1 - fy) + (c + (d - c) * fx) * fy;
  const far = (e + (f - e) * fx) * (1 - fy) + (g + (h - g) * fx) * fy;
  return near + (far - near) * fz;
}

/** Fractal sum of value noise, about [0, 1]. */
export function fractal(x: number, y: number, z: number, octaves: number): number {
  let sum = 0,
    weight = 0.5,
    total = 0;
  [x, y, z] = [x * 0.36 + y * 0.48 - z * 0.8, -x * 0.8 + y * 0.6, x * 0.48 + y * 0.64 + z * 0.6];
  for (let i = 0; i < octaves; i++) {
    sum += weight * noise3(x, y, z);
    total += weight;
    // each octave is turned, so that the lattice does not show
    const a = x * 0.8 - y * 0.6,
      b = x * 0.6 + y * 0.8,
      c = b * 0.6 + z * 0.8;
    x = a * 2.03 + 17.1;
    y = (b * 0.8 - z * 0.6) * 2.03 + 5.7;
    z = c * 2.03 + 9.2;
    weight *= 0.5;
  }
  return sum / total;
}

export function smoothstep(edge0: number, edge1: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - edge0) / (edge1 - edge0)));
  return t * t * (3 - 2 * t);
}
