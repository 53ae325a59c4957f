import type { StepKind } from '@dyepot/core';

/** Kinds that answer to some words: those so named first, then those that serve such a need, then those so described. */
export function matching(kinds: readonly StepKind[], words: string): readonly StepKind[] {
  const asked = words.trim().toLowerCase(),
    holds = (text: string): boolean => text.toLowerCase().includes(asked),
    rank = (k: StepKind): number => (holds(k.name) ? 0 : k.needs.some(holds) ? 1 : holds(k.purpose) ? 2 : 3);
  return asked === '' ? kinds : kinds.filter((k) => rank(k) < 3).sort((a, b) => rank(a) - rank(b));
}
