/** Linear Rec.2020 as a colour of the page, by the power that BT.2020's curve comes near to. */
export const cssLight = (rgb: readonly number[]): string =>
  `color(rec2020 ${rgb.map((v) => Math.min(1, Math.max(0, v)) ** 0.45).join(' ')})`;
/** A CSS colour in OKLCh, never quite without colour. */
export const oklch = (hue: number, chroma: number, l = 0.72): string => `oklch(${l} ${Math.max(0.02, chroma)} ${hue})`;
