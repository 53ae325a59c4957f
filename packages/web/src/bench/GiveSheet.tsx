import { isFrameBound, laneOf, skeinOf, type LookStep, type Mask, type OwnSteps } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { nanoid } from '@reduxjs/toolkit';
import { useState } from 'react';
import { messageOf, useShootQuery } from '../api.ts';
import { Sheet } from '../kit/Sheet.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { saver } from '../saving/index.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import { act, docOf } from './benchSlice.ts';
import { carrierOf } from './ownChain.ts';
import { ownApi } from './ownApi.ts';

/** Gives a step of the lead’s own to other frames of the shoot, as one of their own. */
export function GiveSheet({ step, onClose }: { step: LookStep; onClose: () => void }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    { shootId, leadId } = useAppSelector((s) => s.bench),
    { data: shoot } = useShootQuery(shootId ?? 0, { skip: shootId === null }),
    lead = shoot?.frames.find((f) => f.id === leadId),
    others = shoot?.frames.filter((f) => f.id !== leadId) ?? [],
    [chosen, setChosen] = useState<ReadonlySet<number> | null>(null),
    [withBound, setWithBound] = useState(false),
    [busy, setBusy] = useState(false);
  const { look } = docOf(useAppSelector((s) => s.bench)),
    skein = skeinOf(look, step),
    picked = chosen ?? new Set(others.filter((f) => f.light === lead?.light).map((f) => f.id)),
    parts = [step.mask, skein?.mask ?? null].flatMap((m) => m?.parts ?? []),
    bound = parts.filter(isFrameBound),
    // a place of nothing else would be nowhere without them
    only = [step.mask, skein?.mask ?? null].some((m) => m !== null && m.parts.every(isFrameBound));
  const carried = (mask: Mask | null): Mask | null =>
    mask && { ...mask, parts: mask.parts.filter((p) => withBound || only || !isFrameBound(p)) };
  const save = (id: number, own: OwnSteps | null, version: number): Promise<Frame> =>
    dispatch(ownApi.endpoints.saveSteps.initiate({ id, steps: own && { format: 'dyepot-local', version: 1, ...own }, version })).unwrap();
  const give = async (): Promise<void> => {
    const lane = laneOf(look, step.id);
    if (lane !== 'scene' && lane !== 'print') return;
    setBusy(true);
    const given: { saved: Frame; was: OwnSteps | null }[] = [];
    const words = (): string => `Given to ${given.length} ${given.length === 1 ? 'frame' : 'frames'}`;
    const undo = (): void =>
      void Promise.all(given.map(({ saved, was }) => save(saved.id, was, saved.stepsVersion))).catch((e: unknown) =>
        complain(messageOf(e)),
      );
    try {
      await saver.flush();
      for (const frame of others.filter((f) => picked.has(f.id))) {
        const was = frame.steps,
          { scene, print, skeins, masks } = carrierOf(was),
          id = skein ? nanoid(8) : '',
          own = {
            ...was,
            scene: [...scene],
            print: [...print],
            skeins: skein ? [...skeins, { ...skein, id, mask: carried(skein.mask) }] : skeins,
            masks: [...masks, ...look.masks.filter((m) => !masks.some((n) => n.id === m.id))],
          };
        own[lane].push({ ...step, id: nanoid(8), mask: carried(step.mask), skein: id });
        const saved = await save(frame.id, own, frame.stepsVersion);
        dispatch(act.ownOpened({ frameId: frame.id, steps: saved.steps, version: saved.stepsVersion }));
        given.push({ saved, was });
      }
      tell(words(), undo);
      onClose();
    } catch (e) {
      if (given.length > 0) tell(words(), undo);
      complain(messageOf(e));
      setBusy(false);
    }
  };
  return (
    <Sheet title="Give this step to frames" onClose={onClose}>
      {bound.length > 0 && (
        <label className="inline">
          <input type="checkbox" checked={withBound || only} disabled={only} onChange={(e) => setWithBound(e.target.checked)} /> with what
          was painted or drawn on {lead?.name}: it will lie at the same place of each frame
        </label>
      )}
      <div className="give-list">
        {others.map((f) => (
          <label key={f.id} className="inline">
            <input
              type="checkbox"
              checked={picked.has(f.id)}
              onChange={(e) => {
                const next = new Set(picked);
                if (e.target.checked) next.add(f.id);
                else next.delete(f.id);
                setChosen(next);
              }}
            />{' '}
            {f.name} <small>{f.light}</small>
          </label>
        ))}
      </div>
      <div className="sheet-actions">
        <Button
          size="sm"
          variant="ghost"
          onClick={() => setChosen(picked.size === others.length ? new Set() : new Set(others.map((f) => f.id)))}
        >
          {picked.size === others.length ? 'None' : 'All'}
        </Button>
        <Button size="sm" variant="ghost" onClick={onClose}>
          Cancel
        </Button>
        <Button size="sm" colorPalette="dye" disabled={picked.size === 0 || busy} onClick={() => void give()}>
          Give to {picked.size} {picked.size === 1 ? 'frame' : 'frames'}
        </Button>
      </div>
    </Sheet>
  );
}
