import type { Repair } from '@dyepot/core/src/repair/repairs.ts';
import { validateRepairs } from '@dyepot/core/src/repair/schema.ts';

interface Checked {
  repairs: readonly Repair[];
  trouble: string | null;
}
const none: Checked = { repairs: [], trouble: null },
  known = new Map<string, Checked>(),
  mostKnown = 200;
/** A frame's repairs as they were kept, checked once for each different list, which is the same object then; none where they cannot be read. */
export function checkedRepairs(kept: unknown): Checked {
  if (kept === null || kept === undefined) return none;
  const text = JSON.stringify(kept),
    there = known.get(text);
  if (there) return there;
  const read = validateRepairs(kept),
    answer = 'message' in read ? { repairs: [], trouble: read.message } : { repairs: read.repairs.repairs, trouble: null };
  if (known.size > mostKnown) known.clear();
  known.set(text, answer);
  return answer;
}
