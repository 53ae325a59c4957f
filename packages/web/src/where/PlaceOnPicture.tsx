import type { Area, Look, Mask, OwnSteps } from '@dyepot/core';
import { lazy, Suspense } from 'react';
import { complain } from '../kit/notices.tsx';
import { useAppDispatch } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import { act } from '../bench/benchSlice.ts';
import { useHolding } from './useHolding.ts';
import { leanText } from '../saving/keptDocuments.ts';

const PlaceShapes = lazy(() => import('./PlaceShapes.tsx').then((m) => ({ default: m.PlaceShapes })));

/** What is pulled, painted or picked on the picture for the place of a step or a skein. */
export function PlaceOnPicture({
  frame,
  holder,
  look,
  steps,
  placed,
}: {
  frame: Frame;
  holder: { id: string; mask: Mask | null };
  look: Look;
  steps: OwnSteps | null;
  placed: Placed;
}): React.JSX.Element | null {
  const dispatch = useAppDispatch(),
    holding = useHolding();
  if (!holder.mask) return null;
  const onSet = (mask: Mask, words: string, gesture: string): void => {
    const about = { id: holder.id, change: { mask }, words, gesture: gesture && `${holder.id}-${gesture}` };
    dispatch('params' in holder ? act.joiningSet(about) : act.skeinSet(about));
  };
  const { id } = holder,
    onWet = (mask: Mask | null, area: Area): void => {
      dispatch(act.placeShown({ wet: mask && { id, mask, area } }));
    };
  const lightAt = async (at: { x: number; y: number }): Promise<readonly [number, number, number] | null> => {
    try {
      const answer = await fetch(`/api/frames/${frame.id}/light`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: leanText({ look, steps: steps && { format: 'dyepot-local', version: 1, ...steps }, of: holder.id, at }),
      });
      const read = (await answer.json()) as { lab?: [number, number, number]; message?: string };
      if (read.lab) return read.lab;
      complain(read.message ?? 'the colour could not be read');
    } catch {
      complain('The colour could not be read: the server does not answer.');
    }
    return null;
  };
  return (
    <Suspense fallback={null}>
      <div style={{ display: 'contents' }} {...holding}>
        <PlaceShapes frame={frame} mask={holder.mask} placed={placed} onSet={onSet} onWet={onWet} lightAt={lightAt} />
      </div>
    </Suspense>
  );
}
