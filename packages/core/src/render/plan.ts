import { balancedCameraToRec2020, type CameraProfile } from '../colour/cameraProfile.ts';
import { multiply3, type Matrix3, type Vector3 } from '../colour/matrix.ts';
import type { Look, LookStep } from '../look/look.ts';
import { emptyLook } from '../look/look.ts';
import { plateOffset, plateScale } from '../plate/plate.ts';
import { defaultsOf } from '../steps/step.ts';
import { stepKind } from '../steps/registry.ts';
import { encodeParameters, type OutputSpace } from './output.ts';
import type { Pass } from './pass.ts';

/** Bumped whenever the same plate and look would give other bytes. */
export const engineVersion = 2;

/** Everything that will be computed, as plain data: what each kernel is called with, in order. */
export interface Plan {
  scene: readonly number[];
  passes: readonly Pass[];
  encode: Float32Array;
  seed: number;
}

/** What a plan needs to know of a frame. */
export interface FrameBasis { profile: CameraProfile; seed: number }

/** Numbers of the scene kernel: plate scale, balance (least channel 1), camera matrix with baseline exposure. */
export function sceneParameters(profile: CameraProfile): number[] {
  const neutral = profile.asShotNeutral, top = Math.max(...neutral);
  const balance = neutral.map((v) => top / v) as unknown as Vector3;
  const gain = 2 ** profile.baselineExposureEv;
  const matrix = balancedCameraToRec2020(profile, neutral.map((v) => v / top) as unknown as Vector3).map((v) => v * gain);
  return [plateOffset, 1 / plateScale, ...balance, ...matrix];
}

/** The passes of one step at the look's strength; none when it is off. */
export function passesOf(step: LookStep, lookStrength: number): Pass[] {
  const kind = stepKind(step.kind);
  if (!kind || !step.on) return [];
  return kind.compile({ ...defaultsOf(kind), ...step.params }, step.strength * lookStrength);
}

/** A look's passes in the order light travels: scene, stock, print. A stock switched off is the plain neutral response. */
export function lookPasses(look: Look | null): Pass[] {
  const l = look ?? noLook, known = compiled.get(l);
  if (known) return known;
  const passes = compileLook(l);
  compiled.set(l, passes);
  return passes;
}

const noLook = emptyLook('');
/** Looks are never changed in place, so what one compiles to is kept with it. */
const compiled = new WeakMap<Look, Pass[]>();

function compileLook(l: Look): Pass[] {
  const stock = l.stock.on ? passesOf(l.stock, l.strength) : passesOf(emptyLook('').stock, 1);
  return foldMatrices([...l.scene.flatMap((s) => passesOf(s, l.strength)), ...stock, ...l.print.flatMap((s) => passesOf(s, l.strength))]);
}

/** Neighbouring matrices become their product. */
function foldMatrices(passes: Pass[]): Pass[] {
  const out: Pass[] = [];
  for (const pass of passes) {
    const last = out[out.length - 1];
    if (pass.kernel === 'matrix' && last?.kernel === 'matrix') out[out.length - 1] = { kernel: 'matrix', parameters: multiply3(pass.parameters as unknown as Matrix3, last.parameters as unknown as Matrix3) };
    else out.push(pass);
  }
  return out;
}

/** Builds the plan for a frame under a look (null: the neutral response alone). */
export function plan(look: Look | null, frame: FrameBasis, space: OutputSpace): Plan {
  return { scene: sceneParameters(frame.profile), passes: lookPasses(look), encode: encodeParameters(space), seed: frame.seed };
}
