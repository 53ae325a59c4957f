import { luminanceShares } from '../colour/luminance.ts';
import { balancedCameraToRec2020, type CameraProfile } from '../colour/cameraProfile.ts';
import { plateOffset, plateScale } from '../plate/plate.ts';
import type { Pass } from '../render/pass.ts';
import { neutralOf } from './balance.ts';
import { correctionPasses } from './colours.ts';
import { plainGroundwork, plainWhiteEv, type Groundwork } from './groundwork.ts';

const grey = 0.18;
/** Half the width of the step from one zone to the next, EV. */
const zoneStep = 1.2;

/** Where recovery stands among the scene kernel's numbers. */
export const recoveryAt = 14;
/**
 * Numbers of the scene kernel: plate scale, balance (least channel 1), camera matrix with baseline exposure and the
 * frame's own, recovery. The darkest zone's EV is part of the exposure, so that equal zones are exactly an exposure.
 */
export function sceneParameters(profile: CameraProfile, ground: Groundwork = plainGroundwork): number[] {
  const neutral = neutralOf(ground.balance, profile),
    gain = 2 ** (profile.baselineExposureEv + ground.exposureEv + ground.zones.ev[0]!);
  return [
    plateOffset,
    1 / plateScale,
    ...neutral.map((v) => 1 / v),
    ...balancedCameraToRec2020(profile, neutral).map((v) => v * gain),
    ground.recovery / 100,
  ];
}

/** Black, gain and bend of the ends kernel. */
export function endsNumbers({ black, whiteEv }: Groundwork['ends']): [number, number, number] {
  const wanted = grey * 2 ** whiteEv,
    plain = grey * 2 ** plainWhiteEv;
  return [black, grey / (grey - black), (wanted / plain - 1) / (wanted - grey)];
}

/** The passes of a frame's groundwork on scene light, before any look. None where nothing is asked; the lens' gain is given where there is one. */
export function groundPasses(ground: Groundwork, gain: Pass | null = null): Pass[] {
  const { ev, bounds } = ground.zones,
    change = ev.slice(1).map((v, i) => v - ev[i]!),
    passes: Pass[] = [...correctionPasses(ground.colours), ...(gain ? [gain] : [])];
  if (change.some((v) => v !== 0)) {
    const middle = Math.log2(grey) + ev[0]!,
      half = bounds.map((b, i) => Math.min(zoneStep, i > 0 ? b - bounds[i - 1]! : 9, i < 3 ? bounds[i + 1]! - b : 9));
    passes.push({
      kernel: 'zones',
      parameters: [
        ...luminanceShares,
        ...bounds.map((b, i) => b + middle - half[i]!),
        ...half.map((h) => 1 / Math.max(1e-6, 2 * h)),
        ...change,
      ],
    });
  }
  if (ground.ends.black !== 0 || ground.ends.whiteEv !== plainWhiteEv)
    passes.push({ kernel: 'ends', parameters: endsNumbers(ground.ends) });
  return passes;
}
