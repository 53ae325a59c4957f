import type { Vector3 } from '../../colour/matrix.ts';
import type { Kernels } from '../../kernels/kernels.ts';
import { stepName } from '../../look/differences.ts';
import { emptyLook, stepsOf, type Look } from '../../look/look.ts';
import { unbakeable } from '../bake.ts';
import { sendThrough, toHex } from '../dyestrip.ts';
import { lookPasses } from '../plan.ts';
import { clipsOf, gamutOf, lightsOf, skinsOf } from './colours.ts';
import { checkBounds, checkKinds, finding, type CheckBounds, type Finding } from './finding.ts';
import { stepsCheck } from './steps.ts';
import { foldsIn, greysOf, jumpsIn, ramp } from './tones.ts';

/** Tells what is weak in a look, of greys, tones, skins, colours and its own steps. Frames are not asked: it means the same on each. */
export function checkLook(kernels: Kernels, look: Look, bounds: CheckBounds = checkBounds): Finding[] {
  const plain = emptyLook('plain'),
    send = (l: Look, colours: readonly Vector3[]): Vector3[] => sendThrough(kernels, lookPasses(l), colours);
  const tones = send(look, ramp),
    hexes = (before: readonly Vector3[], after: readonly Vector3[]): [string, string][] => {
      const [p, q] = [toHex(kernels, before), toHex(kernels, after)];
      return p.map((v, i) => [v, q[i]!]);
    };
  return [
    ...foldsIn(tones),
    ...jumpsIn(tones, send(plain, ramp)),
    ...greysOf(tones, bounds.grey),
    ...skinsOf(send, look, plain, bounds.skin, hexes),
    ...clipsOf(send, look, hexes),
    ...gamutOf(send, look, hexes),
    ...lightsOf(send, look, plain),
    ...stepsCheck(kernels, look),
    ...unbakeable(look).map(({ name, reason }) =>
      finding('table', 'said', 1, 'step', `${name} cannot travel in a lookup table: ${reason}`, {
        steps: stepsOf(look).flatMap((s) => (stepName(s) === name ? [s.id] : [])),
      }),
    ),
  ].sort((p, q) => Number(p.weight === 'said') - Number(q.weight === 'said') || checkKinds.indexOf(p.kind) - checkKinds.indexOf(q.kind));
}
