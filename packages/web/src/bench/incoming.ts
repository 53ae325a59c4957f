import type { Look, OwnSteps } from '@dyepot/core';
import type { Incoming } from '../steps/fitting.ts';

/** What comes before a step of a print lane, the look's or the frame's own; null for a step elsewhere. */
export function before(look: Look, own: OwnSteps | null, id: string): { look: Look; steps: OwnSteps | null } | null {
  const at = look.print.findIndex((s) => s.id === id);
  if (at >= 0) return { look: { ...look, print: look.print.slice(0, at) }, steps: own && { ...own, print: [] } };
  const mine = own?.print.findIndex((s) => s.id === id) ?? -1;
  return own && mine >= 0 ? { look, steps: { ...own, print: own.print.slice(0, mine) } } : null;
}

/** The mean colour of a square about a place (fractions of the picture), `side` pixels of this small picture wide. */
export function meanAt({ width, height, rgba }: Incoming, at: { x: number; y: number }, side: number): [number, number, number] {
  const half = Math.floor(side / 2),
    cx = Math.min(width - 1, Math.floor(at.x * width)),
    cy = Math.min(height - 1, Math.floor(at.y * height)),
    sum: [number, number, number] = [0, 0, 0];
  let n = 0;
  for (let y = Math.max(0, cy - half); y <= Math.min(height - 1, cy + half); y++)
    for (let x = Math.max(0, cx - half); x <= Math.min(width - 1, cx + half); x++) {
      n++;
      for (let k = 0; k < 3; k++) sum[k]! += rgba[(y * width + x) * 4 + k]!;
    }
  return sum.map((v) => v / n) as [number, number, number];
}
