import type { Repair } from '@dyepot/core/src/repair/repairs.ts';
import { validateRepairs } from '@dyepot/core/src/repair/schema.ts';

const none: { repairs: readonly Repair[]; trouble: string | null } = { repairs: [], trouble: null },
  known = new WeakMap<object, typeof none>();
/** A frame's repairs as they were kept, checked; none where they cannot be read. */
export function checkedRepairs(kept: unknown): typeof none {
  if (kept === null || kept === undefined || typeof kept !== 'object') return none;
  const there = known.get(kept);
  if (there) return there;
  const read = validateRepairs(kept),
    answer = 'message' in read ? { repairs: [], trouble: read.message } : { repairs: read.repairs.repairs, trouble: null };
  known.set(kept, answer);
  return answer;
}
