import type { Mask, NamedMask } from '@dyepot/core';

/** A place with what it names. */
export interface CopiedPlace {
  mask: Mask;
  masks: readonly NamedMask[];
}
const key = 'dyepot-place';
let held: CopiedPlace | null = null;
/** Copies a place from a step, with the named ones it uses, to be put on another: in this window, for this visit. */
export function copyPlace(mask: Mask, named: readonly NamedMask[]): void {
  held = { mask, masks: named.filter((m) => mask.parts.some((p) => p.kind === 'named' && p.mask === m.id)) };
  try {
    sessionStorage.setItem(key, JSON.stringify(held));
  } catch {
    /* storage may be refused, or full; the place is held until the page is left */
  }
}
export function copiedPlace(): CopiedPlace | null {
  if (held) return held;
  try {
    held = JSON.parse(sessionStorage.getItem(key) ?? 'null') as CopiedPlace | null;
  } catch {
    held = null;
  }
  return held;
}
