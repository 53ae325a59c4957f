/** Isotemperature lines of Robertson 1968 (as in Wyszecki and Stiles): mired, u, v (CIE 1960), slope. */
const isotherms: readonly (readonly [number, number, number, number])[] = [
  [0, 0.18006, 0.26352, -0.24341],
  [10, 0.18066, 0.26589, -0.25479],
  [20, 0.18133, 0.26846, -0.26876],
  [30, 0.18208, 0.27119, -0.28539],
  [40, 0.18293, 0.27407, -0.3047],
  [50, 0.18388, 0.27709, -0.32675],
  [60, 0.18494, 0.28021, -0.35156],
  [70, 0.18611, 0.28342, -0.37915],
  [80, 0.1874, 0.28668, -0.40955],
  [90, 0.1888, 0.28997, -0.44278],
  [100, 0.19032, 0.29326, -0.47888],
  [125, 0.19462, 0.30141, -0.58204],
  [150, 0.19962, 0.30921, -0.70471],
  [175, 0.20525, 0.31647, -0.84901],
  [200, 0.21142, 0.32312, -1.0182],
  [225, 0.21807, 0.32909, -1.2168],
  [250, 0.22511, 0.33439, -1.4512],
  [275, 0.23247, 0.33904, -1.7298],
  [300, 0.2401, 0.34308, -2.0637],
  [325, 0.24792, 0.34655, -2.4681],
  [350, 0.25591, 0.34951, -2.9641],
  [375, 0.264, 0.352, -3.5814],
  [400, 0.27218, 0.35407, -4.3633],
  [425, 0.28039, 0.35577, -5.3762],
  [450, 0.28863, 0.35714, -6.7262],
  [475, 0.29685, 0.35823, -8.5955],
  [500, 0.30505, 0.35907, -11.324],
  [525, 0.3132, 0.35968, -15.628],
  [550, 0.32129, 0.36011, -23.325],
  [575, 0.32931, 0.36038, -40.77],
  [600, 0.33724, 0.36051, -116.45],
];

export const xyToUv = ([x, y]: readonly [number, number]): [number, number] => [
  (4 * x) / (-2 * x + 12 * y + 3),
  (6 * y) / (-2 * x + 12 * y + 3),
];
export const uvToXy = ([u, v]: readonly [number, number]): [number, number] => [
  (3 * u) / (2 * u - 8 * v + 4),
  (2 * v) / (2 * u - 8 * v + 4),
];

/** Where Planck's locus and its normal stand at a mired value, 0–600 (clamped). Normal points to green (positive Duv). */
export function planckian(mired: number): { u: number; v: number; normal: [number, number] } {
  const m = Math.min(600, Math.max(0, mired));
  let i = 1;
  while (i < isotherms.length - 1 && isotherms[i]![0] < m) i++;
  const a = isotherms[i - 1]!,
    b = isotherms[i]!,
    t = (m - a[0]) / (b[0] - a[0]);
  const direction = (slope: number): [number, number] => {
    const l = Math.hypot(1, slope);
    return [-1 / l, -slope / l];
  };
  const na = direction(a[3]),
    nb = direction(b[3]);
  const x = na[0] + (nb[0] - na[0]) * t,
    y = na[1] + (nb[1] - na[1]) * t,
    l = Math.hypot(x, y);
  return { u: a[1] + (b[1] - a[1]) * t, v: a[2] + (b[2] - a[2]) * t, normal: [x / l, y / l] };
}

/**
 * Correlated colour temperature by Robertson's method and distance from Planck's locus (Duv, CIE 1960, positive to green).
 * @returns kelvin (1667–∞) and tint
 */
export function temperatureOf(xy: readonly [number, number]): { kelvin: number; tintDuv: number } {
  const [u, v] = xyToUv(xy);
  const away = ([, u0, v0, slope]: (typeof isotherms)[number]): number => (v - v0 - slope * (u - u0)) / Math.hypot(1, slope);
  let i = 1;
  let before = away(isotherms[0]!);
  for (; i < isotherms.length - 1; i++) {
    const here = away(isotherms[i]!);
    if (before > 0 !== here > 0) break;
    before = here;
  }
  const here = away(isotherms[i]!);
  const t = Math.min(1, Math.max(0, before / (before - here || 1)));
  const mired = isotherms[i - 1]![0] + t * (isotherms[i]![0] - isotherms[i - 1]![0]);
  const p = planckian(mired);
  return { kelvin: 1e6 / Math.max(mired, 1e-3), tintDuv: (u - p.u) * p.normal[0] + (v - p.v) * p.normal[1] };
}

/** Chromaticity at a temperature and a tint (Duv). Planck's locus by Robertson's table, 1667 K and above. */
export function chromaticityOf(kelvin: number, tintDuv: number): [number, number] {
  const p = planckian(1e6 / kelvin);
  return uvToXy([p.u + p.normal[0] * tintDuv, p.v + p.normal[1] * tintDuv]);
}
