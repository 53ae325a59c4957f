import { boxes } from './boxes.ts';
import { tableOver, type PlacePass } from './pass.ts';

/** Light laid over a picture from a place of the frame. */
export interface Veil {
  /** in shares of the frame's width and height */
  x: number;
  y: number;
  /** which way it goes in, degrees from left to right, turning down */
  degrees: number;
  /** how far it reaches that way and across, in shares of the long edge */
  along: number;
  across: number;
  /** round about its place, or inwards from it */
  round: boolean;
  /** per channel: light is multiplied by 1 + w·m and a·w added to it */
  times: readonly [number, number, number];
  plus: readonly [number, number, number];
  /** w over the share of the reach */
  fall: (t: number) => number;
}
export const veilPass = (v: Veil): PlacePass => ({
  kernel: 'veil',
  parameters: [
    ...boxes,
    v.x,
    v.y,
    Math.cos((v.degrees * Math.PI) / 180),
    Math.sin((v.degrees * Math.PI) / 180),
    1 / v.along,
    1 / v.across,
    v.round ? 1 : 0,
    ...v.times,
    ...v.plus,
    ...tableOver(256, v.fall),
    ...tableOver(256, v.fall).slice(1),
  ],
});
