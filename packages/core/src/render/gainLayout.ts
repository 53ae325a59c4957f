/** A radial function's table: values over the squared radius, so many for each unit, up to a reach. */
export const perUnit = 512,
  reach = 4;
/** Where the parts of the numbers of a lens' gain begin. */
export const gainLayout = {
  source: 0,
  straight: 20,
  homography: 40,
  size: 49,
  radialAxis: 51,
  fileAxis: 54,
  flags: 57,
  tables: 61,
  tableLength: perUnit * reach + 4,
} as const;
