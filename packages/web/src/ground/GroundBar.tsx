import { renditions, type Groundwork, type Look, type Rendition } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { Link } from 'react-router';
import { messageOf, useUpdateShootMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { UndoRedo } from '../kit/UndoRedo.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame, Shoot } from '../types.ts';
import { groundAct } from './groundSlice.ts';
import { Rove } from '../kit/Rove.tsx';
import type { RepairHand } from './repair/useRepairs.ts';

/** What can be done with the frame's groundwork as a whole, and how the shoot starts. */
export function GroundBar({
  shoot,
  frame,
  ground,
  worn,
  wearing,
  onWearing,
  onTried,
  chosen,
  undoing,
  onPresets,
  onGiving,
}: {
  shoot: Shoot;
  frame: Frame;
  ground: Groundwork;
  /** the look that can be worn here: the frame's own or the shoot's */
  worn: Look | null;
  wearing: boolean;
  onWearing: (on: boolean) => void;
  /** a rendition shown while the pointer is over it */
  onTried: (rendition: Rendition | null) => void;
  /** how many frames are chosen */
  chosen: number;
  /** what is undone instead of groundwork */
  undoing: Pick<RepairHand, 'last' | 'next' | 'undo' | 'redo'> | null;
  onPresets: () => void;
  onGiving: (way: 'paste' | 'chosen') => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    doc = useAppSelector((s) => s.ground.docs[frame.id]),
    copied = useAppSelector((s) => s.ground.copied),
    last = undoing ? undoing.last : doc?.past.at(-1)?.words,
    next = undoing ? undoing.next : doc?.future.at(-1)?.words,
    [updateShoot] = useUpdateShootMutation();
  return (
    <TopBar
      page={`${frame.name}, on the Ground`}
      title={frame.name}
      note={
        <>
          of <Link to={`/shoots/${shoot.id}`}>{shoot.name}</Link>
        </>
      }
    >
      <UndoRedo
        undoes={last}
        redoes={next}
        onUndo={() => (undoing ? undoing.undo() : dispatch(groundAct.undone()))}
        onRedo={() => (undoing ? undoing.redo() : dispatch(groundAct.redone()))}
      />
      <Rove className="segmented" role="group" aria-label="Starting rendition of the shoot" onPointerLeave={() => onTried(null)}>
        {(Object.keys(renditions) as Rendition[]).map((r) => (
          <button
            key={r}
            type="button"
            title={`${renditions[r].name}: where every frame of the shoot starts`}
            aria-pressed={!wearing && shoot.rendition === r}
            onPointerEnter={() => onTried(r)}
            onFocus={() => onTried(r)}
            onBlur={() => onTried(null)}
            onClick={() => {
              onWearing(false);
              updateShoot({ id: shoot.id, rendition: r })
                .unwrap()
                .catch((e: unknown) => complain(messageOf(e)));
            }}
          >
            {r[0]!.toUpperCase() + r.slice(1)}
          </button>
        ))}
      </Rove>
      {worn && (
        <button type="button" className={`tool ${wearing ? 'on' : ''}`} aria-pressed={wearing} onClick={() => onWearing(!wearing)}>
          Under {worn.name}
        </button>
      )}
      <Button size="xs" variant="outline" title="Groundwork kept under a name, by camera and ISO" onClick={() => onPresets()}>
        Presets…
      </Button>
      <Button
        size="xs"
        variant="outline"
        title="Copy this frame’s groundwork"
        onClick={() => {
          dispatch(groundAct.set({ copied: ground }));
          tell(`Groundwork of ${frame.name} copied`);
        }}
      >
        Copy
      </Button>
      <Button size="xs" variant="outline" disabled={!copied} onClick={() => onGiving('paste')}>
        Paste…
      </Button>
      <Button
        size="xs"
        colorPalette="dye"
        disabled={chosen === 0}
        title="Control-click frames at the left to choose them"
        onClick={() => onGiving('chosen')}
      >
        {chosen === 0 ? 'Give to chosen' : `Give to ${chosen} ${chosen === 1 ? 'frame' : 'frames'}`}
      </Button>
    </TopBar>
  );
}
