import { emptyLook } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, messageOf } from '../api.ts';
import { saver } from '../saving/index.ts';
import { store, useAppDispatch, useAppSelector } from '../store.ts';
import type { Draft, ShelfLook } from '../types.ts';
import { act, type Edit } from './benchSlice.ts';
import { rememberedBench } from './remembered.ts';
import { mostKept } from './keepDraft.ts';
import { askOnce } from '../kit/askOnce.ts';

/** A look asked for at a revision while a draft of another one is under way. */
export interface Choice {
  draft: Draft;
  asked: ShelfLook;
}
export type Opening =
  { state: 'opening' } | { state: 'open' } | { state: 'choosing'; choice: Choice } | { state: 'failed'; message: string };

const number = (text: string | null): number | null => (text !== null && /^\d+$/.test(text) ? Number(text) : null);

/** The address of the bench as it stands: reload and Back come to the same look on the same frame. */
function addressOf(search: URLSearchParams): URLSearchParams {
  const { lookId, revision, draft, leadId, shootId } = store.getState().bench,
    next = new URLSearchParams();
  if (shootId !== null) next.set('shoot', String(shootId));
  if (leadId !== null) next.set('frame', String(leadId));
  if (draft) next.set('draft', String(draft.id));
  else if (lookId !== null) {
    next.set('look', String(lookId));
    if (revision !== null) next.set('revision', String(revision));
  } else next.set('look', 'new');
  return next.toString() === search.toString() ? search : next;
}

const openDraft = (d: Draft): void => {
  const { lookId, revision, look, id, version } = d;
  const trimmed = d.past.length === mostKept;
  store.dispatch(
    act.lookOpened({ lookId, revision, look, draft: { id, version }, past: d.past as Edit[], future: d.future as Edit[], trimmed }),
  );
};
const openLook = ({ id, revision, document }: ShelfLook): void => {
  store.dispatch(act.lookOpened({ lookId: id, revision, look: document }));
};
const once = { forceRefetch: true } as const;
const draftAt = (id: number): Promise<Draft> => askOnce(store.dispatch(api.endpoints.draft.initiate(id, once)));
const lookAt = (id: number, revision: number | null): Promise<ShelfLook> =>
  askOnce(store.dispatch(api.endpoints.look.initiate({ id, revision }, once)));

/** Lays on the bench what an address asks for. A look's draft is offered before its revision. */
async function lay(asked: { look: string | null; revision: number | null; draft: number | null }): Promise<Opening> {
  const { bench } = store.getState();
  if (asked.draft !== null) {
    if (bench.draft?.id !== asked.draft || bench.opening === '') openDraft(await draftAt(asked.draft));
    return { state: 'open' };
  }
  if (asked.look === 'new') {
    store.dispatch(act.lookOpened({ lookId: null, revision: null, look: emptyLook('New look') }));
    return { state: 'open' };
  }
  const id = number(asked.look);
  if (id === null) return { state: 'failed', message: 'this address names no look' };
  const draft = await askOnce(store.dispatch(api.endpoints.draftOfLook.initiate(id, once)));
  if (!draft) {
    openLook(await lookAt(id, asked.revision));
    return { state: 'open' };
  }
  if (asked.revision === null || draft.revision === asked.revision) {
    openDraft(draft);
    return { state: 'open' };
  }
  return { state: 'choosing', choice: { draft, asked: await lookAt(id, asked.revision) } };
}

/**
 * Opens what the address asks for (`shoot`, `frame`, and `look` with `revision`, or `draft`, and a `step` of it); without any of these the bench as it
 * was left. Afterwards the address follows the bench.
 */
export function useOpening(): { opening: Opening; choose: (which: 'draft' | 'asked') => void } {
  const dispatch = useAppDispatch(),
    [search, setSearch] = useSearchParams(),
    [opening, setOpening] = useState<Opening>({ state: 'opening' }),
    [askedNow, setAsked] = useState<string | null>(null);
  const shown = useAppSelector((s) => [s.bench.shootId, s.bench.leadId, s.bench.lookId, s.bench.revision, s.bench.draft?.id].join());
  const address = search.toString(),
    // addresses written here that have not been seen yet: the bench may have moved on before one arrives, which then asks for nothing
    written = useRef<string[]>([]);
  const follow = (next: URLSearchParams): void => {
    if (next === search) return;
    written.current.push(next.toString());
    setSearch(next, { replace: true });
  };
  useEffect(() => {
    const ours = written.current.indexOf(address);
    written.current = ours < 0 ? [] : written.current.slice(ours + 1);
    if (ours >= 0 || (askedNow !== null && address === addressOf(search).toString())) return;
    let wanted = true;
    const kept = rememberedBench(),
      shoot = number(search.get('shoot')),
      frame = number(search.get('frame')),
      asksLook = search.has('look') || search.has('draft');
    const asked = asksLook
      ? { look: search.get('look'), revision: number(search.get('revision')), draft: number(search.get('draft')) }
      : {
          look: kept.lookId ? String(kept.lookId) : 'new',
          revision: kept.draftId ? null : (kept.revision ?? null),
          draft: kept.draftId ?? null,
        };
    setOpening({ state: 'opening' });
    void (async () => {
      // what is on the bench is kept before something else is laid there
      await saver.flush();
      if (!wanted) return;
      if (shoot !== null) dispatch(act.shootOpened({ shootId: shoot, leadId: frame }));
      const same = !asksLook && store.getState().bench.opening !== '';
      const result = same
        ? ({ state: 'open' } as const)
        : await lay(asked).catch(async (error: unknown): Promise<Opening> => {
            if (asksLook) return { state: 'failed', message: messageOf(error) };
            // what was there last time is gone: begin anew
            return lay({ look: 'new', revision: null, draft: null });
          });
      if (!wanted) return;
      if (search.get('side') === 'frame') dispatch(act.sideChosen('frame'));
      const step = search.get('step');
      if (step !== null && result.state === 'open') dispatch(act.stepSelected(step));
      setOpening(result);
      setAsked(address);
      if (result.state === 'open') follow(addressOf(search));
    })();
    return () => {
      wanted = false;
    };
    // the address alone asks; what is shown follows it
  }, [address]);
  useEffect(() => {
    if (opening.state !== 'open') return;
    follow(addressOf(search));
  }, [shown, opening.state]);
  return {
    opening,
    choose: (which) => {
      if (opening.state !== 'choosing') return;
      const { draft, asked } = opening.choice;
      if (which === 'draft') openDraft(draft);
      else {
        void store.dispatch(api.endpoints.takeOutDraft.initiate(draft.id));
        openLook(asked);
      }
      setOpening({ state: 'open' });
    },
  };
}
