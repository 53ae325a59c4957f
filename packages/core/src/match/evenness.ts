import type { Apart } from './card.ts';

/** Up to this CIEDE2000 of greys and skins a frame is even with its anchor, where nothing else is asked. */
export const usualTolerance = 2;

/** Why a frame stands out from its group, in words; null where it does not. */
export function whyOut({ ev, mired, duv, difference }: Apart, tolerance: number): string | null {
  if (difference <= tolerance) return null;
  const said: string[] = [];
  if (Math.abs(ev) >= 0.08) said.push(`${Math.abs(ev).toFixed(1)} EV ${ev < 0 ? 'darker' : 'lighter'} than its anchor`);
  if (Math.abs(mired) >= 3) said.push(`${Math.round(Math.abs(mired))} mired ${mired > 0 ? 'warmer' : 'cooler'}`);
  if (Math.abs(duv) >= 0.002) said.push(`${Math.abs(duv).toFixed(3)} Duv ${duv > 0 ? 'greener' : 'pinker'}`);
  return `${said.join(', ') || 'off in colour'}; greys and skins up to ${difference.toFixed(1)} ΔE off`;
}

/** How widely a set is spread: root mean squares about the anchor of exposure (EV) and warmth (mired), and the mean and greatest difference. */
export interface Spread {
  ev: number;
  mired: number;
  mean: number;
  greatest: number;
}
export function spreadOf(set: readonly Apart[]): Spread {
  const mean = (of: (a: Apart) => number): number => set.reduce((sum, a) => sum + of(a), 0) / Math.max(1, set.length),
    deviation = (of: (a: Apart) => number): number => {
      const middle = mean(of);
      return Math.sqrt(mean((a) => (of(a) - middle) ** 2));
    };
  return {
    ev: deviation((a) => a.ev),
    mired: deviation((a) => a.mired),
    mean: mean((a) => a.difference),
    greatest: Math.max(0, ...set.map((a) => a.difference)),
  };
}
