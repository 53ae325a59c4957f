import type { Vector3 } from './matrix.ts';

/** XYZ to CIE L*a*b* for a white (CIE 015). */
export function xyzToLab(xyz: Vector3, white: Vector3): Vector3 {
  const f = (t: number): number => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116);
  const [x, y, z] = [f(xyz[0] / white[0]), f(xyz[1] / white[1]), f(xyz[2] / white[2])];
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

/** CIEDE2000 colour difference with unit weights (Sharma, Wu, Dalal 2005). */
export function ciede2000(p: Vector3, q: Vector3): number {
  const rad = Math.PI / 180;
  const c1 = Math.hypot(p[1], p[2]),
    c2 = Math.hypot(q[1], q[2]);
  const mean7 = ((c1 + c2) / 2) ** 7,
    g = 0.5 * (1 - Math.sqrt(mean7 / (mean7 + 25 ** 7)));
  const a1 = p[1] * (1 + g),
    a2 = q[1] * (1 + g),
    k1 = Math.hypot(a1, p[2]),
    k2 = Math.hypot(a2, q[2]);
  const hue = (a: number, b: number): number => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / rad + 360) % 360);
  const h1 = hue(a1, p[2]),
    h2 = hue(a2, q[2]);
  const dL = q[0] - p[0],
    dC = k2 - k1;
  let dh = k1 * k2 === 0 ? 0 : h2 - h1;
  if (dh > 180) dh -= 360;
  else if (dh < -180) dh += 360;
  const dH = 2 * Math.sqrt(k1 * k2) * Math.sin((dh / 2) * rad);
  const L = (p[0] + q[0]) / 2,
    C = (k1 + k2) / 2;
  let H = h1 + h2;
  if (k1 * k2 !== 0) H = Math.abs(h1 - h2) <= 180 ? H / 2 : H < 360 ? (H + 360) / 2 : (H - 360) / 2;
  const T =
    1 -
    0.17 * Math.cos((H - 30) * rad) +
    0.24 * Math.cos(2 * H * rad) +
    0.32 * Math.cos((3 * H + 6) * rad) -
    0.2 * Math.cos((4 * H - 63) * rad);
  const turn = 30 * Math.exp(-(((H - 275) / 25) ** 2)),
    rc = 2 * Math.sqrt(C ** 7 / (C ** 7 + 25 ** 7));
  const sl = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2),
    sc = 1 + 0.045 * C,
    sh = 1 + 0.015 * C * T;
  const rt = -Math.sin(2 * turn * rad) * rc;
  return Math.sqrt((dL / sl) ** 2 + (dC / sc) ** 2 + (dH / sh) ** 2 + rt * (dC / sc) * (dH / sh));
}
