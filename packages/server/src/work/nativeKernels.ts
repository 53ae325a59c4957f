import { createRequire } from 'node:module';
import { kernelsOn, type KernelExports, type KernelMemory, type Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { distFile } from '../places.ts';

type Compiled = KernelExports & { bind(memory: ArrayBuffer): void };
const page = 65536;

/** Memory lent to compiled kernels. It grows by at least a quarter, since what is there is copied. */
function lentTo(set: Compiled): KernelMemory {
  let buffer = new ArrayBuffer(page);
  set.bind(buffer);
  return {
    get buffer() {
      return buffer;
    },
    grow(pages) {
      const old = buffer;
      buffer = new ArrayBuffer(page * Math.ceil(Math.max(old.byteLength / page + pages, (1.25 * old.byteLength) / page)));
      new Uint8Array(buffer).set(new Uint8Array(old));
      set.bind(buffer);
    },
  };
}

/**
 * The kernels as `scripts/native` compiles them for this machine, on memory of their own. They give the bytes of kernels.wasm. Null where
 * they are not: no compiler was there, the machine lacks AVX2, or DYEPOT_KERNELS is `wasm`.
 */
export function nativeKernels(): Kernels | null {
  if (process.env['DYEPOT_KERNELS'] === 'wasm') return null;
  try {
    const { create } = createRequire(import.meta.url)(distFile('kernels.node')) as { create?: () => Compiled };
    const set = create?.();
    return set ? kernelsOn(set, lentTo(set)) : null;
  } catch {
    return null;
  }
}
