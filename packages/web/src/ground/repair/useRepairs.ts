import type { Repair, RepairKind, Shape } from '@dyepot/core';
import { nanoid } from '@reduxjs/toolkit';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '../../api.ts';
import { mendFrame } from '../../house/mendFrame.ts';
import { complain, tell } from '../../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../../saving/index.ts';
import type { Attempt, Send } from '../../saving/saver.ts';
import { useAppDispatch } from '../../store.ts';
import type { Frame } from '../../types.ts';
import { documentOf, repairApi, useRepairSourceMutation } from './repairApi.ts';
import { askOnce } from '../../kit/askOnce.ts';

export type Brush = { kind: RepairKind; draws: 'spot' | 'outline'; radius: number; feather: number };
type List = readonly Repair[];
const nothing: List = [];
/** The repairs of a frame as the hand has them, kept as they are made. */
export interface RepairHand {
  repairs: List;
  selected: Repair | null;
  select: (id: string | null) => void;
  brush: Brush;
  setBrush: (change: Partial<Brush>) => void;
  /** a shape is laid on the picture: its source is looked for, and it is done */
  add: (shape: Shape) => Promise<void>;
  change: (id: string, how: (r: Repair) => Repair, words: string, gesture: string) => void;
  /** the next best source */
  again: (id: string) => Promise<void>;
  take: (id: string) => void;
  put: (next: List, words: string) => void;
  undo: () => void;
  redo: () => void;
  last: string | null;
  next: string | null;
  /** the picture is shown without repairs */
  off: boolean;
  setOff: (off: boolean) => void;
}
interface Edit {
  words: string;
  gesture: string;
  before: List;
  after: List;
}

/** What is not kept yet of each frame, over the version it was made of, and the newest version this window made: both outlive the screen. */
const book = new Map<number, { list: List; version: number }>(),
  versions = new Map<number, number>();

export function useRepairs(frame: Frame): RepairHand {
  const dispatch = useAppDispatch(),
    [seek] = useRepairSourceMutation(),
    [ahead, setAhead] = useState<{ id: number; list: List } | null>(null),
    [past, setPast] = useState<readonly Edit[]>([]),
    [future, setFuture] = useState<readonly Edit[]>([]),
    [selectedId, select] = useState<string | null>(null),
    [off, setOff] = useState(false),
    [brush, setBrushed] = useState<Brush>({ kind: 'heal', draws: 'spot', radius: 0.012, feather: 0.4 }),
    tries = useRef(new Map<string, number>()),
    known = useRef<{ id: number; version: number; list: List } | null>(null);
  // a shoot's list says only how many repairs there are; they are asked for with the frame, and known until they change
  const complete = frame.repairs.length === frame.repairCount;
  if (complete) known.current = { id: frame.id, version: frame.repairVersion, list: frame.repairs };
  const there = known.current?.id === frame.id && known.current.version === frame.repairVersion ? known.current.list : null,
    repairs = (ahead?.id === frame.id ? ahead.list : book.get(frame.id)?.list) ?? there ?? nothing,
    now = useRef({ frame, repairs });
  now.current = { frame, repairs };
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
    setPast([]);
    setFuture([]);
    select(null);
    setOff(false);
  }, [frame.id]);
  const lay = (list: List): void => {
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
    book.set(id, { list, version: under?.version ?? version });
    // each frame's repairs are kept, whichever frame is open by then
    const keep = async (): Promise<Attempt> => {
      const entry = book.get(id);
      if (!entry) return 'done';
      const sent = entry.list,
        over = (): void => setAhead((x) => (x?.id === id && x.list === sent ? null : x));
      try {
        const saved = await dispatch(
          repairApi.endpoints.saveRepairs.initiate({ id, repairs: sent, version: Math.max(entry.version, versions.get(id) ?? 0) }),
        ).unwrap();
        versions.set(id, saved.repairVersion);
        if (book.get(id)?.list === sent) book.delete(id);
        mendFrame(dispatch, saved);
        over();
        return 'done';
      } catch (error) {
        const attempt = attemptOf(error),
          elsewhere = (error as { data?: { now?: Frame } }).data?.now;
        if (attempt === 'refused') {
          const mine = book.get(id)!.list;
          book.delete(id);
          complain(elsewhere ? `${messageOf(error)} and are shown as they stand there; Redo has yours again` : messageOf(error));
          if (elsewhere) {
            versions.set(id, elsewhere.repairVersion);
            mendFrame(dispatch, elsewhere);
            if (now.current.frame.id === id) {
              setPast([]);
              setFuture([{ words: 'what was made here', gesture: '', before: elsewhere.repairs, after: mine }]);
            }
          }
          setAhead((x) => (x?.id === id ? null : x));
        }
        return attempt;
      }
    };
    const send: Send = keep;
    send.leaving = () => {
      const entry = book.get(id);
      return entry ? sendLeaving(`/api/frames/${id}/repairs`, 'PUT', { repairs: documentOf(entry.list), version: entry.version }) : true;
    };
    saver.put(`repairs-${id}`, send);
  };
  const edit = (after: List, words: string, gesture: string): void => {
    const before = now.current.repairs,
      last = past.at(-1);
    setPast(
      last && gesture !== '' && last.gesture === gesture
        ? [...past.slice(0, -1), { ...last, after }]
        : [...past.slice(-199), { words, gesture, before, after }],
    );
    setFuture([]);
    lay(after);
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
    async add(shape) {
      const source = await sourceOf(shape, brush.kind, 0);
      if (source === undefined) return;
      const made: Repair = { id: nanoid(8), kind: brush.kind, on: true, shape, source };
      // another frame may be open by now; it is this one's all the same
      if (now.current.frame.id !== frame.id) {
        lay([...(book.get(frame.id)?.list ?? repairs), made]);
        return;
      }
      edit([...now.current.repairs, made], { heal: 'Heal', clone: 'Clone', fill: 'Fill' }[brush.kind], '');
      select(made.id);
    },
    change: (id, how, words, gesture) =>
      edit(
        now.current.repairs.map((r) => (r.id === id ? how(r) : r)),
        words,
        gesture && `${id}-${gesture}`,
      ),
    async again(id) {
      const r = now.current.repairs.find((x) => x.id === id);
      if (!r?.source) return;
      const nth = (tries.current.get(id) ?? 0) + 1;
      tries.current.set(id, nth % 12);
      const source = await sourceOf(r.shape, r.kind, nth % 12);
      if (source)
        edit(
          now.current.repairs.map((x) => (x.id === id ? { ...x, source: { ...x.source!, ...source } } : x)),
          'Another source',
          '',
        );
    },
    take(id) {
      edit(
        now.current.repairs.filter((r) => r.id !== id),
        'Take out',
        '',
      );
      tell('Repair taken out');
    },
    put: (list, words) => edit(list, words, ''),
    last: past.at(-1)?.words ?? null,
    next: future.at(-1)?.words ?? null,
    undo() {
      const e = past.at(-1);
      if (!e) return;
      setPast(past.slice(0, -1));
      setFuture([...future, e]);
      lay(e.before);
    },
    redo() {
      const e = future.at(-1);
      if (!e) return;
      setFuture(future.slice(0, -1));
      setPast([...past, e]);
      lay(e.after);
    },
  };
}
