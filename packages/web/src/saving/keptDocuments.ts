import { isBulky, keptIn, isKept, withDocuments } from '@dyepot/core';

// Pictures and tables that looks use are kept on the server once, by the hash of their content; between it and the pages that
// hash stands for them.

/** The header by which pages say that they understand it. */
export const byHash = 'X-Kept-By-Hash';
const there = new Map<string, Promise<object>>(),
  hashes = new Map<object, string>();

/** One that is gone stays as it is said: it may stand only in what can be undone. */
async function fetched(hash: string): Promise<object> {
  const answer = await fetch(`/api/documents/${hash}`);
  if (answer.status === 404) return { kept: hash };
  if (!answer.ok) throw new Error('a picture or a table that this look uses could not be fetched');
  const document = (await answer.json()) as object;
  hashes.set(document, hash);
  return document;
}
function documentOf(hash: string): Promise<object> {
  const known = there.get(hash) ?? fetched(hash);
  there.set(hash, known);
  // what did not come, or was not there, is asked for again
  known.then(
    (d) => isKept(d) && there.delete(hash),
    () => there.delete(hash),
  );
  return known;
}
/** What the server sent, with the documents whose hashes it says. */
export async function filled(value: unknown): Promise<unknown> {
  const all = await Promise.all([...keptIn(value)].map(async (hash) => [hash, await documentOf(hash)] as const)),
    byTheirs = new Map(all);
  return all.length === 0 ? value : withDocuments(value, (v) => (isKept(v) ? byTheirs.get(v.kept)! : null));
}

/** Whether two documents are of one content, member by member. */
const same = (a: object, b: object): boolean => {
  const of = Object.entries(a),
    other = b as Record<string, unknown>;
  return (
    of.length === Object.keys(b).length &&
    of.every(([key, v]) => v === other[key] || (typeof v === 'object' && JSON.stringify(v) === JSON.stringify(other[key])))
  );
};
/** The hash of a document that the server keeps, also of a copy; undefined where it does not know it. */
function hashOf(document: object): string | undefined {
  const known = hashes.get(document);
  if (known) return known;
  for (const [other, hash] of hashes) if (same(document, other)) return hash;
  return undefined;
}
/** What is sent to the server, with hashes for the documents it keeps. */
export const leanly = (value: unknown): unknown =>
  withDocuments(value, (v) => {
    const kept = isBulky(v) ? hashOf(v) : undefined;
    return kept === undefined ? null : { kept };
  });
/** The same as the text of a request. */
export const leanText = (value: unknown): string => JSON.stringify(leanly(value));
