import { exp10 } from '../../colour/elementary.ts';
import type { Film } from './film.ts';

/** What one exposure gives in each layer, and in the print; densities. */
export interface Exposed {
  /** log₁₀ of the exposure in lux·s, alike in all layers */
  logH: number;
  density: number[];
  /** null of a film that is seen itself */
  printed: number[] | null;
}
/** Exposes a film to even light, from one log exposure to another by steps. */
export function exposedTo(film: Film, from: number, to: number, step: number): Exposed[] {
  const count = Math.floor((to - from) / step + 1e-9) + 1;
  return Array.from({ length: count }, (_, i) => {
    const logH = from + i * step,
      density = film.densities(film.sheet.layers.map(() => logH));
    return { logH: Math.round(logH * 1e9) / 1e9, density, printed: film.sheet.print ? film.printed(density) : null };
  });
}

/** Fields of a step wedge: 0.15 in log exposure apart, as is common practice, over six decades; each so many pixels wide. */
export const wedge = { from: -4, to: 2, step: 0.15, field: 32, height: 64 } as const;
/**
 * A step wedge as a densitometer sees it: RGB in 16 bits, linear, 65535 · 10^−density of the red-, green- and blue-sensitive layer
 * (all three the same in black and white); fields from the least exposure to the most.
 */
export function wedgePicture(film: Film): { width: number; height: number; rgb: Uint16Array } {
  const fields = exposedTo(film, wedge.from, wedge.to, wedge.step),
    width = fields.length * wedge.field,
    rgb = new Uint16Array(width * wedge.height * 3);
  for (let y = 0; y < wedge.height; y++)
    for (let x = 0; x < width; x++) {
      const { density } = fields[Math.floor(x / wedge.field)]!;
      for (let c = 0; c < 3; c++) rgb[(y * width + x) * 3 + c] = Math.round(65535 * exp10(-density[Math.min(c, density.length - 1)]!));
    }
  return { width, height: wedge.height, rgb };
}
