import type { Start } from '../fitting.ts';

const weights = (name: string, red: number, green: number, blue: number): Start => ({ name, values: { red, green, blue, amount: 100 } });
/** Common practice; BT.601 and BT.709 luma; red light strongly for skies. */
export const monoStarts: readonly Start[] = [
  weights('39 / 50 / 11', 39, 50, 11),
  weights('BT.601', 29.9, 58.7, 11.4),
  weights('BT.709', 21.3, 71.5, 7.2),
  weights('Dark sky', 85, 35, -20),
];
