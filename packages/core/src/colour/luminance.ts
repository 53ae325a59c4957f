/** Shares of red, green and blue in the luminance of linear Rec.2020 light (ITU-R BT.2020, table 4). */
export const luminanceShares = [0.2627, 0.678, 0.0593] as const;
const [red, green, blue] = luminanceShares;
/** Luminance Y of linear Rec.2020 light; white is 1. */
export const luminanceOf = (r: number, g: number, b: number): number => red * r + green * g + blue * b;
