import type { Lane, StepKind } from '@dyepot/core';
import { Popover, Portal } from '@chakra-ui/react';
import { lazy, Suspense, useState } from 'react';
import { menuPlace } from '../kit/MenuList.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { act, docOf } from './benchSlice.ts';
import { starters, type Starter } from './starters.ts';
import { matching } from './matching.ts';

const TowardsSheet = lazy(() => import('./TowardsSheet.tsx').then((m) => ({ default: m.TowardsSheet })));
/** What is begun from a picture, by what it is looked for with. */
const picture = [
  {
    name: 'Towards a finished picture…',
    purpose: 'Steps that bring the lead’s tones and colours near a reference',
    needs: ['match', 'reference', 'transfer', 'like this picture'],
  },
];

/** Opened from a lane's end: finds a step by its name or by what is wanted. */
export function PalettePopover({
  lane,
  kinds,
  pressed,
  trigger,
  onAdd,
}: {
  lane: Lane;
  kinds: readonly StepKind[];
  /** its button was pressed before this code was there */
  pressed: boolean;
  trigger: React.ReactElement;
  onAdd: (kind: string) => void;
}): React.JSX.Element {
  const [open, setOpen] = useState(pressed),
    [words, setWords] = useState('');
  const dispatch = useAppDispatch(),
    side = useAppSelector((s) => s.bench.side),
    leadId = useAppSelector((s) => s.bench.leadId),
    look = useAppSelector((s) => docOf(s.bench).look),
    [towards, setTowards] = useState(false),
    fromPicture = lane === 'print' && side === 'look' && leadId !== null ? matching(picture, words) : [],
    matches = matching(kinds, words),
    begun = matching(
      starters.filter((s) => s.lane === lane && (!s.bound || side === 'frame')),
      words,
    );
  const close = (): void => {
    setOpen(false);
    setWords('');
  };
  const add = (kind: string): void => {
    onAdd(kind);
    close();
  };
  const begin = (s: Starter): void => {
    dispatch(act.stepsAdded(s.name, s.steps));
    close();
  };
  return (
    <Popover.Root open={open} onOpenChange={(e) => setOpen(e.open)} positioning={{ placement: 'top-start' }} lazyMount unmountOnExit>
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Portal container={menuPlace}>
        <Popover.Positioner>
          <Popover.Content width="300px" className="palette" aria-label={`Steps of the ${lane} lane`}>
            <input
              autoFocus
              placeholder="What should it do?"
              aria-label="What should it do?"
              value={words}
              onChange={(e) => setWords(e.target.value)}
              onKeyDown={(e) => {
                if (e.key !== 'Enter') return;
                if (matches[0]) add(matches[0].kind);
                else if (begun[0]) begin(begun[0]);
                else if (fromPicture[0]) {
                  close();
                  setTowards(true);
                }
              }}
            />
            <ul>
              {matches.map((k) => (
                <li key={k.kind}>
                  <button type="button" onClick={() => add(k.kind)}>
                    <b>{k.name}</b>
                    <span>{k.purpose}</span>
                  </button>
                </li>
              ))}
              {begun.length + fromPicture.length > 0 && <li className="palette-heading">To begin from</li>}
              {begun.map((s) => (
                <li key={s.name}>
                  <button type="button" onClick={() => begin(s)}>
                    <b>{s.name}</b>
                    <span>
                      {s.purpose} ({s.steps.length} steps)
                    </span>
                  </button>
                </li>
              ))}
              {fromPicture.map((s) => (
                <li key={s.name}>
                  <button
                    type="button"
                    onClick={() => {
                      close();
                      setTowards(true);
                    }}
                  >
                    <b>{s.name}</b>
                    <span>{s.purpose}</span>
                  </button>
                </li>
              ))}
            </ul>
            {matches.length + begun.length + fromPicture.length === 0 && <p>No step of the {lane} lane does that yet.</p>}
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
      {towards && leadId !== null && (
        <Suspense>
          <TowardsSheet frameId={leadId} look={look} onClose={() => setTowards(false)} />
        </Suspense>
      )}
    </Popover.Root>
  );
}
