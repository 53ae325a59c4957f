import {
  commonPasses,
  draftPlaces,
  developPlanes,
  draftable,
  draftTable,
  lightPlace,
  mostLight,
  renderDraft,
  standsFor,
  type DraftPlaces,
  type DraftTable,
  type Kernels,
  type Origin,
  type Plan,
  type Planes,
  type Plate,
} from '@dyepot/core';

/** What a slot keeps between its pictures: the plan it drew last, and planes after the first passes of one. */
export interface Kept {
  last: Plan | null;
  planes: { count: number; plan: Plan; planes: Planes; draft: { places: DraftPlaces; most: number } | null } | null;
}
export const nothingKept = (): Kept => ({ last: null, planes: null });

/** Planes from before what changed since the last picture, to go on from; null when all has to be done anew. Kept until the hand moves on to another step. */
export function goOn(kernels: Kernels, kept: Kept, plan: Plan, plate: Plate, origin: Origin): Kept['planes'] {
  const { last, planes: known } = kept;
  kept.last = plan;
  if (!last) return null;
  const common = commonPasses(last, plan),
    holds = known !== null && commonPasses(known.plan, plan) >= known.count;
  // drawn once more as it was: what is kept is kept on
  if (common === last.passes.length && common === plan.passes.length) return holds ? known : null;
  const count = common < 1 ? 0 : lightPlace(plan.passes, common);
  if (count < 1) return null;
  // a step moved again begins where it did before, even where it now begins alike for longer
  if (holds && known.count <= count && count - known.count <= 1) return known;
  const planes = developPlanes(kernels, plan, plate, count, origin);
  return (kept.planes = { count, plan, planes, draft: null });
}

/** The tables made last, by how far they reach: the pictures of one move share them. */
const tables = new Map<number, DraftTable>();
/** A picture for the moment from kept planes, by a table of all that comes after; null where that is not the same everywhere. */
export function draftFrom(kernels: Kernels, plan: Plan, from: NonNullable<Kept['planes']>): Uint8Array<ArrayBuffer> | null {
  const { count, planes } = from;
  if (!draftable(plan, count)) return null;
  if (!from.draft) {
    const most = mostLight(planes);
    from.draft = { most, places: draftPlaces(kernels, planes, planes.length / 3, most) };
  }
  const { most, places } = from.draft;
  let table = tables.get(most);
  if (!table || !standsFor(table, plan, count)) tables.set(most, (table = draftTable(plan, count, most)));
  return renderDraft(kernels, table, places);
}
