import type { StoredTable } from '../colour/table.ts';
import type { StoredPicture } from '../formats/storedPicture.ts';

/** A picture or a table that a look uses, said by the SHA-256 of its content alone. */
export interface KeptDocument {
  kept: string;
}
const hash = /^[0-9a-f]{64}$/;
export const isKept = (v: object): v is KeptDocument => hash.test(String((v as Partial<KeptDocument>).kept)) && Object.keys(v).length === 1;

/** Characters of its pixels or numbers from which a document is kept by itself. */
const least = 4096;
/** Whether an object is a document that is kept by itself: a picture or a table that is more than a few numbers. */
export function isBulky(v: object): boolean {
  const { format, data, base64 } = v as Partial<StoredPicture & StoredTable>,
    text = format === 'dyepot-picture' ? data : base64;
  return typeof text === 'string' && text.length >= least;
}

/** A value with some of the objects in it replaced; `change` gives another for one, or null to look inside it. What holds none of them stays the same object. */
export function withDocuments(value: unknown, change: (v: object) => object | null): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) {
    const items = value.map((v) => withDocuments(v, change));
    return items.some((v, i) => v !== value[i]) ? items : (value as unknown);
  }
  const other = change(value);
  if (other) return other;
  const entries = Object.entries(value).map(([key, v]) => [key, withDocuments(v, change), v] as const);
  return entries.some(([, now, before]) => now !== before) ? Object.fromEntries(entries) : value;
}

/** Hashes of the documents that a value says by them. */
export function keptIn(value: unknown): Set<string> {
  const found = new Set<string>();
  withDocuments(value, (v) => {
    if (isKept(v)) found.add(v.kept);
    return null;
  });
  return found;
}
