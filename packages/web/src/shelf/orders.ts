import type { LookCard } from '../types.ts';

/** Orders of the shelf. */
export const orders = {
  name: { words: 'by name', compare: (a: LookCard, b: LookCard) => a.name.localeCompare(b.name) },
  saved: { words: 'last saved first', compare: (a: LookCard, b: LookCard) => (b.savedAt ?? '').localeCompare(a.savedAt ?? '') },
  favourites: {
    words: 'favourites first',
    compare: (a: LookCard, b: LookCard) => Number(b.favourite) - Number(a.favourite) || a.name.localeCompare(b.name),
  },
} as const;
export type Order = keyof typeof orders;

/** Looks of a family in an order; those found by words in the order they were found. */
export function shownOf(looks: readonly LookCard[], family: string | null, found: readonly number[] | null, order: Order): LookCard[] {
  const own = looks.filter((l) => family === null || l.family === family);
  if (found === null) return own.sort(orders[order].compare);
  const at = new Map(found.map((id, i) => [id, i]));
  return own.filter((l) => at.has(l.id)).sort((a, b) => at.get(a.id)! - at.get(b.id)!);
}

/** Looks whose card says all the words: where the server, which knows more of them, does not answer. */
export function foundOnCards(looks: readonly LookCard[], words: string): number[] {
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean);
  return looks.flatMap((l) => {
    const said = [l.name, l.family, l.notes, ...l.tags].join('\n').toLowerCase();
    return asked.every((w) => said.includes(w)) ? [l.id] : [];
  });
}
