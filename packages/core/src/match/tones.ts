import type { CameraProfile } from '../colour/cameraProfile.ts';
import { autoExposure, evAtShare, lightSpread } from '../groundwork/automatic.ts';
import { zoneBounds, type Groundwork } from '../groundwork/groundwork.ts';
import { sceneParameters } from '../groundwork/light.ts';
import type { Plate } from '../plate/plate.ts';

/** How the tones of a raw lie, in EV about middle grey under its as-shot balance and nothing else: the mean of the middle half, the darkest thousandth, the brightest (of any channel), and how far the tenth and the nine tenths are apart. */
export interface Tones {
  middle: number;
  darkest: number;
  brightest: number;
  reach: number;
}
export function tonesOf(plate: Plate, profile: CameraProfile): Tones {
  const spread = lightSpread(plate, sceneParameters(profile));
  return {
    middle: -autoExposure(spread),
    darkest: evAtShare(spread.luminance, 0.001),
    brightest: evAtShare(spread.top, 0.999),
    reach: evAtShare(spread.luminance, 0.9) - evAtShare(spread.luminance, 0.1),
  };
}

/** The middle of each zone, EV from middle grey: the outer ones as wide as their neighbours; the middle one is where exposure has put it. */
const [b0, b1, b2, b3] = zoneBounds as readonly [number, number, number, number],
  middles = [b0 - (b1 - b0) / 2, (b0 + b1) / 2, 0, (b2 + b3) / 2, b3 + (b3 - b2) / 2] as const;
/** How far contrast is moved at most, as a share, and a zone by it, in EV. */
const [mostContrast, mostZone] = [0.35, 1.2];

/**
 * A frame's groundwork with the zones of its anchor, steeper or flatter so that its tones reach as far apart as the anchor's: the ratio of
 * the spreads (Reinhard and others 2001, in log light), the spread as what lies between a tenth and nine tenths.
 */
export function withContrast(ground: Groundwork, frame: Tones, like: Groundwork, anchor: Tones): Groundwork {
  const ratio = anchor.reach / Math.max(0.1, frame.reach) - 1,
    steeper = Math.min(mostContrast, Math.max(-mostContrast, ratio)),
    ev = like.zones.ev.map((v, i) => {
      const moved = Math.min(mostZone, Math.max(-mostZone, steeper * middles[i]!));
      return Math.round(Math.min(4, Math.max(-4, v + moved)) * 100) / 100;
    });
  return { ...ground, zones: { ev, bounds: like.zones.bounds } };
}
/** White is moved by at most this, EV; black by at most this much scene light. */
const [mostWhite, mostBlack] = [1, 0.02];
/** A frame's groundwork with the ends of its anchor, moved by as much as the frame's own darkest and brightest lie elsewhere under the exposure of both. */
export function withEnds(ground: Groundwork, frame: Tones, like: Groundwork, anchor: Tones): Groundwork {
  const light = (t: Tones, g: Groundwork): number => 0.18 * 2 ** (t.darkest + g.exposureEv),
    blackBy = Math.min(mostBlack, Math.max(-mostBlack, 0.9 * (light(frame, ground) - light(anchor, like)))),
    whiteBy = Math.min(mostWhite, Math.max(-mostWhite, frame.brightest + ground.exposureEv - anchor.brightest - like.exposureEv));
  return {
    ...ground,
    ends: {
      black: Math.round(Math.min(0.05, Math.max(0, like.ends.black + blackBy)) * 1e5) / 1e5,
      whiteEv: Math.round(Math.min(7, Math.max(1, like.ends.whiteEv + whiteBy)) * 100) / 100,
    },
  };
}
