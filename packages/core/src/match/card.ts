import { ciede2000, xyzToLab } from '../colour/difference.ts';
import { luminanceOf } from '../colour/luminance.ts';
import type { CameraProfile } from '../colour/cameraProfile.ts';
import { apply3, invert3, type Matrix3, type Vector3 } from '../colour/matrix.ts';
import { d65, rec2020ToXyz, xyzToXy, xyToXyz } from '../colour/spaces.ts';
import { temperatureOf } from '../colour/temperature.ts';
import { lightOf, neutralOf } from '../groundwork/balance.ts';
import { corrected } from '../groundwork/colours.ts';
import { plainGroundwork, type Groundwork } from '../groundwork/groundwork.ts';
import { sceneParameters } from '../groundwork/light.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Look } from '../look/look.ts';
import { sendThrough, stripColours } from '../plan/dyestrip.ts';
import { lookPasses } from '../plan/plan.ts';
import { withContrast, withEnds, type Tones } from './tones.ts';

/** A frame as it is compared: its camera, and what is done to it. */
export interface Subject {
  profile: CameraProfile;
  groundwork: Groundwork | null;
}
/** What brings a frame's raw light to the anchor's: EV, and log₂ of red and blue over green. */
export interface Shift {
  ev: number;
  ratios: readonly [red: number, blue: number];
}
export const noShift: Shift = { ev: 0, ratios: [0, 0] };

/** How a frame stands off its anchor: EV (over nothing: lighter), mired (over nothing: warmer), Duv (over nothing: greener), CIEDE2000 of greys and skins as they are seen, and a* and b* of the anchor's middle grey as this frame shows it. */
export interface Apart {
  ev: number;
  mired: number;
  duv: number;
  difference: number;
  grey: readonly [a: number, b: number];
}

/** From camera light to the scene's linear Rec.2020 under a frame's groundwork, middle tones. */
export function toScene({ profile, groundwork }: Subject): Matrix3 {
  const ground = groundwork ?? plainGroundwork,
    scene = sceneParameters(profile, ground),
    middle = 2 ** (ground.zones.ev[2]! - ground.zones.ev[0]!);
  return scene.slice(5, 14).map((v, i) => v * scene[2 + (i % 3)]! * middle) as unknown as Matrix3;
}
/** A scene colour as a frame's own colour correction has it. */
export const righted = ({ groundwork }: Subject, colour: Vector3): Vector3 =>
  groundwork?.colours ? corrected(groundwork.colours.rows, colour) : colour;
/** A colour of the anchor's camera as the other frame's recorded it. */
const recorded = ([r, g, b]: Vector3, { ev, ratios }: Shift): Vector3 => [
  r * 2 ** -(ev + ratios[0]),
  g * 2 ** -ev,
  b * 2 ** -(ev + ratios[1]),
];
const grey: Vector3 = [0.18, 0.18, 0.18];
/** Greys and skins of the dye strip, which a set is judged by. */
const judged: readonly Vector3[] = stripColours.slice(1, 8);

/** How a frame stands off its anchor under the groundwork of both; seen through a look where there is one. */
export function apart(kernels: Kernels, frame: Subject, anchor: Subject, shift: Shift, look: Look | null): Apart {
  const there = toScene(anchor),
    back = invert3(there),
    here = toScene(frame),
    asHere = (c: Vector3): Vector3 => apply3(here, recorded(apply3(back, c), shift));
  const card = asHere(grey),
    white = temperatureOf(xyzToXy(apply3(rec2020ToXyz, card))),
    own = temperatureOf(d65);
  const seen = (colours: readonly Vector3[]): Vector3[] =>
    (look ? sendThrough(kernels, lookPasses(look), colours) : colours).map((c) =>
      xyzToLab(apply3(rec2020ToXyz, c.map((v) => Math.max(0, v)) as unknown as Vector3), xyToXyz(d65)),
    );
  const [a, b] = [seen(judged.map((c) => righted(anchor, c))), seen(judged.map((c) => righted(frame, asHere(c))))];
  return {
    ev: Math.log2(luminanceOf(...card) / 0.18),
    mired: 1e6 / white.kelvin - 1e6 / own.kelvin,
    duv: white.tintDuv - own.tintDuv,
    difference: Math.max(...a.map((lab, i) => ciede2000(lab, b[i]!))),
    grey: [b[1]![1], b[1]![2]],
  };
}

/** Which parts of a frame are proposed anew: how bright, which colour of light, black and white, and how far the tones reach. */
export interface Wish {
  exposure: boolean;
  balance: boolean;
  ends: boolean;
  contrast: boolean;
}
export const usualWish: Wish = { exposure: true, balance: true, ends: false, contrast: false };
/** Zones and ends a share of the way from one groundwork to another. */
function partly(from: Groundwork, to: Groundwork, share: number): Groundwork {
  const between = (a: number, b: number): number => (share === 1 ? b : a + share * (b - a));
  return {
    ...to,
    zones: { ev: from.zones.ev.map((v, i) => between(v, to.zones.ev[i]!)), bounds: to.zones.bounds },
    ends: { black: between(from.ends.black, to.ends.black), whiteEv: between(from.ends.whiteEv, to.ends.whiteEv) },
  };
}
/** The groundwork under which a frame comes to its anchor; ends and contrast where both frames' tones are given. `share`: how much of the way (1 all, 0.5 half). */
export function brought(
  frame: Subject,
  anchor: Subject,
  shift: Shift,
  wish: Wish = usualWish,
  share = 1,
  tones: { frame: Tones; anchor: Tones } | null = null,
): Groundwork {
  const plain = frame.groundwork ?? plainGroundwork,
    like = anchor.groundwork ?? plainGroundwork,
    ground = wish.contrast && tones ? partly(plain, withContrast(plain, tones.frame, like, tones.anchor), share) : plain,
    from = lightOf(neutralOf(ground.balance, frame.profile), frame.profile),
    white = recorded(neutralOf((anchor.groundwork ?? plainGroundwork).balance, anchor.profile), shift),
    to = lightOf(white, frame.profile),
    mired = 1e6 / from.kelvin + share * (1e6 / to.kelvin - 1e6 / from.kelvin);
  const balanced: Groundwork = wish.balance
    ? {
        ...ground,
        balance: {
          kind: 'own',
          kelvin: Math.round((share === 1 ? to.kelvin : 1e6 / mired) * 10) / 10,
          tintDuv: Math.round((from.tintDuv + share * (to.tintDuv - from.tintDuv)) * 1e5) / 1e5,
        },
      }
    : ground;
  const ended = (g: Groundwork): Groundwork => (wish.ends && tones ? partly(g, withEnds(g, tones.frame, like, tones.anchor), share) : g);
  if (!wish.exposure) return ended(balanced);
  const card = recorded(apply3(invert3(toScene(anchor)), grey), shift),
    lightness = (g: Groundwork): number => Math.log2(luminanceOf(...apply3(toScene({ ...frame, groundwork: g }), card)) / 0.18),
    now = lightness(plain),
    // what is left of the way, from where the balance has put it
    ev = ground.exposureEv - lightness(balanced) + (1 - share) * now;
  return ended({ ...balanced, exposureEv: Math.round(Math.min(5, Math.max(-5, ev)) * 1000) / 1000 });
}
