import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';

const checkedGrounds = new Map<string, { groundwork: Groundwork | null; trouble: string | null }>();
/** Groundwork as it was kept, checked once for each different one; parts left out mean their defaults. */
export function checkedGround(kept: unknown): { groundwork: Groundwork | null; trouble: string | null } {
  if (kept === null || kept === undefined) return { groundwork: null, trouble: null };
  const text = JSON.stringify(kept),
    known = checkedGrounds.get(text);
  if (known) return known;
  const read = validateGroundwork(kept),
    answer = 'message' in read ? { groundwork: null, trouble: read.message } : { groundwork: read.groundwork, trouble: null };
  if (checkedGrounds.size > 5000) checkedGrounds.clear();
  checkedGrounds.set(text, answer);
  return answer;
}
