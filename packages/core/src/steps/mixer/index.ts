import { choice, defineStep, number, numberOf } from '../../render/step.ts';

const channels = ['red', 'green', 'blue'] as const,
  named = { red: 'Red', green: 'Green', blue: 'Blue' } as const;
const shares = Object.fromEntries(
  channels.flatMap((to) =>
    channels.map((from) => [`${to}From${named[from]}`, number(`${named[to]} from ${from}`, '%', -200, 200, to === from ? 100 : 0, 1, 0)]),
  ),
);

/** Each channel of the light from shares of all three, with an offset. So that neutrals stay, a channel can give up what it gets from others, and what its own share has under or over 100 % be made up evenly from all three. */
export const mixer = defineStep({
  kind: 'mixer',
  lane: 'scene',
  name: 'Channel mixer',
  purpose: 'Mix red, green and blue light',
  atStrength: 'moves from no mixing',
  note: 'With `keep` a channel gives up what it gets from others, and what its own share has under or over 100 % is made up evenly from all three',
  needs: ['mix channels', 'swap', 'cross process', 'infrared', 'matrix'],
  params: {
    ...shares,
    ...Object.fromEntries(channels.map((c) => [`${c}Offset`, number(`${named[c]} offset`, '×1000 light', -100, 100, 0, 1, 0)])),
    neutrals: choice(
      'Neutrals',
      [
        ['keep', 'kept: each row is made up to 100 %'],
        ['free', 'free'],
      ],
      'keep',
    ),
  },
  compile: (values, strength) => {
    const rows = channels.map((to) => channels.map((from) => numberOf(values, `${to}From${named[from]}`) / 100));
    const even = rows.map((row, i) => {
      const own = row[i]!,
        others = row.reduce((a, b) => a + b, 0) - own;
      return values['neutrals'] === 'keep' ? row.map((v, j) => v + (1 - own) / 3 - (i === j ? others : 0)) : row;
    });
    const m = even.flatMap((row, i) => row.map((v, j) => (i === j ? 1 : 0) + strength * (v - (i === j ? 1 : 0)))),
      offsets = channels.map((c) => (numberOf(values, `${c}Offset`) / 1000) * strength);
    if (offsets.every((v) => v === 0)) return m.every((v, i) => v === (i % 4 === 0 ? 1 : 0)) ? [] : [{ kernel: 'matrix', parameters: m }];
    return [{ kernel: 'affine', parameters: [...m, ...offsets] }];
  },
});
