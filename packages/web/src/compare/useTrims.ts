import type { OwnSteps } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { api, messageOf } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../saving/index.ts';
import type { Attempt, Send } from '../saving/saver.ts';
import { store } from '../store.ts';
import type { Frame } from '../types.ts';
import { bodyOf, compareApi, type Owned } from './compareApi.ts';

type Own = OwnSteps | null;
interface Edit {
  gesture: string;
  words: string;
  /** when it was made, so that one undo can be of this or of something else */
  at: number;
  before: ReadonlyMap<number, Own>;
  after: ReadonlyMap<number, Own>;
}
/** What the hand made of frames' own steps: seen at once, kept when it rests, taken back gesture by gesture. */
export interface Trims {
  stepsOf: (frame: Frame) => Own;
  change: (frames: readonly Frame[], how: (own: Own, frame: Frame) => Own, words: string, gesture: string) => void;
  undo: () => void;
  redo: () => void;
  /** what would be taken back, in words, and when it was done (ms) */
  last: string | null;
  lastAt: number;
  next: string | null;
}

/**
 * What is not kept yet, by frame, over the version it was made of: it outlives the screen, and what another window does meanwhile is
 * not written over. And the newest versions this window made.
 */
const book = new Map<number, Owned>(),
  versions = new Map<number, number>(),
  watchers = new Set<(refused: ReadonlyMap<number, Own> | null) => void>();

async function keep(shootId: number): Promise<Attempt> {
  const sent = [...book.values()].map((o) => ({ ...o, version: Math.max(o.version, versions.get(o.id) ?? 0) }));
  if (sent.length === 0) return 'done';
  try {
    const { was } = await store.dispatch(compareApi.endpoints.saveManySteps.initiate(sent)).unwrap();
    for (const { id, version } of was) versions.set(id, version);
    // the frames are known to be so before the server's news says it
    store.dispatch(
      api.util.updateQueryData('shoot', shootId, (shoot) => {
        for (const { id, steps } of sent) {
          const frame = (shoot.frames as Frame[]).find((f) => f.id === id);
          if (frame) Object.assign(frame, { steps, stepsVersion: versions.get(id) });
        }
      }),
    );
    for (const { id, steps } of sent) if (book.get(id)?.steps === steps) book.delete(id);
    for (const tell of watchers) tell(null);
    return 'done';
  } catch (error) {
    const attempt = attemptOf(error);
    if (attempt !== 'refused') return attempt;
    const mine = new Map(sent.map(({ id }) => [id, book.get(id)!.steps]));
    book.clear();
    complain(`${messageOf(error)}; Redo has what was made here again`);
    store.dispatch(api.util.invalidateTags([{ type: 'Shoot', id: shootId }]));
    for (const tell of watchers) tell(mine);
    return attempt;
  }
}

export function useTrims(frames: readonly Frame[]): Trims {
  const [, setDrawn] = useState(0),
    [past, setPast] = useState<readonly Edit[]>([]),
    [future, setFuture] = useState<readonly Edit[]>([]),
    now = useRef(frames);
  now.current = frames;
  const stepsOf = (f: Frame): Own => (book.has(f.id) ? book.get(f.id)!.steps : f.steps);
  useEffect(() => {
    const hear = (refused: ReadonlyMap<number, Own> | null): void => {
      setDrawn((n) => n + 1);
      if (!refused) return;
      // what another window made stands; what was made here is one Redo away
      setPast([]);
      setFuture([{ gesture: '', words: 'what was made here', at: 0, before: new Map(), after: refused }]);
    };
    watchers.add(hear);
    return () => {
      watchers.delete(hear);
      void saver.flush();
    };
  }, []);
  const lay = (map: ReadonlyMap<number, Own>): void => {
    const shootId = now.current[0]!.shootId;
    for (const [id, steps] of map) {
      const frame = now.current.find((f) => f.id === id);
      if (frame) book.set(id, { id, steps, version: book.get(id)?.version ?? frame.stepsVersion });
    }
    setDrawn((n) => n + 1);
    const send: Send = () => keep(shootId);
    send.leaving = () => sendLeaving('/api/frames/steps', 'PUT', bodyOf([...book.values()]));
    saver.put('trims', send);
  };
  return {
    stepsOf,
    last: past.at(-1)?.words ?? null,
    lastAt: past.at(-1)?.at ?? 0,
    next: future.at(-1)?.words ?? null,
    change(of, how, words, gesture) {
      const before = new Map(of.map((f) => [f.id, stepsOf(f)])),
        after = new Map(of.map((f) => [f.id, how(stepsOf(f), f)])),
        at = performance.now(),
        last = past.at(-1);
      setPast(
        last && gesture !== '' && last.gesture === gesture
          ? [...past.slice(0, -1), { ...last, at, after: new Map([...last.after, ...after]) }]
          : [...past.slice(-199), { gesture, words, at, before, after }],
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
      setPast([...past, { ...edit, at: performance.now() }]);
      lay(edit.after);
    },
  };
}
