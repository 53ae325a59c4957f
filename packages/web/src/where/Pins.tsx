import { stepsOf, type Look } from '@dyepot/core';
import { useMemo } from 'react';
import { act, nameOf } from '../bench/benchSlice.ts';
import { useAppDispatch } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import { filmPlaceOf } from './filmPlace.ts';
import { pinAt } from './pinAt.ts';

/** A pin on the picture for each step and skein that acts somewhere in particular; pressed, it is taken in hand. */
export function Pins({
  frame,
  chain,
  selected,
  placed,
}: {
  frame: Frame;
  chain: Look;
  selected: string;
  placed: Placed;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    pins = useMemo(() => {
      const film = filmPlaceOf(frame),
        holders = [...chain.skeins.map((s) => ({ ...s, words: s.name })), ...stepsOf(chain).map((s) => ({ ...s, words: nameOf(s) }))];
      return holders.flatMap(({ id, on, words, mask }) => {
        const at = mask && pinAt(mask, film, chain.masks);
        return at ? [{ id, on, words, at }] : [];
      });
    }, [frame, chain]);
  return (
    <div className="place-pins" role="group" aria-label="Places of steps">
      {pins
        .filter((pin) => pin.id !== selected)
        .map(({ id, on, words, at }) => (
          <button
            key={id}
            type="button"
            className={on ? '' : 'off'}
            title={words}
            aria-label={`Take ${words} in hand`}
            style={{ left: placed.whole.left + at.x * placed.whole.width, top: placed.whole.top + at.y * placed.whole.height }}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => dispatch(act.stepSelected(id))}
          />
        ))}
    </div>
  );
}
