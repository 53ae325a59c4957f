import { plainGroundwork, withParts, type Groundwork, type GroundworkPart } from '@dyepot/core';
import { tell } from '../kit/notices.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame, Shoot } from '../types.ts';
import { GiveSheet } from './GiveSheet.tsx';
import { groundAct } from './groundSlice.ts';

/** Gives parts of one frame's groundwork to those chosen, or pastes what was copied onto this one. */
export function Giving({
  way,
  shoot,
  frame,
  ground,
  chosen,
  onPaste,
  onClose,
}: {
  way: 'paste' | 'chosen';
  shoot: Shoot;
  frame: Frame;
  ground: Groundwork;
  chosen: ReadonlySet<number>;
  onPaste: (ground: Groundwork) => void;
  onClose: () => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    { docs, copied } = useAppSelector((s) => s.ground);
  const give = (which: readonly GroundworkPart[]): void => {
    for (const f of shoot.frames.filter((x) => chosen.has(x.id) && x.id !== frame.id))
      dispatch(
        groundAct.changed({
          frameId: f.id,
          words: `From ${frame.name}`,
          gesture: '',
          from: { ground: f.groundwork, version: f.groundVersion },
          ground: withParts(docs[f.id]?.ground ?? f.groundwork ?? plainGroundwork, ground, which),
        }),
      );
    tell(`Given to ${chosen.size}`);
  };
  return (
    <GiveSheet
      title={
        way === 'paste'
          ? `Paste onto ${frame.name}`
          : `Give ${frame.name}’s groundwork to ${chosen.size} ${chosen.size === 1 ? 'frame' : 'frames'}`
      }
      onClose={onClose}
      onGive={(which) => {
        if (way === 'chosen') give(which);
        else if (copied) onPaste(withParts(ground, copied, which));
        onClose();
      }}
    />
  );
}
