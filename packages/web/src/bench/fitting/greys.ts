import { encodeSrgb, neutralCoefficients, renditions } from '@dyepot/core';

const { contrast, whiteEv, toe } = renditions.plain.params,
  plain = neutralCoefficients(contrast, whiteEv);

/** Display light 0–1 of scene light so many EV from middle grey, under a neutral response (the plain rendition when none is said). */
export function shownLight(ev: number, response = plain, ownToe: number = toe): number {
  const p = (0.18 * 2 ** ev) ** response.n,
    y = Math.min(1, (response.gain * p) / (1 + response.kappa * p));
  return y * (1 - ownToe * Math.exp(-y / 0.02));
}
/** A grey of the page for a display light. */
export const greyOf = (light: number): string => {
  const v = Math.round(encodeSrgb(Math.min(1, Math.max(0, light))) * 255);
  return `rgb(${v} ${v} ${v})`;
};
/** The grey that scene light so many EV from middle grey is shown as. */
export const plainGrey = (ev: number): string => greyOf(shownLight(ev));
