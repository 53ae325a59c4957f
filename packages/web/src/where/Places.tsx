import { stepsOf } from '@dyepot/core';
import { docOf } from '../bench/benchSlice.ts';
import { stepsIn } from '../bench/ownChain.ts';
import { useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import { Pins } from './Pins.tsx';
import { PlaceOnPicture } from './PlaceOnPicture.tsx';

/** What lies over the picture of where steps act: the place in hand, and the others' pins. It follows the store by itself, so that the picture's view need not be drawn anew. */
export function Places({ frame, placed }: { frame: Frame; placed: Placed }): React.JSX.Element {
  const chain = useAppSelector((s) => docOf(s.bench).look),
    look = useAppSelector((s) => s.bench.look),
    own = useAppSelector((s) => s.bench.owns[frame.id]?.look),
    selected = useAppSelector((s) => s.bench.selected),
    holders = [...chain.skeins, ...stepsOf(chain)].filter((h) => h.mask !== null),
    held = holders.find((h) => h.id === selected);
  return (
    <>
      {holders.some((h) => h !== held) && <Pins frame={frame} chain={chain} selected={selected} placed={placed} />}
      {held && (
        <PlaceOnPicture
          key={`${frame.id}-${held.id}`}
          frame={frame}
          holder={held}
          look={look}
          steps={own ? stepsIn(own) : frame.steps}
          placed={placed}
        />
      )}
    </>
  );
}
