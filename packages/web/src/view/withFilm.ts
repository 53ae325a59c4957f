import type { Look } from '@dyepot/core';

/** Fetches what computes films. */
export const loadFilm = async (): Promise<void> => (await import('./filmEngine.ts')).startFilm();
/** An answer with a look, as soon as what draws it is there: films are computed by code of their own. */
export async function withFilm<T>(answer: T, look: Look | undefined, always = false): Promise<T> {
  if (always || look?.stock.kind === 'film') await loadFilm();
  return answer;
}
