import { smoothstep } from '../colour/smoothstep.ts';
/**
 * A range of tones a step acts in, in EV from middle grey of the light that comes to it; portable, since it means the same on
 * every frame. Each end fades over a width of its own; the lowest and highest ends there are leave it open.
 */
export interface ToneRange {
  kind: 'tone';
  fromEv: number;
  toEv: number;
  fadeBelowEv: number;
  fadeAboveEv: number;
  /** acts outside of it instead */
  inverted: boolean;
}
export const toneBounds = { ev: [-10, 8], fade: [0.1, 6] } as const;
export const wholeRange: ToneRange = { kind: 'tone', fromEv: -10, toEv: 8, fadeBelowEv: 1, fadeAboveEv: 1, inverted: false };

const open = 40;
/** Foot and reciprocal width of both fades, as the kernel reads them (`toneShare`). */
export function toneNumbers({ fromEv, toEv, fadeBelowEv, fadeAboveEv }: Omit<ToneRange, 'inverted'>): [number, number, number, number] {
  const from = fromEv <= toneBounds.ev[0] ? -open : fromEv - fadeBelowEv,
    to = toEv >= toneBounds.ev[1] ? open : toEv;
  return [from, 1 / fadeBelowEv, to, 1 / fadeAboveEv];
}
/** The share of a tone, 0–1 (Hermite fades). */
export function toneShare(range: ToneRange, ev: number): number {
  const [from, below, to, above] = toneNumbers(range),
    share = smoothstep((ev - from) * below) * (1 - smoothstep((ev - to) * above));
  return range.inverted ? 1 - share : share;
}
