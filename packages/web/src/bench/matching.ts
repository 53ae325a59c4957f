/** What is found by its name, by needs it serves, and by what it says of itself. */
interface Findable {
  name: string;
  needs: readonly string[];
  purpose: string;
}

/** Those that answer to some words: those so named first, then those that serve such a need, then those so described. */
export function matching<T extends Findable>(kinds: readonly T[], words: string): readonly T[] {
  const asked = words.trim().toLowerCase(),
    holds = (text: string): boolean => text.toLowerCase().includes(asked),
    rank = (k: T): number => (holds(k.name) ? 0 : k.needs.some(holds) ? 1 : holds(k.purpose) ? 2 : 3);
  return asked === '' ? kinds : kinds.filter((k) => rank(k) < 3).sort((a, b) => rank(a) - rank(b));
}
