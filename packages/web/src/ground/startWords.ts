import type { Start, StartPart } from '@dyepot/core';

export const startNames: Readonly<Record<StartPart, string>> = {
  balance: 'Light',
  exposure: 'Exposure',
  zones: 'Zones',
  ends: 'Ends',
  upright: 'Upright',
};
const signed = (v: number, digits: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(digits)}`;

/** What is proposed of a part, in words; null where there is nothing to be done. */
export function startWords(start: Start, part: StartPart): string | null {
  if (part === 'balance') return start.balance && `${start.balance.kelvin} K`;
  if (part === 'exposure') return start.exposureEv === 0 ? null : `${signed(start.exposureEv, 2)} EV`;
  if (part === 'ends') return `white ${start.ends.whiteEv.toFixed(1)} EV`;
  if (part === 'zones') {
    const [deep, dark, , light, bright] = start.zones as [number, number, number, number, number],
      words = [deep + dark > 0 ? 'darks opened' : '', light + bright < 0 ? 'lights held' : ''].filter(Boolean);
    return words.length > 0 ? words.join(', ') : null;
  }
  if (!start.upright) return null;
  const { straighten, vertical } = start.upright.righting;
  return [
    Math.abs(straighten) >= 0.05 ? `${signed(straighten, 1)}°` : '',
    vertical !== 0 ? `verticals ${signed(vertical, 0)}` : '',
    `by ${start.upright.lines} lines`,
  ]
    .filter(Boolean)
    .join(', ');
}
