import { isFrameBound, partNames, type Mask, type MaskPart, type Mode, type Region } from '@dyepot/core';

/** What a part can begin as, by the words a retoucher chooses it with. */
export type Start = 'gradient' | 'radial' | 'tone' | 'colour' | 'haze' | Region | 'brush' | 'outline' | 'figure' | 'named';
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
  figure: 'on a thing in a box',
  named: 'in a named place',
};
export const portableStarts: readonly Start[] = ['gradient', 'radial', 'tone', 'colour', 'haze', 'sky', 'foliage', 'skin', 'lights'];
export const boundStarts: readonly Start[] = ['brush', 'outline', 'figure'];

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
/** A place in a few words. */
export const placeWords = (mask: Mask, masks: readonly { id: string; name: string }[]): string =>
  mask.parts.map((p, i) => `${i === 0 && p.mode === 'add' ? '' : `${signs[p.mode]} `}${partName(p, masks).toLowerCase()}`).join(' ') ||
  'nowhere yet';
export const boundIn = (mask: Mask | null): boolean => mask?.parts.some(isFrameBound) ?? false;
