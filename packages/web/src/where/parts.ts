import { common, isFrameBound, partNames, wholeRange, type Mask, type MaskPart, type Mode, type Region } from '@dyepot/core';

/** What a part can begin as, by the words a retoucher chooses it with. */
export type Start = 'gradient' | 'radial' | 'tone' | 'colour' | 'haze' | Region | 'brush' | 'outline' | 'named';
export const startWords: Readonly<Record<Start, string>> = {
  gradient: 'along a gradient',
  radial: 'in a pool',
  tone: 'in some tones',
  colour: 'in some colours',
  haze: 'in the distance',
  sky: 'in the sky',
  foliage: 'in foliage',
  skin: 'on skin',
  lights: 'at sources of light',
  brush: 'where a brush says',
  outline: 'inside an outline',
  named: 'in a named place',
};
export const portableStarts: readonly Start[] = ['gradient', 'radial', 'tone', 'colour', 'haze', 'sky', 'foliage', 'skin', 'lights'];
export const boundStarts: readonly Start[] = ['brush', 'outline'];

/** A part as it begins. */
export function partFrom(start: Start, mode: Mode, named = ''): MaskPart {
  const base = { ...common, mode };
  switch (start) {
    case 'gradient':
      return { ...base, kind: 'gradient', from: [0.5, 0.6], to: [0.5, 0.2], middle: 0.5 };
    case 'radial':
      return { ...base, kind: 'radial', centre: [0.5, 0.5], radii: [0.25, 0.18], turn: 0, feather: 0.6 };
    case 'tone':
      return { ...base, ...wholeRange, inverted: false, toEv: -1 };
    case 'colour':
      return { ...base, kind: 'colour', picks: [], reach: 0.08, softness: 0.5 };
    case 'haze':
      return { ...base, kind: 'haze', from: 0.3, to: 0.7 };
    case 'brush':
      return { ...base, kind: 'brush', strokes: [] };
    case 'outline':
      return { ...base, kind: 'outline', points: [] };
    case 'named':
      return { ...base, kind: 'named', mask: named };
    default:
      return { ...base, kind: 'found', what: start };
  }
}
export const regionNames: Readonly<Record<Region, string>> = {
  sky: 'Sky, found',
  foliage: 'Foliage, found',
  skin: 'Skin, found',
  lights: 'Lights, found',
};
/** What a part is called. */
export function partName(part: MaskPart, masks: readonly { id: string; name: string }[]): string {
  if (part.kind === 'found') return regionNames[part.what];
  if (part.kind === 'named') return masks.find((m) => m.id === part.mask)?.name ?? 'a place that is gone';
  return partNames[part.kind];
}
export const signs: Readonly<Record<Mode, string>> = { add: '+', subtract: '−', intersect: '∩' };
export const modeWords: Readonly<Record<Mode, string>> = { add: 'added', subtract: 'taken away', intersect: 'only inside' };
/** A place in a few words. */
export const placeWords = (mask: Mask, masks: readonly { id: string; name: string }[]): string =>
  mask.parts.map((p, i) => `${i === 0 && p.mode === 'add' ? '' : `${signs[p.mode]} `}${partName(p, masks).toLowerCase()}`).join(' ') ||
  'nowhere yet';
export const boundIn = (mask: Mask | null): boolean => mask?.parts.some(isFrameBound) ?? false;
