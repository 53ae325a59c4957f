import { defaultsOf, type Parameter, type ParameterValue } from '../render/step.ts';
import { numberSaid, stepName, titleOf } from './differences.ts';
import { stepKind } from './kinds.ts';
import { stepsOf, type Look, type LookStep } from './look.ts';
import { same } from './matched.ts';

/** A look's steps in words, in the order light travels: what of each is not as it comes. What is off is left out. */
export const stepsInWords = (look: Look): { name: string; words: string }[] =>
  stepsOf(look)
    .filter((s) => s.on && s.strength > 0)
    .map((s) => ({ name: stepName(s), words: said(s).join(', ') || 'as it comes' }));

function said(step: LookStep): string[] {
  const kind = stepKind(step.kind)!,
    plain = defaultsOf(kind);
  const numbers = Object.entries(kind.params).flatMap(([key, p]) => {
    const value = step.params[key] ?? plain[key]!;
    return same(value, plain[key]) ? [] : [valueSaid(p, value, step)];
  });
  return [
    ...numbers,
    ...(step.strength === 1 ? [] : [`strength ${Math.round(step.strength * 100)} %`]),
    ...(step.mask ? ['in a place of its own'] : []),
  ];
}
function valueSaid(p: Parameter, value: ParameterValue, step: LookStep): string {
  if (p.type === 'number') return `${p.label} ${numberSaid(p, value as number)}${p.unit === '°' ? '°' : p.unit === '' ? '' : ` ${p.unit}`}`;
  if (p.type === 'choice') return `${p.label} ${p.options.find(([v]) => v === value)?.[1] ?? String(value)}`;
  if (p.type === 'curve') return `${p.label} through ${(value as readonly unknown[]).length} points`;
  if (p.type === 'band') return `${p.label} at ${(value as readonly unknown[]).length} hues`;
  return titleOf(step);
}
