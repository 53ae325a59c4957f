import { readFileSync } from 'node:fs';
import { loadKernels, type Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { kernelsFile } from '../places.ts';
import { nativeKernels } from './nativeKernels.ts';

/** Kernels with memory of their own: those compiled for the machine, else the WebAssembly ones. */
export const newKernels = async (): Promise<Kernels> => nativeKernels() ?? (await loadKernels(readFileSync(kernelsFile)));

let loaded: Promise<Kernels> | null = null;
/** This thread's kernels, loaded once. */
export const kernels = (): Promise<Kernels> => (loaded ??= newKernels());
