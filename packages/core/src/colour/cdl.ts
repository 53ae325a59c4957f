/** The numbers of an ASC CDL. */
export interface Cdl {
  slope: readonly [number, number, number];
  offset: readonly [number, number, number];
  power: readonly [number, number, number];
  saturation: number;
}

/** ASC CDL v1.2: clamp(v·slope + offset)^power, then saturation about the BT.709 luma, clamped. */
export function applyCdl({ slope, offset, power, saturation }: Cdl, rgb: readonly [number, number, number]): [number, number, number] {
  const clamp = (v: number): number => Math.min(1, Math.max(0, v)),
    v = rgb.map((x, c) => clamp(x * slope[c]! + offset[c]!) ** power[c]!),
    luma = 0.2126 * v[0]! + 0.7152 * v[1]! + 0.0722 * v[2]!;
  return v.map((x) => clamp(luma + saturation * (x - luma))) as [number, number, number];
}
