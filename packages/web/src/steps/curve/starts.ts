import type { Start } from '../fitting.ts';

const curve = (name: string, points: readonly (readonly [number, number])[]): Start => ({ name, values: { points } });
/** Film-like shapes. */
export const curveStarts: readonly Start[] = [
  curve('Lifted blacks', [
    [0, 0.07],
    [0.3, 0.33],
    [1, 1],
  ]),
  curve('Soft whites', [
    [0, 0],
    [0.7, 0.7],
    [1, 0.94],
  ]),
  curve('Firm', [
    [0, 0],
    [0.25, 0.2],
    [0.75, 0.81],
    [1, 1],
  ]),
  curve('Matte', [
    [0, 0.09],
    [0.3, 0.3],
    [0.75, 0.76],
    [1, 0.95],
  ]),
];
