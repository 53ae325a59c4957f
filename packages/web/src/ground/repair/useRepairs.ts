import type { Repair, RepairKind, Shape } from '@dyepot/core';
import { nanoid } from '@reduxjs/toolkit';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '../../api.ts';
import { mendFrame } from '../../house/mending.ts';
import { complain, tell } from '../../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../../saving/index.ts';
import type { Attempt, Send } from '../../saving/saver.ts';
import { useAppDispatch } from '../../store.ts';
import type { Frame } from '../../types.ts';
import { documentOf, repairApi, useRepairSourceMutation } from './repairApi.ts';

export type Brush = { kind: RepairKind; draws: 'spot' | 'outline'; radius: number; feather: number };
type List = readonly Repair[];
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
    repairs = ahead?.id === frame.id ? ahead.list : frame.repairs,
    now = useRef({ frame, repairs });
  now.current = { frame, repairs };
  useEffect(() => {
    setPast([]);
    setFuture([]);
    select(null);
    setOff(false);
  }, [frame.id]);
  const lay = (list: List): void => {
    const { id } = frame;
    setAhead({ id, list });
    now.current.repairs = list;
    const keep = async (): Promise<Attempt> => {
      try {
        const { repairs: sent, frame: f } = now.current;
        if (f.id !== id) return 'done';
        const saved = await dispatch(repairApi.endpoints.saveRepairs.initiate({ id, repairs: sent, version: f.repairVersion })).unwrap();
        mendFrame(dispatch, saved);
        setAhead((a) => (a?.id === id && a.list === sent ? null : a));
        return 'done';
      } catch (error) {
        const attempt = attemptOf(error);
        const elsewhere = (error as { data?: { now?: Frame } }).data?.now;
        if (elsewhere) mendFrame(dispatch, elsewhere);
        if (attempt === 'refused') {
          complain(messageOf(error));
          setAhead(null);
        }
        return attempt;
      }
    };
    const send: Send = keep;
    send.leaving = () =>
      sendLeaving(`/api/frames/${id}/repairs`, 'PUT', {
        repairs: documentOf(now.current.repairs),
        version: now.current.frame.repairVersion,
      });
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
      if (source === undefined || now.current.frame.id !== frame.id) return;
      const made: Repair = { id: nanoid(8), kind: brush.kind, on: true, shape, source };
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
