import { readFileSync } from 'node:fs';
import { loadKernels, type Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { kernelsFile } from '../places.ts';

let loaded: Promise<Kernels> | null = null;
/** This thread's kernels, loaded once. */
export const kernels = (): Promise<Kernels> => (loaded ??= loadKernels(readFileSync(kernelsFile)));
