import { plateLevels, type Look } from '@dyepot/core';
import type { Frame } from '../types.ts';

/** A frame as it comes to a step of the print lane: 8-bit sRGB, RGBA. */
export interface Incoming {
  width: number;
  height: number;
  rgba: Uint8Array;
}

/** The look before a step of its print lane; null for a step elsewhere. */
export function before(look: Look, id: string): Look | null {
  const at = look.print.findIndex((s) => s.id === id);
  return at < 0 ? null : { ...look, print: look.print.slice(0, at) };
}

/** Renders a frame small under a look. Rejects when the server does not answer. */
export async function smallPicture(frame: Frame, look: Look): Promise<Incoming> {
  let level = 0;
  while (level < plateLevels - 1 && Math.max(frame.width, frame.height) >> level > 900) level++;
  const answer = await fetch(`/api/frames/${frame.id}/region/${level}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ look }),
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
