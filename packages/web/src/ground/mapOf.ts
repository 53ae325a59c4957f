import { lensMapOf, type Groundwork } from '@dyepot/core';
import type { Frame } from '../types.ts';

/** The lens map a frame's geometry is drawn with. */
export const mapOf = (frame: Frame, ground: Groundwork): ReturnType<typeof lensMapOf> =>
  lensMapOf(ground.lens, frame.fileLens, { width: frame.width, height: frame.height });
