import { number, startParts, withStart, type Groundwork, type StartPart } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '../api.ts';
import { usePutGroundworksMutation } from '../evenness/evennessApi.ts';
import { startNames, useLazyStartQuery } from '../ground/start.ts';
import { complain, tell } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { timeLeft } from '../kit/timeLeft.ts';
import { saver } from '../saving/index.ts';
import type { Frame, Shoot } from '../types.ts';

const amount = number('Amount', '%', 0, 150, 100, 1, 0);

/** Begins the groundwork of several frames: each is looked at by itself, all is written at once, and taken back at once. */
export function StartSheet({ shoot, frames, onClose }: { shoot: Shoot; frames: readonly Frame[]; onClose: () => void }): React.JSX.Element {
  const [ask] = useLazyStartQuery(),
    [put] = usePutGroundworksMutation(),
    [parts, setParts] = useState<ReadonlySet<StartPart>>(new Set(startParts)),
    [share, setShare] = useState(100),
    [done, setDone] = useState<{ frames: number; left: string } | null>(null),
    stopped = useRef(false),
    there = frames.filter((f) => !f.missing),
    names = there.length === 1 ? there[0]!.name : `${there.length} frames`;
  useEffect(
    () => () => {
      stopped.current = true;
    },
    [],
  );
  const begin = async (): Promise<void> => {
    stopped.current = false;
    const wanted: { id: number; groundwork: Groundwork; version: number }[] = [],
      since = performance.now();
    try {
      await saver.flush();
      for (const [i, f] of there.entries()) {
        const each = (performance.now() - since) / 1000 / Math.max(1, i);
        setDone({ frames: i, left: i > 1 ? timeLeft(Math.round(each * (there.length - i))) : '' });
        const start = await ask({ id: f.id, stamp: f.groundStamp }).unwrap();
        if (stopped.current) return;
        wanted.push({ id: f.id, groundwork: withStart(f.groundwork, start, [...parts], share / 100, f.profile), version: f.groundVersion });
      }
      const { was } = await put({ id: shoot.id, frames: wanted }).unwrap();
      tell(`Groundwork begun on ${names}`, () =>
        put({ id: shoot.id, frames: was })
          .unwrap()
          .then(() => {})
          .catch((e: unknown) => complain(messageOf(e))),
      );
      onClose();
    } catch (e) {
      complain(messageOf(e));
      setDone(null);
    }
  };
  return (
    <Sheet title={`Start ${names} for me`} onClose={onClose}>
      <p className="hint">
        Each frame is looked at by itself. What comes of it is ordinary groundwork, which can be changed part by part; one Undo takes all of
        it back.
      </p>
      <div className="start-parts">
        {startParts.map((p) => (
          <label key={p} className="inline">
            <input
              type="checkbox"
              checked={parts.has(p)}
              onChange={(e) => {
                const next = new Set(parts);
                if (e.target.checked) next.add(p);
                else next.delete(p);
                setParts(next);
              }}
            />
            {startNames[p]}
          </label>
        ))}
      </div>
      <NumberControl parameter={amount} value={share} onChange={setShare} />
      {done && (
        <p className="hint" role="status">
          {done.frames} of {there.length} looked at {done.left && `· ${done.left}`}
        </p>
      )}
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          {done ? 'Stop' : 'Cancel'}
        </Button>
        <Button
          size="sm"
          colorPalette="dye"
          disabled={parts.size === 0 || there.length === 0}
          loading={done !== null}
          onClick={() => void begin()}
        >
          Start {names}
        </Button>
      </div>
    </Sheet>
  );
}
