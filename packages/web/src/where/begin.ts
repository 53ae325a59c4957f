import { common, maskOf, wholeRange, type Mask, type MaskPart, type Mode } from '@dyepot/core';
import type { Start } from './parts.ts';

export const modeWords: Readonly<Record<Mode, string>> = { add: 'added', subtract: 'taken away', intersect: 'only inside' };
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
    case 'figure':
      // nothing yet: the box is drawn on the picture
      return { ...base, kind: 'figure', box: [0, 0, 1e-3, 1e-3], width: 1, height: 1, data: 'AA==' };
    case 'named':
      return { ...base, kind: 'named', mask: named };
    default:
      return { ...base, kind: 'found', what: start };
  }
}
/** A place to begin with. */
export const beginPlace = (start: Start): Mask => maskOf(partFrom(start, 'add'));
