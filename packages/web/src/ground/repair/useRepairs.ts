import type { Repair, RepairKind, Shape, Source } from '@dyepot/core';
import { nanoid } from '@reduxjs/toolkit';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '../../api.ts';
import { mendFrame } from '../../house/mendFrame.ts';
import { complain, tell } from '../../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../../saving/index.ts';
import type { Attempt, Send } from '../../saving/saver.ts';
import { useAppDispatch } from '../../store.ts';
import type { Frame } from '../../types.ts';
import { moved } from './drawn.ts';
import { documentOf, repairApi, useRepairSourceMutation } from './repairApi.ts';
import { askOnce } from '../../kit/askOnce.ts';

export type Brush = { kind: RepairKind; draws: 'spot' | 'outline'; radius: number; feather: number };
type List = readonly Repair[];
const nothing: List = [];
const wordsFor: Record<RepairKind, string> = { heal: 'Heal', clone: 'Clone', fill: 'Fill' };
/** The repairs of a frame as the hand has them, kept as they are made. */
export interface RepairHand {
  repairs: List;
  selected: Repair | null;
  select: (id: string | null) => void;
  brush: Brush;
  setBrush: (change: Partial<Brush>) => void;
  /** a shape is laid on the picture: its source is looked for where none is given, and it is done */
  add: (shape: Shape, source?: Source) => Promise<void>;
  /** another like it, a little beside it */
  copy: (id: string) => void;
  change: (id: string, how: (r: Repair) => Repair, words: string, gesture: string) => void;
  /** the next best source */
  again: (id: string) => Promise<void>;
  take: (id: string) => void;
  put: (next: List | ((now: List) => List), words: string) => void;
  undo: () => void;
  redo: () => void;
  last: string | null;
  next: string | null;
  /** the picture is shown without repairs */
  off: boolean;
  setOff: (off: boolean) => void;
  /** repairs are being done; what is under way can be stopped, and is taken back then */
  working: boolean;
  stop: () => void;
}
interface Edit {
  words: string;
  gesture: string;
  before: List;
  after: List;
}

/** What was done to a frame's repairs here, and what it led to. */
interface History {
  past: readonly Edit[];
  future: readonly Edit[];
  stands: string;
}
const noHistory: History = { past: [], future: [], stands: '' };
/** What was done to each frame outlives the screen, until its repairs are changed elsewhere. */
const histories = new Map<number, History>();
/** The newest list known of each frame: an answer may come when another frame is open. */
const latest = new Map<number, List>();
/** What is not kept yet of each frame, over the version it was made of, and the newest version this window made: both outlive the screen. */
const book = new Map<number, { list: List; version: number }>(),
  versions = new Map<number, number>();

export function useRepairs(frame: Frame): RepairHand {
  const dispatch = useAppDispatch(),
    [seek] = useRepairSourceMutation(),
    [ahead, setAhead] = useState<{ id: number; list: List } | null>(null),
    [, setTurn] = useState(0),
    [working, setWorking] = useState<number | null>(null),
    running = useRef<{ id: number; sent: List; stopped: boolean } | null>(null),
    [selectedId, select] = useState<string | null>(null),
    [off, setOff] = useState(false),
    [brush, setBrushed] = useState<Brush>({ kind: 'heal', draws: 'spot', radius: 0.012, feather: 0.4 }),
    tries = useRef(new Map<string, number>()),
    known = useRef<{ id: number; version: number; list: List } | null>(null);
  // a shoot's list says only how many repairs there are; they are asked for with the frame, and known until they change
  const complete = frame.repairs.length === frame.repairCount;
  if (complete) known.current = { id: frame.id, version: frame.repairVersion, list: frame.repairs };
  const there = known.current?.id === frame.id && known.current.version === frame.repairVersion ? known.current.list : null,
    // what was kept here stands until the frame says so too: that comes a moment later
    own =
      ahead?.id === frame.id && (book.has(frame.id) || frame.repairVersion < (versions.get(frame.id) ?? 0))
        ? ahead.list
        : book.get(frame.id)?.list,
    repairs = own ?? there ?? nothing,
    now = useRef({ frame, repairs });
  now.current = { frame, repairs };
  if (own ?? there) latest.set(frame.id, repairs);
  const listOf = (): List => latest.get(frame.id) ?? repairs,
    historyOf = (): History => histories.get(frame.id) ?? noHistory,
    { past, future, stands } = historyOf(),
    remember = (id: number, before: readonly Edit[], after: readonly Edit[], list: List): void => {
      histories.set(id, { past: before.slice(-200), future: after, stands: JSON.stringify(list) });
      setTurn((n) => n + 1);
    };
  // changed elsewhere since: what was done here led to something else
  if (stands !== '' && there && !own && JSON.stringify(there) !== stands) histories.delete(frame.id);
  useEffect(() => {
    if (there) return;
    let wanted = true;
    void askOnce(dispatch(repairApi.endpoints.frame.initiate(frame.id, { forceRefetch: true })))
      .then((whole) => {
        if (wanted) mendFrame(dispatch, whole);
      })
      .catch((e: unknown) => {
        if (wanted) complain(messageOf(e));
      });
    return () => {
      wanted = false;
    };
  }, [there === null, frame.id, frame.repairVersion]);
  useEffect(() => {
    select(null);
    setOff(false);
  }, [frame.id]);
  const lay = (list: List, atOnce = true): void => {
    if (!there && ahead?.id !== frame.id && !book.has(frame.id)) {
      tell('The repairs of this frame are still on their way');
      return;
    }
    const { id } = frame,
      version = Math.max(frame.repairVersion, versions.get(id) ?? 0),
      under = book.get(id);
    if (now.current.frame.id === id) {
      setAhead({ id, list });
      now.current.repairs = list;
    }
    latest.set(id, list);
    book.set(id, { list, version: under?.version ?? version });
    // each frame's repairs are kept, whichever frame is open by then
    const keep = async (): Promise<Attempt> => {
      const entry = book.get(id);
      if (!entry) return 'done';
      const sent = entry.list;
      const call = dispatch(
          repairApi.endpoints.saveRepairs.initiate({ id, repairs: sent, version: Math.max(entry.version, versions.get(id) ?? 0) }),
        ),
        mine = { id, sent, stopped: false };
      running.current = mine;
      setWorking(id);
      try {
        const saved = await call.unwrap();
        versions.set(id, saved.repairVersion);
        if (book.get(id)?.list === sent) book.delete(id);
        mendFrame(dispatch, saved);
        return 'done';
      } catch (error) {
        // what is sent next is as it was before
        if (mine.stopped) return 'done';
        const attempt = attemptOf(error),
          elsewhere = (error as { data?: { now?: Frame } }).data?.now;
        if (attempt === 'refused') {
          const own = book.get(id)!.list;
          book.delete(id);
          complain(elsewhere ? `${messageOf(error)} and are shown as they stand there; Redo has yours again` : messageOf(error));
          if (elsewhere) {
            versions.set(id, elsewhere.repairVersion);
            latest.set(id, elsewhere.repairs);
            mendFrame(dispatch, elsewhere);
            remember(id, [], [{ words: 'what was made here', gesture: '', before: elsewhere.repairs, after: own }], elsewhere.repairs);
          }
          setAhead((x) => (x?.id === id ? null : x));
        }
        return attempt;
      } finally {
        if (running.current === mine) {
          running.current = null;
          setWorking(null);
        }
      }
    };
    const send: Send = keep;
    send.leaving = () => {
      const entry = book.get(id);
      return entry ? sendLeaving(`/api/frames/${id}/repairs`, 'PUT', { repairs: documentOf(entry.list), version: entry.version }) : true;
    };
    saver.put(`repairs-${id}`, send, atOnce ? 0 : undefined);
  };
  const edit = (after: List, words: string, gesture: string): void => {
    const before = listOf(),
      { past } = historyOf(),
      last = past.at(-1);
    remember(
      frame.id,
      last && gesture !== '' && last.gesture === gesture
        ? [...past.slice(0, -1), { ...last, after }]
        : [...past, { words, gesture, before, after }],
      [],
      after,
    );
    // a drag is kept when the hand rests
    lay(after, gesture === '');
  };
  const sourceOf = async (shape: Shape, kind: RepairKind, nth: number): Promise<Repair['source'] | undefined> => {
    if (kind === 'fill') return null;
    try {
      const { dx, dy } = await seek({ id: frame.id, shape, kind, nth }).unwrap();
      return { dx, dy, turn: 0, mirror: false, scale: 1 };
    } catch (e) {
      complain(messageOf(e));
      return undefined;
    }
  };
  return {
    repairs,
    selected: repairs.find((r) => r.id === selectedId) ?? null,
    select,
    brush,
    setBrush: (change) => setBrushed((b) => ({ ...b, ...change })),
    off,
    setOff,
    working: working === frame.id,
    stop() {
      const run = running.current,
        { past, future } = historyOf(),
        // what is being done, and what came on top of it since
        made = past.findIndex((e) => e.after === run?.sent),
        from = made < 0 ? past.length - 1 : made,
        first = past[from];
      if (!run || run.id !== frame.id || run.stopped || !first) return;
      run.stopped = true;
      void dispatch(repairApi.endpoints.stopRepairs.initiate(frame.id));
      remember(frame.id, past.slice(0, from), [...future, ...past.slice(from).reverse()], first.before);
      lay(first.before);
      tell(`${first.words} stopped`);
    },
    async add(shape, given) {
      const source = given && brush.kind !== 'fill' ? given : await sourceOf(shape, brush.kind, 0);
      if (source === undefined) return;
      const made: Repair = { id: nanoid(8), kind: brush.kind, on: true, shape, source };
      edit([...listOf(), made], wordsFor[made.kind], '');
      // another frame may be open by now; it is this one's all the same
      if (now.current.frame.id === frame.id) select(made.id);
    },
    change: (id, how, words, gesture) =>
      edit(
        listOf().map((r) => (r.id === id ? how(r) : r)),
        words,
        gesture && `${id}-${gesture}`,
      ),
    async again(id) {
      const r = listOf().find((x) => x.id === id);
      if (!r?.source) return;
      const nth = (tries.current.get(id) ?? 0) + 1;
      tries.current.set(id, nth % 12);
      const source = await sourceOf(r.shape, r.kind, nth % 12);
      if (source)
        edit(
          listOf().map((x) => (x.id === id ? { ...x, source: { ...x.source!, ...source } } : x)),
          'Another source',
          '',
        );
    },
    copy(id) {
      const r = listOf().find((x) => x.id === id);
      if (!r) return;
      const by = r.shape.kind === 'outline' ? 0.03 : Math.max(0.01, 2.4 * r.shape.radius),
        made = { ...r, id: nanoid(8), shape: moved(r.shape, by, 0) };
      edit([...listOf(), made], 'Copy', '');
      select(made.id);
    },
    take(id) {
      edit(
        listOf().filter((r) => r.id !== id),
        'Take out',
        '',
      );
      tell('Repair taken out');
    },
    put: (next, words) => edit(typeof next === 'function' ? next(listOf()) : next, words, ''),
    last: past.at(-1)?.words ?? null,
    next: future.at(-1)?.words ?? null,
    undo() {
      const { past, future } = historyOf(),
        e = past.at(-1);
      if (!e) return;
      remember(frame.id, past.slice(0, -1), [...future, e], e.before);
      lay(e.before);
    },
    redo() {
      const { past, future } = historyOf(),
        e = future.at(-1);
      if (!e) return;
      remember(frame.id, [...past, e], future.slice(0, -1), e.after);
      lay(e.after);
    },
  };
}
