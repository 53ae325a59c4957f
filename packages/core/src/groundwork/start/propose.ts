import { autoBalance, temperatureOfBalance } from '../balance.ts';
import { autoExposure, evAtShare, fittedEnds, lightSpread, type LightSpread } from '../automatic.ts';
import type { CameraProfile } from '../../colour/cameraProfile.ts';
import { luminanceShares } from '../../colour/luminance.ts';
import type { Plate } from '../../plate/plate.ts';
import { plateOffset, plateScale } from '../../plate/plate.ts';
import { plainGroundwork, type Groundwork } from '../groundwork.ts';
import { sceneParameters } from '../light.ts';
import { segmentsIn } from './segments.ts';
import type { Start } from './start.ts';
import { setUpright } from './upright.ts';

/** A plate as grey values 0–255 as an eye sees them, for finding lines: bright is what only a hundredth is brighter than. */
function greyOf(plate: Plate): Float32Array {
  const n = plate.width * plate.height,
    out = new Float32Array(n);
  for (let c = 0; c < 3; c++)
    for (let i = 0; i < n; i++) out[i]! += luminanceShares[c]! * Math.max(0, (plate.data[c * n + i]! - plateOffset) / plateScale);
  const some = Float32Array.from({ length: Math.min(n, 20_000) }, (_, i) => out[Math.floor((i * n) / Math.min(n, 20_000))]!).sort(),
    bright = Math.max(1e-6, some[Math.floor(some.length * 0.99)]!);
  for (let i = 0; i < n; i++) out[i] = 255 * Math.min(1, out[i]! / bright) ** (1 / 2.2);
  return out;
}
/** A plate turned by quarters, clockwise, and mirrored, as its groundwork has it: grey values. */
function turned(
  grey: Float32Array,
  width: number,
  height: number,
  { quarterTurns, flipX, flipY }: Groundwork['geometry'],
): { grey: Float32Array; width: number; height: number } {
  let at = { grey, width, height };
  for (let t = 0; t < quarterTurns; t++) {
    const out = new Float32Array(at.grey.length);
    for (let y = 0; y < at.height; y++)
      for (let x = 0; x < at.width; x++) out[x * at.height + (at.height - 1 - y)] = at.grey[y * at.width + x]!;
    at = { grey: out, width: at.height, height: at.width };
  }
  if (!flipX && !flipY) return at;
  const out = new Float32Array(at.grey.length);
  for (let y = 0; y < at.height; y++)
    for (let x = 0; x < at.width; x++)
      out[y * at.width + x] = at.grey[(flipY ? at.height - 1 - y : y) * at.width + (flipX ? at.width - 1 - x : x)]!;
  return { ...at, grey: out };
}

/** How far exposure goes towards middle grey by itself: a night stays a night. Tuned on the demo frames. */
const ofTheWay = 0.8,
  mostEv = 2.5;
/** The exposure a frame begins with: its midtones towards middle grey, but not so far that more than a hundredth of its light passes white by more than half a stop. */
function exposureOf(spread: LightSpread, whiteEv: number): number {
  const wanted = Math.max(-mostEv, Math.min(mostEv, autoExposure(spread) * ofTheWay)),
    room = whiteEv + 0.5 - evAtShare(spread.top, 0.99);
  return Math.round((wanted > 0 ? Math.max(0, Math.min(wanted, room)) : wanted) * 20) / 20;
}
/** Zones that open what lies very deep and hold what is very bright, where a good share of the picture lies there. */
function zonesOf(spread: LightSpread, ev: number): number[] {
  const at = (share: number): number => evAtShare(spread.luminance, share) + ev,
    open = Math.max(0, Math.min(1, (-5 - at(0.1)) / 2)),
    hold = Math.max(0, Math.min(1.2, (at(0.95) - 2.4) / 1.5));
  const tidy = (v: number): number => Math.round(v * 20) / 20 || 0;
  return [tidy(open * 0.6), tidy(open), 0, tidy(-hold * 0.5), tidy(-hold)];
}

/** How far the camera's own balance is off, and what the greys of a picture say, in mired (standard deviations; on the demo frames 14 and 41). */
const cameraOff = 14,
  greysOff = 41;
/** What the camera and the picture's greys say together, each weighed by how far it is usually off; null where they contradict each other. */
function balanceOf(
  greys: { kelvin: number; tintDuv: number },
  camera: { kelvin: number; tintDuv: number },
): { kelvin: number; tintDuv: number } | null {
  const apart = 1e6 / greys.kelvin - 1e6 / camera.kelvin,
    share = cameraOff ** 2 / (cameraOff ** 2 + greysOff ** 2);
  if (Math.abs(apart) > 1.5 * Math.hypot(cameraOff, greysOff)) return null;
  return { kelvin: 1e6 / (1e6 / camera.kelvin + share * apart), tintDuv: camera.tintDuv + share * (greys.tintDuv - camera.tintDuv) };
}

/** What is proposed for a frame, from small plates of it (some 200 pixels long for its light, some 1000 for its lines) and the groundwork it has. */
export function proposeStart(
  { light: plate, lines }: { light: Plate; lines: Plate },
  profile: CameraProfile,
  present: Groundwork | null,
): Start {
  const ground = present ?? plainGroundwork,
    found = autoBalance(plate, profile),
    asShot = temperatureOfBalance({ kind: 'asShot', kelvin: 0, tintDuv: 0 }, profile),
    believed = found && balanceOf(found, asShot),
    balance: Groundwork['balance'] = believed ? { kind: 'own', ...believed } : ground.balance,
    plain = { ...plainGroundwork, balance },
    spread = lightSpread(plate, sceneParameters(profile, plain)),
    exposureEv = exposureOf(spread, plainGroundwork.ends.whiteEv),
    zones = zonesOf(spread, exposureEv),
    exposed = lightSpread(plate, sceneParameters(profile, { ...plain, exposureEv })),
    { black, whiteEv } = fittedEnds(exposed);
  const grey = turned(greyOf(lines), lines.width, lines.height, ground.geometry);
  return {
    balance: believed && { kelvin: Math.round(believed.kelvin), tintDuv: Math.round(believed.tintDuv * 1e4) / 1e4 },
    exposureEv,
    zones,
    ends: { black: Math.round(black * 1e4) / 1e4, whiteEv: Math.round(Math.max(2.2, whiteEv) * 20) / 20 },
    upright: setUpright(segmentsIn(grey.grey, grey.width, grey.height), ground.geometry, grey.width, grey.height),
  };
}
