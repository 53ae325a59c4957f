/** Size of a step's small drawing, in its own units. */
export const W = 76;
export const H = 38;
/** A curve over 0–1, up from the foot. */
export const path = (f: (t: number) => number): string =>
  Array.from(
    { length: 33 },
    (_, i) => `${i === 0 ? 'M' : 'L'}${(i / 32) * W},${H - 2 - Math.min(1, Math.max(0, f(i / 32))) * (H - 4)}`,
  ).join('');
export const oklch = (hue: number, chroma: number, l = 0.72): string => `oklch(${l} ${Math.max(0.02, chroma)} ${hue})`;
