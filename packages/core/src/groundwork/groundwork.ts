import type { ColourCorrection } from './colours.ts';
import { plainDetail, type Detail } from './detail/detail.ts';
import { plainLens, type Lens } from './lens.ts';

/** Five zones around middle grey, darkest first; boundaries in EV from middle grey. */
export const zoneNames = ['Deep', 'Dark', 'Middle', 'Light', 'Bright'] as const;
export const zoneBounds: readonly number[] = [-4, -1.8, 0.8, 2.2];

/** Kinds of light from cool colour temperature's warm end on: low kelvin first. `asShot` is the camera's own, `camera` the light the file's own tag names, `own` a number or a pick. */
export type LightKind = 'asShot' | 'tungsten' | 'fluorescent' | 'daylight' | 'flash' | 'cloudy' | 'shade' | 'camera' | 'own';
export const ratios = ['free', '1:1', '4:5', '2:3', '3:4', '16:9', '65:24'] as const;

/**
 * What makes a frame technically right before any look; it belongs to the frame and is never part of a look.
 * Crop is a rectangle of the picture after turns and straightening, as fractions of its own width and height.
 */
export interface Groundwork {
  format: 'dyepot-groundwork';
  version: 2;
  balance: { kind: LightKind; kelvin: number; tintDuv: number };
  /** what a chart says of the camera's colours */
  colours: ColourCorrection | null;
  exposureEv: number;
  /** 0–100: how far channels clipped alone are rebuilt from those left */
  recovery: number;
  /** scene light taken as black (linear, 0–0.05), and what reaches white, in EV over middle grey */
  ends: { black: number; whiteEv: number };
  /** EV of the five zones, and the boundaries between them in EV from middle grey */
  zones: { ev: readonly number[]; bounds: readonly number[] };
  geometry: Geometry;
  lens: Lens;
  detail: Detail;
}
export interface Geometry {
  quarterTurns: 0 | 1 | 2 | 3;
  flipX: boolean;
  flipY: boolean;
  /** degrees clockwise */
  straighten: number;
  /** keystone: how far verticals and horizontals lean together, −100–100 */
  vertical: number;
  horizontal: number;
  crop: { x: number; y: number; width: number; height: number };
  /** one of `ratios`, or an own one as width:height */
  ratio: string;
}
/** What reaches white when nothing is asked: the neutral response's own white exposure. */
export const plainWhiteEv = 3.4;

/** Groundwork that changes nothing. */
export const plainGroundwork: Groundwork = {
  format: 'dyepot-groundwork',
  version: 2,
  balance: { kind: 'asShot', kelvin: 5500, tintDuv: 0 },
  colours: null,
  exposureEv: 0,
  recovery: 100,
  ends: { black: 0, whiteEv: plainWhiteEv },
  zones: { ev: [0, 0, 0, 0, 0], bounds: zoneBounds },
  geometry: {
    quarterTurns: 0,
    flipX: false,
    flipY: false,
    straighten: 0,
    vertical: 0,
    horizontal: 0,
    crop: { x: 0, y: 0, width: 1, height: 1 },
    ratio: 'free',
  },
  lens: plainLens,
  detail: plainDetail,
};

/** The parts that can be copied, pasted and reset each for itself. */
export const groundworkParts = {
  light: ['balance'],
  colours: ['colours'],
  exposure: ['exposureEv', 'recovery'],
  zones: ['zones'],
  ends: ['ends'],
  geometry: ['geometry'],
  lens: ['lens'],
  detail: ['detail'],
} as const satisfies Record<string, readonly (keyof Groundwork)[]>;
export type GroundworkPart = keyof typeof groundworkParts;

/** `to` with the given parts taken from `from`. */
export function withParts(to: Groundwork, from: Groundwork, parts: readonly GroundworkPart[]): Groundwork {
  const fields = parts.flatMap((p) => [...groundworkParts[p]] as (keyof Groundwork)[]);
  return { ...to, ...Object.fromEntries(fields.map((f) => [f, from[f]])) };
}

/** Whether a part says anything at all. */
export function partIsPlain(g: Groundwork, part: GroundworkPart): boolean {
  return groundworkParts[part].every((f) => JSON.stringify(g[f]) === JSON.stringify(plainGroundwork[f]));
}
