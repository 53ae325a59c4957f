import type { Cdl } from '../../colour/cdl.ts';
import { decodeSrgb, encodeSrgb } from '../../colour/transfer.ts';
import { tableOver } from '../../render/pass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

const channels = ['Red', 'Green', 'Blue'] as const,
  intervals = 4096;
/** Slope, offset, power and saturation on sRGB-encoded values (ASC CDL v1.2). Strength moves each number from its neutral. */
export const cdl = defineStep({
  kind: 'cdl',
  lane: 'print',
  name: 'CDL',
  purpose: 'Slope, offset, power, saturation: the ten numbers that grading rooms exchange (ASC CDL)',
  atStrength: 'moves each from its neutral',
  note: 'On sRGB values',
  needs: ['cdl', 'lift gamma gain', 'slope', 'offset', 'power', 'exchange'],
  params: {
    ...Object.fromEntries(channels.map((c) => [`slope${c}`, number(`Slope ${c.toLowerCase()}`, '', 0, 4, 1, 0.005, 3)])),
    ...Object.fromEntries(channels.map((c) => [`offset${c}`, number(`Offset ${c.toLowerCase()}`, '', -1, 1, 0, 0.002, 3)])),
    ...Object.fromEntries(channels.map((c) => [`power${c}`, number(`Power ${c.toLowerCase()}`, '', 0.1, 4, 1, 0.005, 3)])),
    saturation: number('Saturation', '', 0, 4, 1, 0.01, 2),
  },
  compile: (values, strength) => {
    const of = (name: string, plain: number): number => plain + (numberOf(values, name) - plain) * strength,
      three = (name: string, plain: number): number[] => channels.map((c) => of(`${name}${c}`, plain));
    const slope = three('slope', 1).map((v) => Math.max(0, v)),
      offset = three('offset', 0),
      power = three('power', 1).map((v) => Math.max(0.05, v)),
      saturation = Math.max(0, of('saturation', 1));
    if ([...slope, ...power, saturation].every((v) => v === 1) && offset.every((v) => v === 0)) return [];
    const toCode =
        (c: number) =>
        (t: number): number =>
          Math.min(1, Math.max(0, encodeSrgb(t * t) * slope[c]! + offset[c]!)) ** power[c]!,
      w = [0.2126, 0.7152, 0.0722];
    const mix = [0, 1, 2].flatMap((i) => w.map((v, j) => v * (1 - saturation) + (i === j ? saturation : 0)));
    return [
      {
        kernel: 'curves',
        parameters: Float32Array.from([intervals, ...[0, 1, 2].flatMap((c) => tableOver(intervals, toCode(c)).slice(1))]),
      },
      { kernel: 'affineTable', parameters: Float32Array.from([...mix, 0, 0, 0, ...tableOver(intervals, decodeSrgb)]) },
    ];
  },
});
/** The numbers of a CDL step. */
export const cdlOf = (values: Readonly<Record<string, unknown>>): Cdl => {
  const three = (name: string): [number, number, number] =>
    channels.map((c) => values[`${name}${c}`] as number) as [number, number, number];
  return { slope: three('slope'), offset: three('offset'), power: three('power'), saturation: values['saturation'] as number };
};
/** Parameters of a CDL step with given numbers, held within its ranges. */
export const cdlParams = ({ slope, offset, power, saturation }: Cdl): Record<string, number> => ({
  ...Object.fromEntries(
    channels.flatMap((c, i) => [
      [`slope${c}`, Math.min(4, Math.max(0, slope[i]!))],
      [`offset${c}`, Math.min(1, Math.max(-1, offset[i]!))],
      [`power${c}`, Math.min(4, Math.max(0.1, power[i]!))],
    ]),
  ),
  saturation: Math.min(4, Math.max(0, saturation)),
});
