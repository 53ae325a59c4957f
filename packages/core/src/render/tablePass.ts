import { countOf, type Table } from '../colour/table.ts';
import type { PointwisePass } from './pass.ts';

/** A table as a pass. */
export function tablePass({ kind, size, domainMin, domainMax, data }: Table): PointwisePass {
  const head = [size, ...domainMin, ...domainMin.map((v, c) => (size - 1) / (domainMax[c]! - v))],
    // four numbers are read at a time: one more than there are
    parameters = new Float32Array(head.length + countOf(kind, size) + 1);
  parameters.set(head);
  parameters.set(data, head.length);
  return { kernel: kind === '3d' ? 'lut3d' : 'lut1d', parameters };
}
