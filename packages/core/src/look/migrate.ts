import { defaults1 } from './defaults1.ts';

/** The version of the look document that is written. */
export const lookVersion = 2;
type Document = Readonly<Record<string, unknown>>;

const isRecord = (value: unknown): value is Document => typeof value === 'object' && value !== null && !Array.isArray(value);
/** A step of version 1: what it leaves out means what it meant then, and it acts everywhere, as it comes. */
const step1 = (step: unknown): unknown =>
  isRecord(step) && isRecord(step['params'])
    ? { ...step, params: { ...defaults1[String(step['kind'])], ...step['params'] }, mask: step['mask'] ?? null, blend: 'normal' }
    : step;
/** What makes a document of a version one of the next. What is not as it should be is left for the check to find. */
const toNext: Readonly<Record<number, (look: Document) => Document>> = {
  1: (look) => {
    const lane = (steps: unknown): unknown => (Array.isArray(steps) ? steps.map(step1) : steps);
    return { ...look, version: 2, scene: lane(look['scene']), stock: step1(look['stock']), print: lane(look['print']) };
  },
};

/** A look document of any version up to this one as one of this version. */
export function migrateLook(look: Document): Document {
  let now = look;
  for (let next = toNext[Number(now['version'])]; next; next = toNext[Number(now['version'])]) now = next(now);
  return now;
}
