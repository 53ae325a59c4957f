import type { Region } from '../maskPlan.ts';
import type { Planes } from '../render.ts';
import { featuresOf } from './features.ts';
import type { Find, Found } from './provided.ts';
import { foliage } from './foliage.ts';
import { lights } from './lights.ts';
import { skin } from './skin.ts';
import { sky } from './sky.ts';

const finders = { sky, foliage, skin, lights } as const satisfies Record<Region, unknown>;

/** Looks for a region in a small picture's scene light. What was found lately is kept. */
export const findIn: Find = ({ width, height }, scene, what) => {
  const planes = scene(),
    key = `${what} ${width} ${sumOf(planes)}`,
    known = lately.get(key);
  if (known) return known;
  const found = finders[what](featuresOf(planes, width, height));
  lately.set(key, found);
  if (lately.size > mostKept) lately.delete(lately.keys().next().value!);
  return found;
};
const lately = new Map<string, Found>(),
  mostKept = 24;
/** A number that tells pictures apart (FNV-1a over the bits of all values). */
function sumOf(planes: Planes): number {
  const bits = new Uint32Array(planes.buffer, planes.byteOffset, planes.length);
  let sum = 0x811c9dc5;
  for (let i = 0; i < bits.length; i++) sum = Math.imul(sum ^ bits[i]!, 0x01000193);
  return sum >>> 0;
}
