/** Linear Rec.2020 as a colour of the page, by the power that BT.2020's curve comes near to. */
export const cssLight = (rgb: readonly number[]): string =>
  `color(rec2020 ${rgb.map((v) => Math.min(1, Math.max(0, v)) ** 0.45).join(' ')})`;
