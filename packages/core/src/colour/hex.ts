import { apply3, chain3, type Vector3 } from './matrix.ts';
import { rec2020ToOklab } from './oklab.ts';
import { rgbToXyz, srgb, xyzToRec2020 } from './spaces.ts';
import { decodeSrgb } from './transfer.ts';

const toRec2020 = chain3(xyzToRec2020, rgbToXyz(srgb));

/** OKLCh (hue in degrees) of an sRGB colour written as six hexadecimal digits, or three; null when it is none. */
export function oklchOfHex(text: string): { hue: number; chroma: number; lightness: number } | null {
  const digits = text.trim().replace(/^#/, ''),
    six = digits.length === 3 ? [...digits].map((d) => d + d).join('') : digits;
  if (!/^[0-9a-f]{6}$/i.test(six)) return null;
  const rgb = [0, 2, 4].map((i) => decodeSrgb(Number.parseInt(six.slice(i, i + 2), 16) / 255)) as unknown as Vector3,
    [l, a, b] = rec2020ToOklab(apply3(toRec2020, rgb)),
    round = (v: number, by: number): number => Math.round(v * by) / by;
  return {
    hue: round(((Math.atan2(b, a) * 180) / Math.PI + 360) % 360, 10),
    chroma: round(Math.hypot(a, b), 1000),
    lightness: round(Math.min(1, l), 1000),
  };
}
