import type { Chain } from './look.ts';

/** How strongly a frame wears its look: all of it, and single steps of it by their ids; 0–2, 1 is as the look says. */
export interface Worn {
  strength: number;
  steps: Record<string, number>;
}
/** Steps of a frame's own, on top of the look it wears, and how strongly it wears that; they are never part of the look. */
export interface OwnSteps extends Chain {
  worn?: Worn;
}
export const asWorn: Worn = { strength: 1, steps: {} };

/** Whether nothing of a frame's own is left, so that it need not be kept. */
export const isNothing = (own: OwnSteps): boolean =>
  own.scene.length + own.print.length === 0 &&
  (own.worn === undefined || (own.worn.strength === 1 && Object.keys(own.worn.steps).length === 0));
