import type { OwnSteps } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { api, messageOf } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../saving/index.ts';
import type { Attempt, Send } from '../saving/saver.ts';
import { useAppDispatch } from '../store.ts';
import type { Frame } from '../types.ts';
import { compareApi, type Owned } from './compareApi.ts';

type Own = OwnSteps | null;
interface Edit {
  gesture: string;
  words: string;
  before: ReadonlyMap<number, Own>;
  after: ReadonlyMap<number, Own>;
}
/** What the hand made of frames' own steps: seen at once, kept when it rests, taken back gesture by gesture. */
export interface Trims {
  stepsOf: (frame: Frame) => Own;
  change: (frames: readonly Frame[], how: (own: Own, frame: Frame) => Own, words: string, gesture: string) => void;
  undo: () => void;
  redo: () => void;
  /** what would be taken back, in words */
  last: string | null;
  next: string | null;
}

export function useTrims(frames: readonly Frame[]): Trims {
  const dispatch = useAppDispatch(),
    [ahead, setAhead] = useState<ReadonlyMap<number, Own>>(new Map()),
    [past, setPast] = useState<readonly Edit[]>([]),
    [future, setFuture] = useState<readonly Edit[]>([]),
    now = useRef({ frames, ahead, versions: new Map<number, number>() });
  now.current.frames = frames;
  const stepsOf = (f: Frame): Own => (ahead.has(f.id) ? ahead.get(f.id)! : f.steps);
  const owned = (): Owned[] =>
    now.current.frames.flatMap((f) =>
      now.current.ahead.has(f.id)
        ? [{ id: f.id, steps: now.current.ahead.get(f.id)!, version: Math.max(f.stepsVersion, now.current.versions.get(f.id) ?? 0) }]
        : [],
    );
  const keep = async (): Promise<Attempt> => {
    const sent = owned();
    if (sent.length === 0) return 'done';
    try {
      const { was } = await dispatch(compareApi.endpoints.saveManySteps.initiate(sent)).unwrap();
      // the frames are known to be so before the server's news says it
      mend(sent, was);
      return 'done';
    } catch (error) {
      const attempt = attemptOf(error);
      if (attempt === 'refused') {
        complain(messageOf(error));
        put(new Map());
        setPast([]);
        setFuture([]);
      }
      return attempt;
    }
  };
  const mend = (sent: readonly Owned[], was: readonly { id: number; version: number }[]): void => {
    for (const { id, version } of was) now.current.versions.set(id, version);
    dispatch(
      api.util.updateQueryData('shoot', now.current.frames[0]!.shootId, (shoot) => {
        for (const { id, steps } of sent) {
          const frame = (shoot.frames as Frame[]).find((f) => f.id === id);
          if (frame) Object.assign(frame, { steps, stepsVersion: now.current.versions.get(id) });
        }
      }),
    );
    const left = new Map(now.current.ahead);
    for (const { id, steps } of sent) if (left.get(id) === steps) left.delete(id);
    put(left);
  };
  const put = (next: ReadonlyMap<number, Own>): void => {
    now.current.ahead = next;
    setAhead(next);
  };
  const lay = (map: ReadonlyMap<number, Own>): void => {
    put(new Map([...now.current.ahead, ...map]));
    const send: Send = keep;
    send.leaving = () =>
      sendLeaving('/api/frames/steps', 'PUT', {
        frames: owned().map((o) => ({ ...o, steps: o.steps && { format: 'dyepot-local', version: 1, ...o.steps } })),
      });
    saver.put('trims', send);
  };
  // what is not kept yet is kept before the screen goes
  useEffect(() => () => void saver.flush(), []);
  return {
    stepsOf,
    last: past.at(-1)?.words ?? null,
    next: future.at(-1)?.words ?? null,
    change(of, how, words, gesture) {
      const current = (f: Frame): Own => (now.current.ahead.has(f.id) ? now.current.ahead.get(f.id)! : f.steps),
        before = new Map(of.map((f) => [f.id, current(f)])),
        after = new Map(of.map((f) => [f.id, how(current(f), f)])),
        last = past.at(-1);
      setPast(
        last && gesture !== '' && last.gesture === gesture
          ? [...past.slice(0, -1), { ...last, after: new Map([...last.after, ...after]) }]
          : [...past.slice(-199), { gesture, words, before, after }],
      );
      setFuture([]);
      lay(after);
    },
    undo() {
      const edit = past.at(-1);
      if (!edit) return;
      setPast(past.slice(0, -1));
      setFuture([...future, edit]);
      lay(edit.before);
    },
    redo() {
      const edit = future.at(-1);
      if (!edit) return;
      setFuture(future.slice(0, -1));
      setPast([...past, edit]);
      lay(edit.after);
    },
  };
}
