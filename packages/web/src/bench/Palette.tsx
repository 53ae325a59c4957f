import type { Lane, StepKind } from '@dyepot/core';
import { Popover, Portal } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { menuPlace } from '../kit/MenuList.tsx';
import { useState } from 'react';

/** Kinds that answer to some words: those so named first, then those that serve such a need, then those so described. */
export function matching(kinds: readonly StepKind[], words: string): readonly StepKind[] {
  const asked = words.trim().toLowerCase(),
    holds = (text: string): boolean => text.toLowerCase().includes(asked),
    rank = (k: StepKind): number => (holds(k.name) ? 0 : k.needs.some(holds) ? 1 : holds(k.purpose) ? 2 : 3);
  return asked === '' ? kinds : kinds.filter((k) => rank(k) < 3).sort((a, b) => rank(a) - rank(b));
}

/** Opened from a lane's end: finds a step by its name or by what is wanted. */
export function Palette({
  lane,
  kinds,
  onAdd,
}: {
  lane: Lane;
  kinds: readonly StepKind[];
  onAdd: (kind: string) => void;
}): React.JSX.Element {
  const [open, setOpen] = useState(false),
    [words, setWords] = useState('');
  const matches = matching(kinds, words);
  const add = (kind: string): void => {
    onAdd(kind);
    setOpen(false);
    setWords('');
  };
  return (
    <Popover.Root open={open} onOpenChange={(e) => setOpen(e.open)} positioning={{ placement: 'top-start' }} lazyMount unmountOnExit>
      <Popover.Trigger asChild>
        <button type="button" className="lane-add" aria-label={`Add a step to the ${lane} lane`} title={`Add a step to the ${lane} lane`}>
          <Plus size={16} />
        </button>
      </Popover.Trigger>
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
                if (e.key === 'Enter' && matches[0]) add(matches[0].kind);
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
            </ul>
            {matches.length === 0 && <p>No step of the {lane} lane does that yet.</p>}
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}
