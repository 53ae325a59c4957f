import { encodeSrgb, plainResponse, responseOf, type Response } from '@dyepot/core';

/** Display light of scene light so many EV from middle grey, under a neutral response (the plain one when none is said). */
export const shownLight = (ev: number, response: Response = plainResponse): number => Math.min(1, responseOf(response)(0.18 * 2 ** ev));
/** A grey of the page for a display light. */
export const greyOf = (light: number): string => {
  const v = Math.round(encodeSrgb(Math.min(1, Math.max(0, light))) * 255);
  return `rgb(${v} ${v} ${v})`;
};
/** The grey that scene light so many EV from middle grey is shown as. */
export const plainGrey = (ev: number): string => greyOf(shownLight(ev));
