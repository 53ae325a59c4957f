import type { Kernels } from '../kernels/kernels.ts';
import type { KernelWith } from '../kernels/registry.ts';
import { runCrispness } from './crispness.ts';
import type { AreaPass } from './pass.ts';
import type { Planes } from './render.ts';
import { runScatter } from './scatter.ts';

/** A pass that reads neighbours over planes of `height` rows, whose first pixel lies at (x, y) of the whole picture. */
export interface AreaRun {
  kernels: Kernels;
  pass: AreaPass;
  planes: Planes;
  /** the rows wanted */
  out: Planes;
  width: number;
  height: number;
  /** which they are: from `first` to before `end` */
  first: number;
  end: number;
  /** long edge of the uncropped picture in pixels */
  edge: number;
  x: number;
  y: number;
}
/** How each of them runs: makes the rows wanted; planes put aside go along as they are. */
export const areaRunners: Readonly<Record<KernelWith<'area'>, (run: AreaRun) => void>> = {
  crispness: runCrispness,
  scatter: runScatter,
};
