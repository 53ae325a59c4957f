/** Hermite's step: 0 up to 0, 1 from 1 on, without a corner at either end. */
export function smoothstep(t: number): number {
  const x = Math.min(1, Math.max(0, t));
  return x * x * (3 - 2 * x);
}
