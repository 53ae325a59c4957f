import { straightFrom, type Repair, type Speck } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '../../api.ts';
import { complain, tell } from '../../kit/notices.tsx';
import { timeLeft } from '../../kit/timeLeft.ts';
import type { Frame } from '../../types.ts';
import { useDustMutation, useRepairSourceMutation } from './repairApi.ts';
import type { RepairHand } from './useRepairs.ts';

/** The least a speck stands out by for it to be sent at all; the threshold lies above. */
export const leastAsked = 2;
const mostSpecks = 400;
/** Specks of dust in a frame as they are gone through. */
export interface DustHand {
  /** those proposed: not refused, not healed, and standing out enough; null where nobody looks for any */
  proposed: readonly Speck[] | null;
  current: Speck | null;
  threshold: number;
  setThreshold: (least: number) => void;
  /** the picture made to show dust is laid over the frame, which is shown as it lies */
  pictured: boolean;
  setPictured: (on: boolean) => void;
  /** what is under way, in words */
  says: string | null;
  find: () => Promise<void>;
  leave: () => void;
  /** heals the speck that is pointed at */
  take: () => Promise<void>;
  refuse: () => void;
  go: (way: 1 | -1) => void;
  takeAll: () => Promise<void>;
  stop: () => void;
}
const keyOf = (s: Speck): string => `${s.x.toFixed(5)} ${s.y.toFixed(5)}`;
const mended = (s: Speck, repairs: readonly Repair[], { width, height }: Frame): boolean =>
  repairs.some(
    ({ shape }) =>
      shape.kind === 'spot' &&
      Math.hypot((shape.x - s.x) * width, (shape.y - s.y) * height) < Math.max(s.radius, shape.radius) * 0.7 * Math.max(width, height),
  );

export function useDust(frame: Frame, hand: RepairHand): DustHand {
  const [ask] = useDustMutation(),
    [seek] = useRepairSourceMutation(),
    [found, setFound] = useState<{ id: number; specks: readonly Speck[] } | null>(null),
    [refused, setRefused] = useState<ReadonlySet<string>>(new Set()),
    [threshold, setThreshold] = useState(5),
    [pictured, setPictured] = useState(false),
    [says, setSays] = useState<string | null>(null),
    [at, setAt] = useState(0),
    stopped = useRef(false);
  useEffect(() => {
    setFound(null);
    setRefused(new Set());
    setPictured(false);
    setAt(0);
    stopped.current = true;
  }, [frame.id]);
  const proposed =
      found?.id === frame.id
        ? found.specks.filter((s) => s.sure >= threshold && !refused.has(keyOf(s)) && !mended(s, hand.repairs, frame)).slice(0, mostSpecks)
        : null,
    index = proposed ? Math.min(at, proposed.length - 1) : -1,
    current = proposed?.[index] ?? null;
  const repairOf = async (s: Speck): Promise<Repair | null> => {
    const shape = { kind: 'spot' as const, x: s.x, y: s.y, radius: Math.min(0.25, s.radius * 1.25), feather: 0.35 };
    try {
      const { dx, dy } = await seek({ id: frame.id, shape, kind: 'heal', nth: 0 }).unwrap();
      return { id: `dust-${Math.round(s.x * 1e5)}-${Math.round(s.y * 1e5)}`, kind: 'heal', on: true, shape, source: straightFrom(dx, dy) };
    } catch (e) {
      // one that nothing near it could cover is left
      if ((e as { status?: unknown }).status === 422) return null;
      throw e;
    }
  };
  const refuse = (s: Speck): void => setRefused((all) => new Set(all).add(keyOf(s)));
  return {
    proposed,
    current,
    threshold,
    setThreshold,
    pictured,
    setPictured,
    says,
    async find() {
      setSays('Looking for dust');
      try {
        const { specks } = await ask({ id: frame.id, least: leastAsked }).unwrap();
        // as one reads: in rows from the top
        const rows = [...specks].sort((a, b) => Math.floor(a.y * 12) - Math.floor(b.y * 12) || a.x - b.x);
        setFound({ id: frame.id, specks: rows });
        setAt(0);
        hand.select(null);
      } catch (e) {
        complain(messageOf(e));
      } finally {
        setSays(null);
      }
    },
    leave() {
      stopped.current = true;
      setFound(null);
      setPictured(false);
    },
    async take() {
      if (!current || says) return;
      setSays('Healing');
      try {
        const made = await repairOf(current);
        if (made) hand.put((now) => [...now, made], 'Dust, 1 speck');
        else {
          refuse(current);
          tell('Nothing near it could cover this speck; it is left');
        }
      } catch (e) {
        complain(messageOf(e));
      } finally {
        setSays(null);
      }
    },
    refuse() {
      if (current) refuse(current);
    },
    go: (way) => setAt(proposed && proposed.length > 0 ? (index + way + proposed.length) % proposed.length : 0),
    async takeAll() {
      if (!proposed || says) return;
      stopped.current = false;
      const made: Repair[] = [],
        since = performance.now();
      try {
        for (const [i, s] of proposed.entries()) {
          const left = i > 3 ? ` · ${timeLeft(Math.round(((performance.now() - since) / 1000 / i) * (proposed.length - i)))}` : '';
          setSays(`Healing speck ${i + 1} of ${proposed.length}${left}`);
          const repair = await repairOf(s);
          if (stopped.current) break;
          if (repair) made.push(repair);
        }
      } catch (e) {
        complain(messageOf(e));
      }
      setSays(null);
      if (made.length === 0) return;
      const words = `${made.length} ${made.length === 1 ? 'speck' : 'specks'}`;
      hand.put((now) => [...now, ...made], `Dust, ${words}`);
      tell(`${words} healed; Undo takes all of them back`);
    },
    stop() {
      stopped.current = true;
    },
  };
}
