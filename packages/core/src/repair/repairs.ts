/** A round place: middle in shares of width and height, radius in shares of the long edge, feather 0–1 of the radius, inwards. */
export interface Spot {
  kind: 'spot';
  x: number;
  y: number;
  radius: number;
  feather: number;
}
/** What a round brush passes over; `radius` is half its width. */
export interface BrushedLine {
  kind: 'line';
  points: readonly (readonly [number, number])[];
  radius: number;
  feather: number;
}
/** A closed outline; each point with a feather of its own, in shares of the long edge, inwards. */
export interface Outline {
  kind: 'outline';
  points: readonly (readonly [x: number, y: number, feather: number])[];
}
export type Shape = Spot | BrushedLine | Outline;

/** Where what covers a place is taken from: so far off (shares of width and height), turned (degrees clockwise), mirrored, larger or smaller. */
export interface Source {
  dx: number;
  dy: number;
  turn: number;
  mirror: boolean;
  scale: number;
}
/** `heal` takes the source's texture and the place's own light, `clone` the source as it is, `fill` has no one source. */
export type RepairKind = 'heal' | 'clone' | 'fill';
/** One repair of a frame: on its plate as it lies, before anything else is done to it. */
export interface Repair {
  id: string;
  kind: RepairKind;
  on: boolean;
  shape: Shape;
  /** null for a fill */
  source: Source | null;
}
export interface Repairs {
  format: 'dyepot-repairs';
  version: 1;
  repairs: readonly Repair[];
}
export const noRepairs: Repairs = { format: 'dyepot-repairs', version: 1, repairs: [] };
export const straightFrom = (dx: number, dy: number): Source => ({ dx, dy, turn: 0, mirror: false, scale: 1 });

/** Counts changes of how repairs are computed: what was kept of an older way is made anew. */
export const mending = 2;
