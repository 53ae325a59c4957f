import { common, emptyLook, laneOf, maskOf, stepsOf, type Look, type Mask, type NamedMask, type OwnSteps, type Worn } from '@dyepot/core';

/** A frame's own steps as a look that has nothing else, so that the chain works on either alike; and how strongly the frame wears its look. */
export type Carrier = Look & { worn?: Worn };
export function carrierOf(steps: OwnSteps | null): Carrier {
  return { ...emptyLook('own'), ...steps };
}
const known = new WeakMap<Look, OwnSteps>();
/** The steps that stand in such a look; the same object for the same look. */
export function stepsIn(look: Look): OwnSteps {
  const there = known.get(look);
  if (there) return there;
  const { scene, print, skeins, masks, worn } = look as Carrier,
    steps: OwnSteps = { scene, print, skeins, masks, ...(worn && { worn }) };
  known.set(look, steps);
  return steps;
}
/** Whether a chain has a step or a skein of this id. */
export const stands = (look: Look, id: string): boolean => laneOf(look, id) !== null || look.skeins.some((k) => k.id === id);
/** The step that is shown first of a chain. */
export const firstOf = (look: Look): string => look.scene[0]?.id ?? look.print[0]?.id ?? look.stock.id;
/** Skeins that hold no step any more are none; those parted by something between keep their first stretch. */
export function dropEmptySkeins(look: Look): void {
  for (const lane of [look.scene, look.print]) {
    const over = new Set<string>();
    lane.forEach((step, i) => {
      const before = lane[i - 1]?.skein ?? '';
      if (before !== '' && before !== step.skein) over.add(before);
      if (step.skein !== '' && over.has(step.skein)) step.skein = '';
    });
  }
  look.skeins = look.skeins.filter((k) => [...look.scene, ...look.print].some((s) => s.skein === k.id));
}
/** Steps into one skein: the one that one of them is in already, else a new one. */
export function holdTogether(look: Look, ids: readonly string[], skein: string, name: string): void {
  const steps = [...look.scene, ...look.print].filter((s) => ids.includes(s.id)),
    there = steps.find((s) => s.skein !== '')?.skein;
  for (const step of steps) step.skein = there ?? skein;
  if (!there) look.skeins.push({ id: skein, name, on: true, strength: 1, mask: null });
  dropEmptySkeins(look);
}
/** The step or skein of an id. */
const holderOf = (look: Look, id: string): { mask: Mask | null } | undefined =>
  stepsOf(look).find((s) => s.id === id) ?? look.skeins.find((k) => k.id === id);
/** Puts a place on a step or skein, with the named ones it uses. */
export function putPlace(look: Look, id: string, mask: Mask, named: readonly NamedMask[]): void {
  const holder = holderOf(look, id);
  if (!holder) return;
  look.masks.push(...named.filter((m) => !look.masks.some((n) => n.id === m.id)));
  holder.mask = mask;
}
/** Gives the place of a step or skein a name, under which others can use it. */
export function namePlace(look: Look, id: string, place: string, name: string): void {
  const holder = holderOf(look, id);
  if (!holder?.mask || holder.mask.parts.some((p) => p.kind === 'named')) return;
  look.masks.push({ id: place, name, mask: holder.mask });
  holder.mask = maskOf({ ...common, kind: 'named', mask: place });
}
