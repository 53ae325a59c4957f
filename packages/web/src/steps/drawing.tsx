import type { LookStep, ParameterValue } from '@dyepot/core';
export { oklch } from '../kit/cssLight.ts';

/** What a step's small drawing is given: the step, its parameters, complete, and one of them as a number. */
export interface Drawn {
  step: LookStep;
  p: Readonly<Record<string, ParameterValue>>;
  n: (name: string) => number;
}
/** Size of a step's small drawing, in its own units. */
export const W = 76;
export const H = 38;
/** A curve over 0–1, up from the foot. */
export const path = (f: (t: number) => number): string =>
  Array.from(
    { length: 33 },
    (_, i) => `${i === 0 ? 'M' : 'L'}${(i / 32) * W},${H - 2 - Math.min(1, Math.max(0, f(i / 32))) * (H - 4)}`,
  ).join('');
/** A frame in the drawing. */
export const box = { x: 14, y: 4, width: 48, height: 30 };
export const Frame = ({ fill = '#6a6866' }: { fill?: string }): React.JSX.Element => <rect {...box} fill={fill} />;
/** A few specks that stand for grain, always the same. */
export const specks = Array.from({ length: 90 }, (_, i) => [box.x + ((i * 37) % 48), box.y + ((i * 53) % 30), (i * 29) % 7] as const);
