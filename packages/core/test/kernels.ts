import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { loadKernels } from '../src/kernels/kernels.ts';

/** The built kernels, for tests. */
export const kernels = await loadKernels(readFileSync(fileURLToPath(new URL('../src/render/kernels.wasm', import.meta.url))));
