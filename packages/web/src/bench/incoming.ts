import { plateLevels, type Look, type OwnSteps } from '@dyepot/core';
import type { Frame } from '../types.ts';
import type { Incoming } from '../steps/fitting.ts';
import { leanText } from '../saving/keptDocuments.ts';

/** What comes before a step of a print lane, the look's or the frame's own; null for a step elsewhere. */
export function before(look: Look, own: OwnSteps | null, id: string): { look: Look; steps: OwnSteps | null } | null {
  const at = look.print.findIndex((s) => s.id === id);
  if (at >= 0) return { look: { ...look, print: look.print.slice(0, at) }, steps: own && { ...own, print: [] } };
  const mine = own?.print.findIndex((s) => s.id === id) ?? -1;
  return own && mine >= 0 ? { look, steps: { ...own, print: own.print.slice(0, mine) } } : null;
}

/** Renders a frame small under a look and steps of its own. Rejects when the server does not answer. */
export async function smallPicture(frame: Frame, look: Look, steps: OwnSteps | null = null): Promise<Incoming> {
  let level = 0;
  while (level < plateLevels - 1 && Math.max(frame.width, frame.height) >> level > 900) level++;
  const answer = await fetch(`/api/frames/${frame.id}/region/${level}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: leanText({ look, steps: steps && { format: 'dyepot-local', version: 1, ...steps } }),
  });
  if (!answer.ok)
    throw new Error(((await answer.json().catch(() => ({}))) as { message?: string }).message ?? 'the frame could not be read');
  return {
    width: Number(answer.headers.get('X-Width')),
    height: Number(answer.headers.get('X-Height')),
    rgba: new Uint8Array(await answer.arrayBuffer()),
  };
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
