import { isFrameBound, laneOf, type LookStep } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { nanoid } from '@reduxjs/toolkit';
import { useState } from 'react';
import { messageOf, useShootQuery } from '../api.ts';
import { Sheet } from '../kit/Sheet.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { saver } from '../saving/index.ts';
import { store, useAppDispatch, useAppSelector } from '../store.ts';
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
  const picked = chosen ?? new Set(others.filter((f) => f.light === lead?.light).map((f) => f.id)),
    bound = step.mask?.parts.filter(isFrameBound) ?? [],
    only = bound.length > 0 && bound.length === step.mask!.parts.length;
  const give = async (): Promise<void> => {
    const lane = laneOf(docOf(store.getState().bench).look, step.id);
    if (lane !== 'scene' && lane !== 'print') return;
    const masks = docOf(store.getState().bench).look.masks,
      mask = step.mask && { ...step.mask, parts: step.mask.parts.filter((p) => withBound || only || !isFrameBound(p)) };
    setBusy(true);
    let given = 0;
    try {
      await saver.flush();
      for (const frame of others.filter((f) => picked.has(f.id))) {
        const { scene, print, skeins, masks: named } = carrierOf(frame.steps),
          own = {
            scene: [...scene],
            print: [...print],
            skeins,
            masks: [...named, ...masks.filter((m) => !named.some((n) => n.id === m.id))],
          };
        own[lane].push({ ...step, id: nanoid(8), mask, skein: '' });
        const saved: Frame = await dispatch(
          ownApi.endpoints.saveSteps.initiate({
            id: frame.id,
            steps: { format: 'dyepot-local', version: 1, ...own },
            version: frame.stepsVersion,
          }),
        ).unwrap();
        dispatch(act.ownOpened({ frameId: frame.id, steps: saved.steps, version: saved.stepsVersion }));
        given++;
      }
      tell(`Given to ${given} ${given === 1 ? 'frame' : 'frames'}`);
      onClose();
    } catch (e) {
      complain(`Given to ${given}; then: ${messageOf(e)}`);
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
