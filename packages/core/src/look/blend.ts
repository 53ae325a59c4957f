import { pointsBetween } from '../steps/curve/between.ts';
import { defaultsOf, type BandHandle, type CurvePoints, type Parameter, type ParameterValue } from '../render/step.ts';
import { stepKind } from './kinds.ts';
import { emptyLook, type Chain, type Look, type LookStep } from './look.ts';
import { stepName, titleOf } from './differences.ts';
import { matched, same } from './matched.ts';

/** A look between two, and in sentences what could not be met half way. */
export interface Blend {
  look: Look;
  said: string[];
}

/**
 * A look between two, of steps that can go on being edited: what both have is met in between, number by number; what only one
 * has fades by its strength. At 0 it is the first, at 1 the second.
 * @param by 0–1
 */
export function blendLooks(a: Look, b: Look, by: number): Blend {
  const said: string[] = [],
    strength = mix(a.strength, b.strength, by),
    fade: Fade = {
      by,
      said,
      // the strength of the whole multiplies every step's
      first: strength > 0 ? ((1 - by) * a.strength) / strength : 0,
      second: strength > 0 ? (by * b.strength) / strength : 0,
    };
  const name = `${a.name.slice(0, 34)} and ${b.name.slice(0, 34)}`,
    second = withIdsOfItsOwn(b, a);
  const look: Look = {
    ...emptyLook(name),
    family: a.family === b.family ? a.family : '',
    tags: [...new Set([...a.tags, ...b.tags])].slice(0, 24),
    notes: `${Math.round((1 - by) * 100)} % ${a.name}, ${Math.round(by * 100)} % ${b.name}`,
    strength,
    scene: laneBetween(a.scene, second.scene, fade),
    stock: stockBetween(a.stock, second.stock, fade),
    print: laneBetween(a.print, second.print, fade),
    skeins: [],
    masks: [],
  };
  const steps = [...look.scene, ...look.print],
    skeins = [...a.skeins, ...second.skeins].filter((k) => steps.some((s) => s.skein === k.id));
  const used = new Set([...steps, ...skeins].flatMap((s) => s.mask?.parts.flatMap((p) => (p.kind === 'named' ? [p.mask] : [])) ?? []));
  return { look: { ...look, skeins, masks: [...a.masks, ...second.masks].filter((m) => used.has(m.id)) }, said };
}
interface Fade {
  by: number;
  /** what a step's strength is multiplied by, that only the one or only the other has */
  first: number;
  second: number;
  said: string[];
}
const mix = (p: number, q: number, by: number): number => p + (q - p) * by;

/** A look whose ids are none of another's: steps, skeins and places. */
function withIdsOfItsOwn(look: Look, other: Look): Look {
  const taken = new Set([other.stock, ...other.scene, ...other.print, ...other.skeins, ...other.masks].map((x) => x.id)),
    own = (id: string): string => (id !== '' && taken.has(id) ? `${id.slice(0, 60)}-2` : id);
  const masked = <T extends { id: string; mask: LookStep['mask'] }>(x: T): T => ({
    ...x,
    id: own(x.id),
    mask: x.mask && { ...x.mask, parts: x.mask.parts.map((p) => (p.kind === 'named' ? { ...p, mask: own(p.mask) } : p)) },
  });
  const step = (s: LookStep): LookStep => ({ ...masked(s), skein: own(s.skein) });
  return {
    ...look,
    scene: look.scene.map(step),
    stock: step(look.stock),
    print: look.print.map(step),
    skeins: look.skeins.map(masked),
    masks: look.masks.map((m) => ({ ...m, id: own(m.id) })),
  } satisfies Chain & Look;
}
const laneBetween = (a: readonly LookStep[], b: readonly LookStep[], fade: Fade): LookStep[] =>
  matched(a, b, meets).flatMap(({ a: p, b: q }) => {
    if (p && q) return [stepBetween(p, q, fade.by)];
    const faded = p ? fadedStep(p, fade.first, fade) : fadedStep(q!, fade.second, fade);
    return faded.strength > 0 ? [faded] : [];
  });
/** A step worn less; more than twice as strong as designed it cannot be. */
function fadedStep(step: LookStep, share: number, fade: Fade): LookStep {
  const wanted = step.strength * share;
  if (wanted > 2) fade.said.push(`${stepName(step)} would have to be ${Math.round(wanted * 100)} % strong; it stands at 200 %`);
  return { ...step, strength: Math.min(2, wanted) };
}
/** Whether two steps can be met half way: all of them that is not a number is the same. */
function meets(p: LookStep, q: LookStep): boolean {
  if (p.kind !== q.kind || p.blend !== q.blend || p.skein !== '' || q.skein !== '' || !same(p.mask, q.mask)) return false;
  if (p.mask?.parts.some((m) => m.kind === 'named')) return false;
  const kind = stepKind(p.kind)!,
    [a, b] = [
      { ...defaultsOf(kind), ...p.params },
      { ...defaultsOf(kind), ...q.params },
    ];
  return Object.entries(kind.params).every(([key, parameter]) => between(parameter, a[key]!, b[key]!, 0.5) !== undefined);
}
const strengthOf = (step: LookStep): number => (step.on ? step.strength : 0);
function stepBetween(p: LookStep, q: LookStep, by: number): LookStep {
  const kind = stepKind(p.kind)!,
    [a, b] = [
      { ...defaultsOf(kind), ...p.params },
      { ...defaultsOf(kind), ...q.params },
    ];
  return {
    ...p,
    name: p.name === q.name ? p.name : '',
    on: p.on || q.on,
    strength: mix(strengthOf(p), strengthOf(q), by),
    params: Object.fromEntries(Object.entries(kind.params).map(([key, parameter]) => [key, between(parameter, a[key]!, b[key]!, by)!])),
  };
}
/** A value between two of a parameter's; undefined where there is none. */
function between(p: Parameter, a: ParameterValue, b: ParameterValue, by: number): ParameterValue | undefined {
  if (same(a, b)) return a;
  if (p.type === 'number')
    return p.unit === '°' && p.max - p.min >= 359 ? hueBetween(a as number, b as number, by) : mix(a as number, b as number, by);
  if (p.type === 'curve') return pointsBetween(a as CurvePoints, b as CurvePoints, by);
  if (p.type === 'band') return handlesBetween(a as readonly BandHandle[], b as readonly BandHandle[], by);
  return undefined;
}
/** How far it is from one hue to another, the shorter way round. */
const turn = (a: number, b: number): number => ((((b - a) % 360) + 540) % 360) - 180;
const hueBetween = (a: number, b: number, by: number): number => (((a + turn(a, b) * by) % 360) + 360) % 360;
/** Handles of as many hues, near one another; undefined where they are not. */
function handlesBetween(a: readonly BandHandle[], b: readonly BandHandle[], by: number): readonly BandHandle[] | undefined {
  if (a.length === 0) return b.map(([hue, value, width]) => [hue, value * by, width]);
  if (b.length === 0) return a.map(([hue, value, width]) => [hue, value * (1 - by), width]);
  if (a.length !== b.length || a.some(([hue], i) => Math.abs(turn(hue, b[i]![0])) > 45)) return undefined;
  return a.map(([hue, value, width], i) => [hueBetween(hue, b[i]![0], by), mix(value, b[i]![1], by), mix(width, b[i]![2], by)]);
}
/** Two stocks: number by number where they are of one sort; else the first goes back to the plain response and the second comes from it. */
function stockBetween(a: LookStep, b: LookStep, fade: Fade): LookStep {
  const { by, said, first, second } = fade;
  if (meets(a, b)) return stepBetween(a, b, by);
  const sheet = a.kind === 'film' && b.kind === 'film' ? documentBetween(a.params['sheet'], b.params['sheet'], by) : undefined;
  if (sheet !== undefined) {
    const p = { ...a, params: { ...a.params, sheet: null } },
      q = { ...b, params: { ...b.params, sheet: null } };
    if (meets(p, q)) {
      const step = stepBetween(p, q, by);
      return { ...step, params: { ...step.params, sheet: sheet as ParameterValue } };
    }
  }
  if (by > 0 && by < 1)
    said.push(`the stocks are of two sorts: ${titleOf(a)} goes back to the plain response, from which ${titleOf(b)} comes`);
  const [step, share] = by < 0.5 ? [a, (first / Math.max(1e-9, 1 - by)) * (1 - 2 * by)] : [b, (second / Math.max(1e-9, by)) * (2 * by - 1)];
  return fadedStep(step, share, fade);
}
/** Two documents of one shape, number by number; undefined where they are not of one shape. */
function documentBetween(a: unknown, b: unknown, by: number): unknown {
  if (typeof a === 'number' && typeof b === 'number') return mix(a, b, by);
  if (typeof a !== typeof b) return undefined;
  if (typeof a !== 'object' || a === null || b === null) return a === b || typeof a === 'string' ? (by < 0.5 ? a : b) : undefined;
  if (Array.isArray(a) && (a as []).length !== (b as unknown[]).length) return undefined;
  const parts = Object.keys(a).map((key) => [key, documentBetween((a as never)[key], (b as never)[key], by)] as const);
  if (parts.some(([, v]) => v === undefined) || Object.keys(b as object).length !== parts.length) return undefined;
  return Array.isArray(a) ? parts.map(([, v]) => v) : Object.fromEntries(parts);
}
