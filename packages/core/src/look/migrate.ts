import { defaults1 } from './defaults1.ts';

/** The version of the look document that is written. */
export const lookVersion = 3;
type Document = Readonly<Record<string, unknown>>;

const isRecord = (value: unknown): value is Document => typeof value === 'object' && value !== null && !Array.isArray(value);
/** A step of version 1: what it leaves out means what it meant then, and it acts everywhere, as it comes. */
const step1 = (step: unknown): unknown =>
  isRecord(step) && isRecord(step['params'])
    ? { ...step, params: { ...defaults1[String(step['kind'])], ...step['params'] }, mask: step['mask'] ?? null, blend: 'normal' }
    : step;
/** Of version 2, a range of tones is what a mask was. */
const step2 = (step: unknown): unknown => {
  if (!isRecord(step)) return step;
  const mask = isRecord(step['mask'])
    ? { parts: [{ mode: 'add', opacity: 1, inverted: false, ...step['mask'] }], inverted: false, feather: 0, grow: 0, snap: 0 }
    : (step['mask'] ?? null);
  return { ...step, mask, skein: '' };
};
/** All steps of a document, changed alike. */
function each(look: Document, change: (step: unknown) => unknown): Document {
  const lane = (steps: unknown): unknown => (Array.isArray(steps) ? steps.map(change) : steps);
  return { scene: lane(look['scene']), stock: change(look['stock']), print: lane(look['print']) };
}
/** What makes a document of a version one of the next. What is not as it should be is left for the check to find. */
const toNext: Readonly<Record<number, (look: Document) => Document>> = {
  1: (look) => {
    return { ...look, version: 2, ...each(look, step1) };
  },
  2: (look) => ({ ...look, version: 3, ...each(look, step2), skeins: [], masks: [] }),
};

/** A look document of any version up to this one as one of this version. */
export function migrateLook(look: Document): Document {
  let now = look;
  for (let next = toNext[Number(now['version'])]; next; next = toNext[Number(now['version'])]) now = next(now);
  return now;
}
