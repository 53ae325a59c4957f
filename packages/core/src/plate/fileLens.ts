/** What a raw file says of its lens by DNG opcodes, already turned upright. Centres are fractions of the picture. */
export interface FileLens {
  /** one plane for all colours or one for each: kr0–kr3, then the tangential vector */
  warp: { planes: readonly (readonly number[])[]; centre: readonly [number, number] } | null;
  vignetting: { terms: readonly number[]; centre: readonly [number, number]; /** its place in the list */ beforeWarp: boolean } | null;
  /** names of opcodes that are there and not applied */
  others: readonly string[];
}
