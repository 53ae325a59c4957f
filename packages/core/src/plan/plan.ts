import { luminanceShares } from '../colour/luminance.ts';
import type { CameraProfile } from '../colour/cameraProfile.ts';
import { plainGroundwork, type Groundwork } from '../groundwork/groundwork.ts';
import { viewOf } from '../groundwork/geometry.ts';
import { gainNumbers, lensGainOf, type FileLens } from '../groundwork/lens.ts';
import { groundPasses, sceneParameters } from '../groundwork/light.ts';
import { blends, emptyLook, skeinOf, type Chain, type Look, type LookStep } from '../look/look.ts';
import { asWorn, isNothing, type OwnSteps, type Worn } from '../look/worn.ts';
import { compileMask } from '../mask/compile.ts';
import type { NamedMask } from '../mask/mask.ts';
import { defaultsOf } from '../render/step.ts';
import { kernelNeeds } from '../kernels/registry.ts';
import { stepKind } from '../look/kinds.ts';
import type { OutputSpace } from '../render/output.ts';
import type { MaskPlan } from '../render/maskPlan.ts';
import { foldPasses, type Pass, type Plan } from '../render/pass.ts';

/** Bumped whenever the same plate and look would give other bytes. */
export const engineVersion = 17;

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
export function passesOf(step: LookStep, lookStrength: number, masks: readonly NamedMask[] = none): Pass[] {
  const kind = stepKind(step.kind);
  if (!kind || !step.on) return [];
  const known = stepPasses.get(step);
  if (known?.strength === lookStrength && known.masks === masks) return known.passes;
  const made = kind.compile({ ...defaultsOf(kind), ...step.params }, step.strength * lookStrength).map(packed),
    passes = bracketed(step, made, masks);
  stepPasses.set(step, { strength: lookStrength, masks, passes });
  return passes;
}
const none: readonly NamedMask[] = [];
/** Long lists of numbers as the kernels read them, so that a plan is quickly handed to a worker. */
const packed = (pass: Pass): Pass =>
  kernelNeeds[pass.kernel] === 'point' && pass.parameters.length > 64
    ? ({ ...pass, parameters: Float32Array.from(pass.parameters) } as Pass)
    : pass;
/** Passes joined with what came to them, where there is a mask or a way of its own to be joined. */
function bracketed({ mask = null, blend = 'normal' }: Partial<LookStep>, passes: Pass[], masks: readonly NamedMask[]): Pass[] {
  if (passes.length === 0 || (!mask && blend === 'normal')) return passes;
  return [
    { kernel: 'hold', parameters: [] },
    ...passes,
    { kernel: 'join', parameters: [...luminanceShares, blends.indexOf(blend)], mask: mask && compileMask(mask, masks) },
  ];
}
/** The passes of a lane: steps one by one, those of a skein together, at its strength and under its mask; each as strongly as it is worn. */
function lanePasses(
  steps: readonly LookStep[],
  { skeins, masks }: Pick<Chain, 'skeins' | 'masks'>,
  strength: number,
  worn: Worn['steps'] = {},
): Pass[] {
  const out: Pass[] = [];
  for (let i = 0; i < steps.length;) {
    const skein = skeinOf({ skeins }, steps[i]!);
    let end = i + 1;
    while (skein && end < steps.length && steps[end]!.skein === skein.id) end++;
    const passes = steps.slice(i, end).flatMap((s) => passesOf(s, strength * (skein?.strength ?? 1) * (worn[s.id] ?? 1), masks));
    if (!skein || skein.on) out.push(...(skein ? bracketed({ mask: skein.mask }, passes, masks) : passes));
    i = end;
  }
  return out;
}
const stepPasses = new WeakMap<LookStep, { strength: number; masks: readonly NamedMask[]; passes: Pass[] }>();

/** A look's passes in the order light travels: scene, stock, print. A stock switched off is the plain neutral response. */
export const lookPasses = (look: Look | null): Pass[] => dressed(look, null);
/** A look as a frame wears it: the frame's own steps come after the look's in each lane, whatever the look's strength. */
export function dressed(look: Look | null, own: OwnSteps | null): Pass[] {
  const l = look ?? noLook,
    o = own && !isNothing(own) ? own : noSteps,
    known = compiled.get(l);
  if (known?.own === o) return known.passes;
  const passes = compileLook(l, o);
  compiled.set(l, { own: o, passes });
  return passes;
}

const noLook = emptyLook(''),
  noSteps: OwnSteps = { scene: [], print: [], skeins: [], masks: [] };
/** Looks and steps are never changed in place, so what a look compiles to is kept with it. */
const compiled = new WeakMap<Look, { own: OwnSteps; passes: Pass[] }>();

interface LaneOf {
  steps: readonly LookStep[];
  chain: Pick<Chain, 'skeins' | 'masks'>;
  strength: number;
  worn?: Worn['steps'];
  /** passes of the stock, before the lane's own */
  stock: Pass[];
}
/** The lanes in the order light travels, a frame's own steps after the look's in each, which is worn as strongly as the frame says. */
function lanesOf(l: Look, own: OwnSteps): LaneOf[] {
  const { strength, steps: worn } = own.worn ?? asWorn,
    share = l.strength * strength,
    stock = l.stock.on ? passesOf(l.stock, share * (worn[l.stock.id] ?? 1)) : passesOf(emptyLook('').stock, 1);
  return [
    { steps: l.scene, chain: l, strength: share, worn, stock: [] },
    { steps: own.scene, chain: own, strength: 1, stock: [] },
    { steps: l.print, chain: l, strength: share, worn, stock },
    { steps: own.print, chain: own, strength: 1, stock: [] },
  ];
}
function compileLook(l: Look, own: OwnSteps): Pass[] {
  return foldPasses(
    lanesOf(l, own).flatMap(({ steps, chain, strength, worn, stock }) => [...stock, ...lanePasses(steps, chain, strength, worn)]),
  );
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

/** The passes before a step or skein, as it meets them, and its mask; null where it is not there or acts everywhere. */
function beforePlace(l: Look, own: OwnSteps, id: string): { passes: Pass[]; mask: MaskPlan } | null {
  const passes: Pass[] = [];
  for (const { steps, chain, strength, worn, stock } of lanesOf(l, own)) {
    passes.push(...stock);
    const at = steps.findIndex((s) => s.id === id || s.skein === id);
    if (at < 0) {
      passes.push(...lanePasses(steps, chain, strength, worn));
      continue;
    }
    const step = steps[at]!,
      skein = skeinOf(chain, step),
      mask = step.id === id ? step.mask : (skein?.mask ?? null);
    if (!mask) return null;
    // what stands before it in its own skein has not been joined yet
    const start = skein ? steps.findIndex((s) => s.skein === skein.id) : at;
    passes.push(...lanePasses(steps.slice(0, start), chain, strength, worn));
    passes.push(
      ...steps.slice(start, at).flatMap((s) => passesOf(s, strength * (skein?.strength ?? 1) * (worn?.[s.id] ?? 1), chain.masks)),
    );
    return { passes: foldPasses(passes), mask: compileMask(mask, chain.masks) };
  }
  return null;
}

/** Builds the plan for a frame with its groundwork under a look (null: the neutral response alone). */
export function plan(look: Look | null, frame: FrameBasis, space: OutputSpace): Plan {
  const ground = frame.groundwork ?? plainGroundwork;
  return {
    scene: sceneParameters(frame.profile, ground),
    passes: [...groundPasses(ground, gainPass(ground, frame.picture)), ...dressed(look, frame.steps ?? null)],
    space,
    seed: frame.seed,
  };
}

/** A plan whose picture is where a step or skein acts: grey light, 1 where it is whole, whether it does anything there or not. Null where it has no place of its own. */
export function placePlan(look: Look | null, frame: FrameBasis, space: OutputSpace, id: string): Plan | null {
  const whole = plan(null, { ...frame, steps: null }, space),
    place = beforePlace(look ?? noLook, frame.steps ?? noSteps, id);
  return (
    place && {
      ...whole,
      passes: [
        ...whole.passes.slice(0, whole.passes.length - lookPasses(null).length),
        ...place.passes,
        { kernel: 'hold', parameters: [] },
        { kernel: 'join', parameters: [...luminanceShares, 0], mask: place.mask, shows: true },
      ],
    }
  );
}
