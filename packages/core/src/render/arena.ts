import type { Kernels } from '../kernels/kernels.ts';

/** Bytes kept free after each region, for the last four places of a kernel that works on four at a time. */
const slack = 64;

/** Lays named regions of so many bytes out in the kernels' memory, each 16-byte aligned; what was laid out before is given up. */
export function layOut<Name extends string>(kernels: Kernels, bytes: Record<Name, number>): Record<Name, number> {
  const names = Object.keys(bytes) as Name[],
    room = (name: Name): number => (bytes[name] + slack + 15) & ~15;
  let at = kernels.reserve(names.reduce((sum, name) => sum + room(name), 0));
  return Object.fromEntries(
    names.map((name) => {
      const from = at;
      at += room(name);
      return [name, from];
    }),
  ) as Record<Name, number>;
}
