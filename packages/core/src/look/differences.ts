import { defaultsOf, type NumberParameter, type Parameter, type ParameterValue } from '../render/step.ts';
import { stepKind } from './kinds.ts';
import { blendNames, type Chain, type Look, type LookStep } from './look.ts';
import { matched, same } from './matched.ts';

/** A step's own name, or its kind's. */
export const stepName = (step: LookStep): string => step.name || (stepKind(step.kind)?.name ?? step.kind);

/** What makes one look of another, in sentences: “Warmth: Shift +12 → +18 mired”, “Grain added”. None when they are the same. */
export function differences(from: Look, to: Look): string[] {
  return [
    ...(from.name === to.name ? [] : [`Name “${from.name}” → “${to.name}”`]),
    ...(from.family === to.family ? [] : [`Family ${from.family || 'none'} → ${to.family || 'none'}`]),
    ...tagsSaid(from.tags, to.tags),
    ...(from.notes === to.notes ? [] : ['Notes written anew']),
    ...(from.strength === to.strength ? [] : [`Strength of the look ${percent(from.strength)} → ${percent(to.strength)}`]),
    ...laneSaid(from.scene, to.scene),
    ...stockSaid(from.stock, to.stock),
    ...laneSaid(from.print, to.print),
    ...groupsSaid('Skein', from.skeins, to.skeins),
    ...groupsSaid('Place', from.masks, to.masks),
  ];
}
function tagsSaid(from: readonly string[], to: readonly string[]): string[] {
  const gone = from.filter((t) => !to.includes(t)),
    come = to.filter((t) => !from.includes(t));
  return [...gone.map((t) => `Tag “${t}” taken off`), ...come.map((t) => `Tag “${t}” added`)];
}
/** Steps are the same one by their id, else by their kind where they stand. */
function laneSaid(from: readonly LookStep[], to: readonly LookStep[]): string[] {
  const known = new Set(from.map((s) => s.id)),
    kept = new Set(to.map((s) => s.id)),
    alike = (p: LookStep, q: LookStep): boolean => p.kind === q.kind && (p.id === q.id || (!kept.has(p.id) && !known.has(q.id)));
  const pairs = matched(from, to, alike),
    moved = new Map(
      pairs.flatMap(({ a, b }) => (a && !b && to.some((s) => s.id === a.id && s.kind === a.kind) ? [[a.id, a] as const] : [])),
    );
  return pairs.flatMap(({ a, b }) => {
    if (a && b) return stepSaid(a, b);
    if (a) return moved.has(a.id) ? [] : [`${stepName(a)} taken out`];
    const before = moved.get(b.id);
    return before ? [`${stepName(b)} moved`, ...stepSaid(before, b)] : [`${stepName(b)} added`];
  });
}
function stockSaid(from: LookStep, to: LookStep): string[] {
  if (from.kind === to.kind) return stepSaid(from, to);
  return [`Stock ${titleOf(from)} → ${titleOf(to)}`];
}
/** A stock by the name on its sheet or table, where it has one. */
export function titleOf(step: LookStep): string {
  for (const value of Object.values(step.params)) {
    const { name, title } = (typeof value === 'object' && value !== null ? value : {}) as { name?: unknown; title?: unknown };
    if (typeof name === 'string') return name;
    if (typeof title === 'string' && title !== '') return title;
  }
  return stepName(step);
}
function stepSaid(from: LookStep, to: LookStep): string[] {
  const name = stepName(to),
    kind = stepKind(to.kind)!,
    before = { ...defaultsOf(kind), ...from.params },
    after = { ...defaultsOf(kind), ...to.params };
  const numbers = Object.entries(kind.params)
    .filter(([key]) => !same(before[key], after[key]))
    .map(([key, p]) => changeSaid(p, before[key]!, after[key]!));
  return [
    ...(from.name === to.name ? [] : [`${stepName(from)} is called ${name}`]),
    ...(from.on === to.on ? [] : [`${name} switched ${to.on ? 'on' : 'off'}`]),
    ...(from.strength === to.strength ? [] : [`${name}: strength ${percent(from.strength)} → ${percent(to.strength)}`]),
    ...(numbers.length === 0 ? [] : [`${name}: ${numbers.join(', ')}`]),
    ...(same(from.mask, to.mask) ? [] : [placeSaid(name, from, to)]),
    ...(from.blend === to.blend ? [] : [`${name}: joined as ${blendNames[to.blend]}, before as ${blendNames[from.blend]}`]),
    ...(from.skein === to.skein ? [] : [`${name} ${to.skein === '' ? 'out of its skein' : 'held in a skein'}`]),
  ];
}
function placeSaid(name: string, from: LookStep, to: LookStep): string {
  if (!from.mask) return `${name} acts in a place of its own`;
  return to.mask ? `${name} acts in another place` : `${name} acts everywhere`;
}
function changeSaid(p: Parameter, before: ParameterValue, after: ParameterValue): string {
  if (p.type === 'number') return `${p.label} ${numberSaid(p, before as number)} → ${numberSaid(p, after as number)}${unitSaid(p)}`;
  if (p.type === 'choice') {
    const words = (v: ParameterValue): string => p.options.find(([value]) => value === v)?.[1] ?? String(v);
    return `${p.label} ${words(before)} → ${words(after)}`;
  }
  if (p.type === 'curve') return `${p.label} drawn anew (${(before as []).length} → ${(after as []).length} points)`;
  if (p.type === 'band') return `${p.label} drawn anew (${(before as []).length} → ${(after as []).length} handles)`;
  return `${p.label} ${documentSaid(before)} → ${documentSaid(after)}`;
}
const documentSaid = (value: ParameterValue): string => {
  const { name, title } = (value ?? {}) as { name?: string; title?: string };
  return value === null ? 'none' : name || title || 'one without a name';
};
/** A number with its sign where it may have either, as its cell shows it. */
export function numberSaid(p: NumberParameter, value: number): string {
  const text = Math.abs(value).toFixed(p.decimals),
    nought = Number(text) === 0;
  if (value < 0 && !nought) return `−${text}`;
  return p.min < 0 && !nought ? `+${text}` : text;
}
const unitSaid = (p: NumberParameter): string => (p.unit === '' ? '' : p.unit === '°' ? '°' : ` ${p.unit}`);
const percent = (v: number): string => `${Math.round(v * 100)} %`;
/** Skeins or named places. */
function groupsSaid(sort: string, from: Chain['skeins'] | Chain['masks'], to: Chain['skeins'] | Chain['masks']): string[] {
  const gone = from.filter((g) => !to.some((t) => t.id === g.id)),
    out = gone.map((g) => `${sort} “${g.name}” taken out`);
  for (const g of to) {
    const before = from.find((f) => f.id === g.id);
    if (!before) out.push(`${sort} “${g.name}” added`);
    else if (!same(before, g)) out.push(`${sort} “${g.name}” changed`);
  }
  return out;
}
