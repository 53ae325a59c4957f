import type { Kernels } from '../../kernels/kernels.ts';
import { stepName } from '../../look/differences.ts';
import type { Look, LookStep } from '../../look/look.ts';
import { unbakeable } from '../bake.ts';
import { apart, coloursOf, sameLook } from '../nearness.ts';
import { finding, type Finding } from './finding.ts';

/** Steps that do nothing, that take each other back, or that are off. */
export function stepsCheck(kernels: Kernels, look: Look): Finding[] {
  const whole = coloursOf(kernels, look),
    placed = new Set(unbakeable(look).map((u) => u.name)),
    steps = [...look.scene, ...look.print],
    without = (...out: LookStep[]): number => {
      const off = <T extends LookStep>(s: T): T => (out.includes(s) ? { ...s, on: false } : s);
      return apart(whole, coloursOf(kernels, { ...look, scene: look.scene.map(off), print: look.print.map(off) }));
    };
  const out: Finding[] = [],
    off = steps.filter((s) => !s.on),
    judged = steps.filter((s) => s.on && !placed.has(stepName(s))),
    weights = judged.map((s) => ({ step: s, moves: without(s) }));
  for (const { step, moves } of weights)
    if (moves < sameLook)
      out.push(finding('idle', 'weak', moves, 'ΔE', `${stepName(step)} does nothing: without it no colour changes`, { steps: [step.id] }));
  // only steps that each do much can take back much; of many the strongest are tried
  const strong = weights
    .filter((w) => w.moves > 1)
    .sort((p, q) => q.moves - p.moves)
    .slice(0, 10);
  strong.forEach((p, i) => {
    for (const q of strong.slice(i + 1)) {
      const both = without(p.step, q.step);
      if (both < 0.25 * Math.min(p.moves, q.moves))
        out.push(
          finding(
            'cancel',
            'weak',
            both,
            'ΔE',
            `${stepName(p.step)} and ${stepName(q.step)} take each other back: apart they do ${p.moves.toFixed(1)} and ${q.moves.toFixed(1)}, together ${both.toFixed(1)}`,
            {
              steps: [p.step.id, q.step.id],
            },
          ),
        );
    }
  });
  if (off.length > 0)
    out.push(
      finding(
        'off',
        'said',
        off.length,
        'steps',
        `${off.map(stepName).join(', ')} ${off.length === 1 ? 'is' : 'are'} switched off and would travel with it`,
        { steps: off.map((s) => s.id) },
      ),
    );
  return out;
}
