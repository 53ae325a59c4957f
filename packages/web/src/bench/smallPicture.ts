import { plateLevels, type Look, type OwnSteps } from '@dyepot/core';
import type { Frame } from '../types.ts';
import type { Incoming } from '../steps/fitting.ts';
import { leanText } from '../saving/keptDocuments.ts';

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
