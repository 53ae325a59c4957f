/** A flat place of a picture that may be a patch: its middle, half the side of a square of its area. */
export interface Flat {
  x: number;
  y: number;
  half: number;
}
/** How much neighbours may differ and still be one patch (log₂ of any colour), and how large a patch may be, in shares of the picture. */
const [step, least, greatest] = [0.13, 1.2e-4, 0.02];

/** The flat places of a picture that are about as wide as high and nearly fill a box that lies about them. `log`: three planes of log₂ light. */
export function flatPlaces(log: readonly Float32Array[], width: number, height: number): Flat[] {
  const n = width * height,
    parent = Int32Array.from({ length: n }, (_, i) => i),
    root = (i: number): number => {
      while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
      return i;
    },
    // edges are wide: a place whose surroundings change is no part of a patch
    steep = new Uint8Array(n);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      for (let c = 0; c < 3; c++) {
        const plane = log[c]!;
        if (Math.abs(plane[i + 1]! - plane[i - 1]!) > 2 * step || Math.abs(plane[i + width]! - plane[i - width]!) > 2 * step) steep[i] = 1;
      }
    }
  const [red, green, blue] = log as [Float32Array, Float32Array, Float32Array],
    alike = (i: number, j: number): boolean =>
      Math.abs(red[i]! - red[j]!) < step && Math.abs(green[i]! - green[j]!) < step && Math.abs(blue[i]! - blue[j]!) < step;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      if (steep[i]) continue;
      if (!steep[i + 1] && alike(i, i + 1)) parent[root(i + 1)] = root(i);
      if (!steep[i + width] && alike(i, i + width)) parent[root(i + width)] = root(i);
    }
  const boxes = new Map<number, { count: number; x: number; y: number; xx: number; yy: number; xy: number }>();
  for (let i = 0; i < n; i++) {
    if (steep[i]) continue;
    const r = root(i),
      x = i % width,
      y = (i - x) / width,
      known = boxes.get(r),
      b = known ?? { count: 0, x: 0, y: 0, xx: 0, yy: 0, xy: 0 };
    if (!known) boxes.set(r, b);
    b.count++;
    b.x += x;
    b.y += y;
    b.xx += x * x;
    b.yy += y * y;
    b.xy += x * y;
  }
  const out: Flat[] = [];
  for (const b of boxes.values()) {
    if (b.count < Math.max(9, least * n) || b.count > greatest * n) continue;
    const [mx, my] = [b.x / b.count, b.y / b.count],
      [xx, yy, xy] = [b.xx / b.count - mx * mx, b.yy / b.count - my * my, b.xy / b.count - mx * my],
      middle = (xx + yy) / 2,
      off = Math.hypot((xx - yy) / 2, xy),
      [long, short] = [middle + off, Math.max(1e-6, middle - off)];
    // of a filled square both variances are side²/12: a share of 1 is full, and long over short is how oblong it is
    const fill = b.count / (12 * Math.sqrt(long * short));
    if (fill > 0.72 && fill < 1.25 && long / short < 5) out.push({ x: mx, y: my, half: Math.sqrt(b.count) / 2 });
  }
  return out;
}
