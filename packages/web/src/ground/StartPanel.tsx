import { number, startParts, withStart, type Groundwork, type Start, type StartPart } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { messageOf } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import type { Frame } from '../types.ts';
import { useLazyStartQuery } from './startApi.ts';
import { startNames, startWords } from './startWords.ts';

const amount = number('Amount', '%', 0, 150, 100, 1, 0);
interface Begun {
  start: Start;
  from: Groundwork;
  share: number;
  parts: readonly StartPart[];
  gesture: string;
}
let begun = 0;

/** A start proposed by Dyepot as ordinary groundwork: taken at once, then more or less of it and part by part; one undo takes all back. */
export function StartPanel({
  frame,
  ground,
  set,
}: {
  frame: Frame;
  ground: Groundwork;
  set: (words: string, gesture: string, change: Partial<Groundwork>) => void;
}): React.JSX.Element {
  const [ask, { isFetching }] = useLazyStartQuery(),
    [open, setOpen] = useState<Begun | null>(null),
    last = useRef<Groundwork | null>(null);
  const take = (b: Begun): void => {
    const next = withStart(b.from, b.start, b.parts, b.share, frame.profile);
    last.current = next;
    setOpen(b);
    set(`Start for me, ${Math.round(b.share * 100)} %`, b.gesture, next);
  };
  const begin = async (): Promise<void> => {
    try {
      const start = await ask({ id: frame.id, stamp: frame.groundStamp }).unwrap();
      take({ start, from: ground, share: 1, parts: startParts.filter((p) => startWords(start, p) !== null), gesture: `start-${++begun}` });
    } catch (e) {
      complain(messageOf(e));
    }
  };
  // what was done by other hands since is not to be written over by the amount
  const moved = open !== null && last.current !== null && JSON.stringify(last.current) !== JSON.stringify(ground);
  if (!open || moved)
    return (
      <div className="start-panel">
        <Button
          size="xs"
          variant="outline"
          loading={isFetching}
          title="Light, exposure, zones, ends and angle, as Dyepot would begin"
          onClick={() => void begin()}
        >
          Start for me
        </Button>
      </div>
    );
  return (
    <section className="start-panel open" aria-label="Start for me">
      <h3>Start for me</h3>
      <NumberControl parameter={amount} value={Math.round(open.share * 100)} onChange={(v) => take({ ...open, share: v / 100 })} />
      <div className="start-parts">
        {startParts.map((part) => {
          const words = startWords(open.start, part);
          return (
            <label key={part} className="inline" title={words ?? 'Nothing to be done'}>
              <input
                type="checkbox"
                disabled={words === null}
                checked={open.parts.includes(part)}
                onChange={(e) => take({ ...open, parts: e.target.checked ? [...open.parts, part] : open.parts.filter((p) => p !== part) })}
              />
              {startNames[part]} <small>{words ?? (part === 'upright' ? 'upright already, or nothing says' : 'as it is')}</small>
            </label>
          );
        })}
      </div>
      <button type="button" className="text-button" onClick={() => setOpen(null)}>
        Done
      </button>
    </section>
  );
}
