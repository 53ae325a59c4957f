import { validateOwnSteps } from '@dyepot/core/src/look/schema.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';

const nothing = { own: null, trouble: null },
  known = new Map<string, { own: OwnSteps | null; trouble: string | null }>(),
  mostKnown = 500;
/** A frame's own steps as they were kept, checked once for each different list; one without any step is none. */
export function checkedOwn(kept: unknown): { own: OwnSteps | null; trouble: string | null } {
  if (kept === null || kept === undefined) return nothing;
  const text = JSON.stringify(kept),
    there = known.get(text);
  if (there) return there;
  const read = validateOwnSteps(kept),
    answer = 'message' in read ? { own: null, trouble: read.message } : { own: read.own, trouble: null };
  if (known.size > mostKnown) known.clear();
  known.set(text, answer);
  return answer;
}
