import { createHash, randomUUID } from 'node:crypto';
import { readdirSync, readFileSync, renameSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { isBulky, isKept, withDocuments } from '@dyepot/core/src/look/kept.ts';
import { dataPath } from '../places.ts';
import { writingError } from '../work/files.ts';

// Pictures and tables that looks use lie in the data folder once, by the hash of what they are; rows say that hash alone.

const fileOf = (hash: string): string => join(dataPath('documents'), `${hash}.json`);
/** Those used lately, and the hash of each that has been read or written. */
const lately = new Map<string, object>(),
  mostKept = 12,
  hashes = new WeakMap<object, string>();
function remember(hash: string, document: object): void {
  hashes.set(document, hash);
  lately.delete(hash);
  lately.set(hash, document);
  if (lately.size > mostKept) lately.delete(lately.keys().next().value!);
}

/** Keeps a document, and returns the hash it is kept by. What is used again counts as new for what sweeps. */
export function keepDocument(document: object): string {
  const known = hashes.get(document),
    text = known === undefined ? JSON.stringify(document) : null,
    hash = known ?? createHash('sha256').update(text!).digest('hex'),
    file = fileOf(hash),
    there = statSync(file, { throwIfNoEntry: false });
  // one that broke off is written anew
  if (!there || (text !== null && there.size !== Buffer.byteLength(text))) {
    const waiting = join(dataPath('documents'), `.writing-${randomUUID()}`);
    try {
      writeFileSync(waiting, text ?? JSON.stringify(document), { flush: true });
      renameSync(waiting, file);
    } catch (error) {
      rmSync(waiting, { force: true });
      throw writingError(error, file);
    }
  } else if (Date.now() - there.mtimeMs > 3_600_000) utimesSync(file, new Date(), new Date());
  remember(hash, document);
  return hash;
}

/** The document of a hash; null where it is not there, or is not what it was. */
export function keptDocument(hash: string): object | null {
  const known = lately.get(hash);
  if (known) {
    remember(hash, known);
    return known;
  }
  try {
    const text = readFileSync(fileOf(hash));
    if (createHash('sha256').update(text).digest('hex') !== hash) return null;
    const document = JSON.parse(text.toString()) as object;
    remember(hash, document);
    return document;
  } catch {
    return null;
  }
}

/** A value with its pictures and tables kept, and said by their hashes. */
export const leanly = (value: unknown): unknown => withDocuments(value, (v) => (isBulky(v) ? { kept: keepDocument(v) } : null));
/** The same of those that are kept already. */
export const leanlyKnown = (value: unknown): unknown =>
  withDocuments(value, (v) => (isBulky(v) && hashes.has(v) ? { kept: hashes.get(v)! } : null));
/** A value with the documents whose hashes it says; one that is not there is left as it is said. */
export const filled = (value: unknown): unknown => withDocuments(value, (v) => (isKept(v) ? keptDocument(v.kept) : null));

/** Hashes of all that are kept and were not used since a time. */
export const keptBefore = (time: number): string[] =>
  readdirSync(dataPath('documents'))
    .filter((f) => /^[0-9a-f]{64}\.json$/.test(f) && statSync(fileOf(f.slice(0, 64))).mtimeMs < time)
    .map((f) => f.slice(0, 64));
export const dropDocument = (hash: string): void => {
  lately.delete(hash);
  rmSync(fileOf(hash), { force: true });
};
