import { number, numberOf, type NumberParameter } from '../render/step.ts';
import { newStep, type LookStep } from './look.ts';
import { isNothing, type OwnSteps } from './worn.ts';

/** A small correction of one frame on top of its look. Each part is an ordinary step of the frame's own. */
export interface Trim {
  exposureEv: number;
  warmthMired: number;
  /** Duv × 1000, up is greener */
  tint: number;
  contrast: number;
  colour: number;
  /** of the look, in % */
  strength: number;
}
/** What a trim is made of: which parameter of which step, and how far it goes. */
const parts: Readonly<Record<Exclude<keyof Trim, 'strength'>, { kind: string; parameter: string }>> = {
  exposureEv: { kind: 'exposure', parameter: 'shiftEv' },
  warmthMired: { kind: 'warmth', parameter: 'shiftMired' },
  tint: { kind: 'warmth', parameter: 'tint' },
  contrast: { kind: 'contrast', parameter: 'contrast' },
  colour: { kind: 'saturation', parameter: 'change' },
};
export const trimParameters: Readonly<Record<keyof Trim, NumberParameter>> = {
  exposureEv: number('Exposure', 'EV', -2, 2, 0, 0.05, 2),
  warmthMired: number('Warmth', 'mired', -60, 60, 0, 1, 0),
  tint: number('Tint, magenta to green', 'Duv×1000', -15, 15, 0, 0.5, 1),
  contrast: number('Contrast', '%', -60, 60, 0, 1, 0),
  colour: number('Colour', '%', -80, 80, 0, 1, 0),
  strength: number('Look strength', '%', 0, 200, 100, 1, 0),
};
export const noTrim: Trim = { exposureEv: 0, warmthMired: 0, tint: 0, contrast: 0, colour: 0, strength: 100 };
const trimKeys = Object.keys(noTrim) as (keyof Trim)[];

const idOf = (kind: string): string => `trim-${kind}`;
/** Whether a step of a frame's own is part of its trim. */
export const isTrim = ({ id }: Pick<LookStep, 'id'>): boolean => id.startsWith('trim-');
/** The trim that stands in a frame's own steps. */
export function trimOf(own: OwnSteps | null): Trim {
  const steps = own ? [...own.scene, ...own.print] : [],
    trim = { ...noTrim, strength: Math.round((own?.worn?.strength ?? 1) * 1000) / 10 };
  for (const [key, { kind, parameter }] of Object.entries(parts) as [keyof typeof parts, (typeof parts)[keyof typeof parts]][]) {
    const step = steps.find((s) => s.id === idOf(kind));
    if (step) trim[key] = numberOf(step.params, parameter);
  }
  return trim;
}
export const isTrimmed = (own: OwnSteps | null): boolean => {
  const trim = trimOf(own);
  return trimKeys.some((k) => trim[k] !== noTrim[k]) || Object.keys(own?.worn?.steps ?? {}).length > 0;
};
/** A trim within its range; what is no number is as it was without one. */
const inRange = (trim: Trim): Trim =>
  Object.fromEntries(
    trimKeys.map((k) => {
      const { min, max } = trimParameters[k];
      return [k, Number.isFinite(trim[k]) ? Math.min(max, Math.max(min, trim[k])) : noTrim[k]];
    }),
  ) as unknown as Trim;

/**
 * A frame's own steps with another trim. Its steps stand first in their lanes, one that does nothing is left out, and what was
 * painted or drawn stays as it is.
 * @returns null where nothing of the frame's own is left
 */
export function withTrim(own: OwnSteps | null, change: Partial<Trim>): OwnSteps | null {
  const trim = inRange({ ...trimOf(own), ...change }),
    rest = (lane: readonly LookStep[]): LookStep[] => lane.filter((s) => !isTrim(s)),
    made = (kind: string): LookStep[] => {
      const own = (Object.entries(parts) as [keyof typeof parts, { kind: string; parameter: string }][]).filter(([, p]) => p.kind === kind);
      if (own.every(([key]) => trim[key] === noTrim[key])) return [];
      const step = newStep(kind, idOf(kind));
      step.name = 'Trim';
      for (const [key, { parameter }] of own) step.params[parameter] = trim[key];
      return [step];
    },
    worn = { strength: trim.strength / 100, steps: own?.worn?.steps ?? {} },
    next: OwnSteps = {
      scene: [...made('exposure'), ...made('warmth'), ...made('contrast'), ...rest(own?.scene ?? [])],
      print: [...made('saturation'), ...rest(own?.print ?? [])],
      skeins: own?.skeins ?? [],
      masks: own?.masks ?? [],
      ...(worn.strength === 1 && Object.keys(worn.steps).length === 0 ? {} : { worn }),
    };
  return isNothing(next) ? null : next;
}

/** A frame's own steps with a step of its look worn more or less; 1 is as the look says. */
export function withStepWorn(own: OwnSteps | null, id: string, strength: number): OwnSteps | null {
  const steps = { ...own?.worn?.steps, [id]: Math.min(2, Math.max(0, strength)) };
  if (strength === 1) delete steps[id];
  const base: OwnSteps = own ?? { scene: [], print: [], skeins: [], masks: [] },
    next = { ...base, worn: { strength: own?.worn?.strength ?? 1, steps } };
  return isNothing(next) ? null : next;
}
