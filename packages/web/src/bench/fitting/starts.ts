import { baths, renditions, type ParameterValue } from '@dyepot/core';

const curve = (name: string, points: readonly (readonly [number, number])[]): Start => ({ name, values: { points } }),
  weights = (name: string, red: number, green: number, blue: number): Start => ({ name, values: { red, green, blue, amount: 100 } });

/** Where a step can be begun from, by kind. */
export interface Start {
  name: string;
  values: Record<string, ParameterValue>;
}
/** Weights: common practice; BT.601 and BT.709 luma; red light strongly for skies. Curves: film-like shapes. */
export const starts: Readonly<Record<string, readonly Start[]>> = {
  curve: [
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
  ],
  mono: [
    weights('39 / 50 / 11', 39, 50, 11),
    weights('BT.601', 29.9, 58.7, 11.4),
    weights('BT.709', 21.3, 71.5, 7.2),
    weights('Dark sky', 85, 35, -20),
  ],
  toning: Object.entries(baths).map(([name, values]) => ({ name, values: { ...values, amount: 100 } })),
  neutral: Object.values(renditions).map(({ name, params: { contrast, whiteEv, toe } }) => ({ name, values: { contrast, whiteEv, toe } })),
};
