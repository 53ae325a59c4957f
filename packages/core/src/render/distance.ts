/** Thrice the distance of each place from the nearest that is set: 0 there (chamfer 3-4, Borgefors 1986). */
export function distanceFrom(set: Uint8Array, width: number, height: number): Uint16Array {
  const d = new Uint16Array(set.length).fill(65000),
    less = (k: number, from: number, by: number): void => {
      const over = d[from]! + by;
      if (over < d[k]!) d[k] = over;
    };
  for (let k = 0; k < set.length; k++) if (set[k]) d[k] = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      if (x > 0) less(k, k - 1, 3);
      if (y === 0) continue;
      less(k, k - width, 3);
      if (x > 0) less(k, k - width - 1, 4);
      if (x < width - 1) less(k, k - width + 1, 4);
    }
  for (let y = height - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--) {
      const k = y * width + x;
      if (x < width - 1) less(k, k + 1, 3);
      if (y === height - 1) continue;
      less(k, k + width, 3);
      if (x < width - 1) less(k, k + width + 1, 4);
      if (x > 0) less(k, k + width - 1, 4);
    }
  return d;
}
