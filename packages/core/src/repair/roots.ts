/** The three planes of a plate’s numbers in the square root of light, where noise is alike in darks and lights. `n` numbers each. */
export function rootsOf(data: Uint16Array, n: number): Float32Array[] {
  return [0, 1, 2].map((c) => {
    const out = new Float32Array(n);
    for (let i = 0; i < n; i++) out[i] = Math.sqrt(data[c * n + i]!);
    return out;
  });
}
