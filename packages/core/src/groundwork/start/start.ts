import type { CameraProfile } from '../../colour/cameraProfile.ts';
import { temperatureOfBalance } from '../balance.ts';
import { plainGroundwork, type Groundwork } from '../groundwork.ts';
import type { Upright } from './upright.ts';

/** What a start is made of; each is taken or left. */
export const startParts = ['balance', 'exposure', 'zones', 'ends', 'upright'] as const;
export type StartPart = (typeof startParts)[number];
/** What is proposed for a frame, in full; a part about which nothing can be said is null. */
export interface Start {
  balance: { kelvin: number; tintDuv: number } | null;
  exposureEv: number;
  zones: readonly number[];
  ends: { black: number; whiteEv: number };
  upright: Upright | null;
}

const between = (from: number, to: number, share: number): number => from + (to - from) * share;
/**
 * Groundwork with a start taken: the parts that are wanted, as far as said (0–1.5 of the way from what is there now). Warmth goes in
 * mired, in which it adds; all else in its own unit.
 */
export function withStart(
  present: Groundwork | null,
  start: Start,
  parts: readonly StartPart[],
  share: number,
  profile: CameraProfile,
): Groundwork {
  const g = present ?? plainGroundwork,
    out = structuredClone(g);
  if (parts.includes('balance') && start.balance) {
    const from = temperatureOfBalance(g.balance, profile),
      mired = between(1e6 / from.kelvin, 1e6 / start.balance.kelvin, share);
    out.balance = {
      kind: 'own',
      kelvin: Math.round(Math.min(25000, Math.max(2000, 1e6 / Math.max(40, mired)))),
      tintDuv: Math.min(0.05, Math.max(-0.05, Math.round(between(from.tintDuv, start.balance.tintDuv, share) * 1e5) / 1e5)),
    };
  }
  if (parts.includes('exposure'))
    out.exposureEv = Math.min(5, Math.max(-5, Math.round(between(g.exposureEv, start.exposureEv, share) * 100) / 100));
  if (parts.includes('zones'))
    out.zones = {
      ...g.zones,
      ev: g.zones.ev.map((v, i) => Math.min(4, Math.max(-4, Math.round(between(v, start.zones[i]!, share) * 100) / 100))),
    };
  if (parts.includes('ends'))
    out.ends = {
      black: Math.min(0.05, Math.max(0, Math.round(between(g.ends.black, start.ends.black, share) * 1e4) / 1e4)),
      whiteEv: Math.min(7, Math.max(1, Math.round(between(g.ends.whiteEv, start.ends.whiteEv, share) * 100) / 100)),
    };
  if (parts.includes('upright') && start.upright) {
    // half upright is half as much turned; more than upright would lean the other way
    const far = Math.min(1, share),
      { straighten, vertical, horizontal } = start.upright.righting;
    out.geometry = {
      ...out.geometry,
      straighten: Math.round(between(g.geometry.straighten, straighten, far) * 100) / 100,
      vertical: Math.round(between(g.geometry.vertical, vertical, far) * 10) / 10,
      horizontal: Math.round(between(g.geometry.horizontal, horizontal, far) * 10) / 10,
    };
  }
  return out;
}
