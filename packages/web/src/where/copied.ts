import type { Mask } from '@dyepot/core';

const key = 'dyepot-place';
/** A place copied from a step, to be put on another: in this window, or another of the same visit. */
export function copyPlace(mask: Mask): void {
  try {
    sessionStorage.setItem(key, JSON.stringify(mask));
  } catch {
    held = mask;
  }
}
let held: Mask | null = null;
export function copiedPlace(): Mask | null {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? 'null') as Mask | null;
  } catch {
    return held;
  }
}
