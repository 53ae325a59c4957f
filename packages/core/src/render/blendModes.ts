/** Blend modes of W3C Compositing and Blending Level 1, in the order the kernel counts them. */
export const blendModes = [
  ['normal', 'covering'],
  ['multiply', 'multiply'],
  ['screen', 'screen'],
  ['overlay', 'overlay'],
  ['darken', 'darken'],
  ['lighten', 'lighten'],
  ['colour-dodge', 'colour dodge'],
  ['colour-burn', 'colour burn'],
  ['hard-light', 'hard light'],
  ['soft-light', 'soft light'],
  ['difference', 'difference'],
  ['exclusion', 'exclusion'],
  ['hue', 'hue'],
  ['saturation', 'saturation'],
  ['colour', 'colour'],
  ['luminosity', 'luminosity'],
] as const;
