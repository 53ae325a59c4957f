/** A surface of second order over a picture, fitted to some of its places by least squares, the outliers left out by and by. */
export interface Surface {
  /** its height at a place */
  at(x: number, y: number): number;
  /** the usual distance of the fitted places from it: 1.48 times the median */
  spread: number;
}
const terms = 6;
/** Fits a surface to the places where `counts` is not 0; every other one of them is enough. */
export function fitSurface(values: Float32Array, counts: Uint8Array, width: number, height: number, rounds = 5): Surface {
  const places: number[] = [];
  for (let y = 0; y < height; y += 2) for (let x = (y >> 1) & 1; x < width; x += 2) if (counts[y * width + x]) places.push(y * width + x);
  const away = new Float32Array(places.length),
    // where most places have one value, what else there is must not bend the surface towards itself
    middle = medianOf(Float32Array.from(places, (i) => values[i]!));
  let surface: Surface = surfaceAt(() => middle);
  for (let round = 0; round < rounds; round++) {
    const [c0, c1, c2, c3, c4, c5] = solve(values, places, away, 2.5 * surface.spread, width) as [
        number,
        number,
        number,
        number,
        number,
        number,
      ],
      at = (x: number, y: number): number => {
        const u = x / width,
          v = y / width;
        return c0 + c1 * u + c2 * v + c3 * u * u + c4 * u * v + c5 * v * v;
      };
    surface = surfaceAt(at);
  }
  return surface;

  function surfaceAt(at: Surface['at']): Surface {
    places.forEach((i, k) => (away[k] = Math.abs(values[i]! - at(i % width, Math.floor(i / width)))));
    return { at, spread: Math.max(0.004, 1.48 * medianOf(away)) };
  }
}
const medianOf = (values: Float32Array): number => values.slice().sort()[values.length >> 1] ?? 0;
/** Least squares over the places that are within so far of the surface before. */
function solve(values: Float32Array, places: readonly number[], away: Float32Array, within: number, width: number): number[] {
  const m = Array.from({ length: terms }, () => new Float64Array(terms + 1)),
    row = new Float64Array(terms);
  places.forEach((i, k) => {
    if (away[k]! > within) return;
    const u = (i % width) / width,
      v = Math.floor(i / width) / width;
    row.set([1, u, v, u * u, u * v, v * v]);
    for (let p = 0; p < terms; p++) {
      for (let q = 0; q < terms; q++) m[p]![q]! += row[p]! * row[q]!;
      m[p]![terms]! += row[p]! * values[i]!;
    }
  });
  for (let p = 0; p < terms; p++) m[p]![p]! += 1e-6;
  for (let c = 0; c < terms; c++)
    for (let r = 0; r < terms; r++) {
      if (r === c) continue;
      const f = m[r]![c]! / m[c]![c]!;
      for (let k = c; k <= terms; k++) m[r]![k]! -= f * m[c]![k]!;
    }
  return m.map((line, i) => line[terms]! / line[i]!);
}
