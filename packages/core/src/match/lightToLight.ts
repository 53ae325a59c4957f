import { lightOf, neutralOf } from '../groundwork/balance.ts';
import { plainGroundwork, type Groundwork } from '../groundwork/groundwork.ts';
import { brought, usualWish, type Shift, type Subject } from './card.ts';

/** By how much all frames of a light are moved so that its anchor comes to that of another light: EV, mired (over nothing: warmer pictures), Duv. */
export interface LightMove {
  ev: number;
  mired: number;
  duv: number;
}
/** What brings the anchor of one light to that of another, in the chosen parts. */
export function lightMove(from: Subject, to: Subject, shift: Shift, wish: { exposure: boolean; balance: boolean }): LightMove {
  const ground = from.groundwork ?? plainGroundwork,
    there = brought(from, to, shift, { ...usualWish, ...wish }),
    light = (g: Groundwork): { kelvin: number; tintDuv: number } => lightOf(neutralOf(g.balance, from.profile), from.profile),
    [a, b] = [light(ground), light(there)];
  return {
    ev: there.exposureEv - ground.exposureEv,
    mired: wish.balance ? 1e6 / a.kelvin - 1e6 / b.kelvin : 0,
    duv: wish.balance ? b.tintDuv - a.tintDuv : 0,
  };
}
/** A frame's groundwork moved with its light: what makes frames of it even stays as it is. */
export function movedWith({ profile, groundwork }: Subject, { ev, mired, duv }: LightMove): Groundwork {
  const ground = groundwork ?? plainGroundwork,
    exposureEv = Math.round(Math.min(5, Math.max(-5, ground.exposureEv + ev)) * 1000) / 1000;
  if (mired === 0 && duv === 0) return { ...ground, exposureEv };
  const { kelvin, tintDuv } = lightOf(neutralOf(ground.balance, profile), profile);
  return {
    ...ground,
    exposureEv,
    balance: {
      kind: 'own',
      kelvin: Math.round(Math.min(25000, Math.max(2000, 1e6 / Math.max(1, 1e6 / kelvin - mired))) * 10) / 10,
      tintDuv: Math.round(Math.min(0.05, Math.max(-0.05, tintDuv + duv)) * 1e5) / 1e5,
    },
  };
}
