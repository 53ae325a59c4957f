import { luminanceShares } from '../colour/luminance.ts';
import type { CameraProfile } from '../colour/cameraProfile.ts';
import { plainGroundwork, type Groundwork } from '../groundwork/groundwork.ts';
import { viewOf } from '../groundwork/geometry.ts';
import { gainNumbers, lensGainOf, type FileLens } from '../groundwork/lens.ts';
import { groundPasses, sceneParameters } from '../groundwork/light.ts';
import type { Look, LookStep } from '../look/look.ts';
import { blends, emptyLook } from '../look/look.ts';
import { toneNumbers } from '../mask/tone.ts';
import { defaultsOf } from '../render/step.ts';
import { kernelNeeds } from '../kernels/registry.ts';
import { stepKind } from '../look/kinds.ts';
import type { OutputSpace } from '../render/output.ts';
import { foldPasses, type Pass, type Plan } from '../render/pass.ts';

/** Bumped whenever the same plate and look would give other bytes. */
export const engineVersion = 9;

/** What a plan needs to know of a frame. Without its size and what its file says of the lens, the lens' gain is left out. */
export interface FrameBasis {
  profile: CameraProfile;
  seed: number;
  groundwork?: Groundwork | null;
  picture?: { width: number; height: number; fileLens?: FileLens | null };
  /** steps of its own */
  steps?: OwnSteps | null;
}

/** The passes of one step at the look's strength; none when it is off. Steps are never changed in place, so they are kept with it. */
export function passesOf(step: LookStep, lookStrength: number): Pass[] {
  const kind = stepKind(step.kind);
  if (!kind || !step.on) return [];
  const known = stepPasses.get(step);
  if (known?.strength === lookStrength) return known.passes;
  const passes = bracketed(step, kind.compile({ ...defaultsOf(kind), ...step.params }, step.strength * lookStrength).map(packed));
  stepPasses.set(step, { strength: lookStrength, passes });
  return passes;
}
/** Long lists of numbers as the kernels read them, so that a plan is quickly handed to a worker. */
const packed = (pass: Pass): Pass =>
  kernelNeeds[pass.kernel] === 'point' && pass.parameters.length > 64
    ? ({ ...pass, parameters: Float32Array.from(pass.parameters) } as Pass)
    : pass;
/** Passes joined with what came to them, where the step has a range or a way of its own to be joined. */
function bracketed({ mask, blend = 'normal' }: Partial<LookStep>, passes: Pass[]): Pass[] {
  if (passes.length === 0 || (!mask && blend === 'normal')) return passes;
  const range = mask ? [1, ...toneNumbers(mask)] : [0, 0, 1, 0, 1, 0];
  return [
    { kernel: 'hold', parameters: [] },
    ...passes,
    { kernel: 'join', parameters: [...luminanceShares, blends.indexOf(blend), ...range] },
  ];
}
const stepPasses = new WeakMap<LookStep, { strength: number; passes: Pass[] }>();

/** A look's passes in the order light travels: scene, stock, print. A stock switched off is the plain neutral response. */
export function lookPasses(look: Look | null): Pass[] {
  const l = look ?? noLook,
    known = compiled.get(l);
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
  return foldPasses([...l.scene.flatMap((s) => passesOf(s, l.strength)), ...stock, ...l.print.flatMap((s) => passesOf(s, l.strength))]);
}

/** The gain of a frame's lens as a pass; kept while geometry and lens stay as they are. */
function gainPass({ lens, geometry }: Groundwork, picture: FrameBasis['picture']): Pass | null {
  if (!picture) return null;
  const known = gains.get(lens);
  if (
    known &&
    known.geometry === geometry &&
    known.width === picture.width &&
    known.height === picture.height &&
    known.file === (picture.fileLens ?? null)
  )
    return known.pass;
  const gain = lensGainOf(lens, picture.fileLens ?? null, picture),
    pass: Pass | null = gain && {
      kernel: 'lensGain',
      parameters: gainNumbers(gain, picture, viewOf(geometry, picture.width, picture.height, gain.map)),
    };
  gains.set(lens, { geometry, width: picture.width, height: picture.height, file: picture.fileLens ?? null, pass });
  return pass;
}
const gains = new WeakMap<
  Groundwork['lens'],
  { geometry: Groundwork['geometry']; width: number; height: number; file: FileLens | null; pass: Pass | null }
>();

/** Steps of a frame's own, on top of the look it wears; they are never part of the look. */
export interface OwnSteps {
  scene: readonly LookStep[];
  print: readonly LookStep[];
}
/** A look as a frame wears it: the frame's own steps come after the look's in each lane. The look itself where there are none. */
export function dressed(look: Look | null, own: OwnSteps | null): Look | null {
  if (!own || own.scene.length + own.print.length === 0) return look;
  const l = look ?? noLook;
  return { ...l, scene: [...l.scene, ...own.scene], print: [...l.print, ...own.print] };
}

/** Builds the plan for a frame with its groundwork under a look (null: the neutral response alone). */
export function plan(look: Look | null, frame: FrameBasis, space: OutputSpace): Plan {
  const ground = frame.groundwork ?? plainGroundwork;
  return {
    scene: sceneParameters(frame.profile, ground),
    passes: [...groundPasses(ground, gainPass(ground, frame.picture)), ...lookPasses(dressed(look, frame.steps ?? null))],
    space,
    seed: frame.seed,
  };
}
