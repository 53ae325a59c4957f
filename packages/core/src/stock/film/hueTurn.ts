import type { Vector3 } from '../../colour/matrix.ts';
import { oklabToRec2020, polar, rec2020ToOklab } from '../../colour/oklab.ts';
import { throughFilm, type Film } from './film.ts';

/** How far a stock turns hues, in OKLab degrees: of 24 hues at two chromas (0.05 and 0.11, L 0.58), and of three skins. */
export interface HueTurn {
  meanDegrees: number;
  worstDegrees: number;
  skinsDegrees: number;
}
/** Skins in OKLCh (lightness, chroma, hue), dark to light; invented, about where skins lie (common practice). */
const skins: readonly Vector3[] = [
  [0.42, 0.06, 48],
  [0.6, 0.075, 52],
  [0.78, 0.06, 56],
];

/** Sends hues through a stock; a warm or a cool base is not the colours' and is taken off. Silver has no hues: null. */
export function hueTurnOf(film: Film): HueTurn | null {
  if (film.sheet.kind === 'blackAndWhite') return null;
  const turn = ([lightness, chroma, hue]: Vector3): number => {
    const out = rec2020ToOklab(throughFilm(film, oklabToRec2020([lightness, ...polar(hue, chroma)]))),
      base = rec2020ToOklab(throughFilm(film, oklabToRec2020([lightness, 0, 0]))),
      found = (Math.atan2(out[2] - base[2], out[1] - base[1]) * 180) / Math.PI;
    return Math.abs(((found - hue + 540) % 360) - 180);
  };
  const turns = [0.05, 0.11].flatMap((chroma) => Array.from({ length: 24 }, (_, i) => turn([0.58, chroma, i * 15])));
  return {
    meanDegrees: turns.reduce((a, b) => a + b, 0) / turns.length,
    worstDegrees: Math.max(...turns),
    skinsDegrees: skins.reduce((sum, s) => sum + turn(s), 0) / skins.length,
  };
}
