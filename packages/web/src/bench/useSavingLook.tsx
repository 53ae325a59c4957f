import { lazy, Suspense, useMemo, useState } from 'react';
import { messageOf, useApplyLookMutation, useCreateLookMutation, useSaveRevisionMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { saver } from '../saving/index.ts';
import { store, useAppDispatch } from '../store.ts';
import type { Shoot } from '../types.ts';
import { act, isEdited } from './benchSlice.ts';
import { draftDone } from './keepDraft.ts';

const NameLook = lazy(() => import('./NameLook.tsx').then((m) => ({ default: m.NameLook })));
const NewerSheet = lazy(() => import('./NewerSheet.tsx').then((m) => ({ default: m.NewerSheet })));

interface Saved {
  id: number;
  revision: number;
}
/** What the bar can do with the look on the bench. */
export interface SavingHand {
  busy: boolean;
  save: () => Promise<Saved | null>;
  saveAs: () => void;
  apply: () => Promise<void>;
}
/** What is asked, and what happens with a look that was saved on it. */
type Asking =
  { what: 'name'; copy: boolean; then: (saved: Saved) => void } | { what: 'newer'; message: string; then: (saved: Saved) => void };

/** Saves the look on the bench and gives it to the shoot, with what has to be asked on the way. */
export function useSavingLook(shoot: Shoot): { hand: SavingHand; sheet: React.ReactNode } {
  const dispatch = useAppDispatch(),
    [createLook, creating] = useCreateLookMutation(),
    [saveRevision, saving] = useSaveRevisionMutation(),
    [applyLook] = useApplyLookMutation(),
    [asking, setAsking] = useState<Asking | null>(null),
    busy = creating.isLoading || saving.isLoading;

  const hand = useMemo<SavingHand & { saveAnyway: (then: (saved: Saved) => void) => Promise<void> }>(() => {
    const save = async (then: (saved: Saved) => void, anyway = false): Promise<Saved | null> => {
      await saver.flush();
      const { lookId, look, draft, revision } = store.getState().bench;
      if (lookId === null) {
        setAsking({ what: 'name', copy: false, then });
        return null;
      }
      try {
        const saved = await saveRevision({ id: lookId, look, from: anyway ? null : revision }).unwrap();
        dispatch(act.revisionSaved({ lookId: saved.id, revision: saved.revision, described: {} }));
        await draftDone(store, draft?.id ?? null);
        tell(`${saved.name} saved as revision ${saved.revision}`);
        return saved;
      } catch (error) {
        if ((error as { status?: unknown }).status === 409) setAsking({ what: 'newer', message: messageOf(error), then });
        else complain(messageOf(error));
        return null;
      }
    };
    const apply = async (at: Saved): Promise<void> => {
      try {
        await applyLook({ shootId: shoot.id, lookId: at.id, revision: at.revision }).unwrap();
        tell(`${shoot.name} now wears ${store.getState().bench.look.name}, revision ${at.revision}`);
      } catch (error) {
        complain(messageOf(error));
      }
    };
    return {
      busy,
      save: () => save(() => {}),
      saveAs: () => setAsking({ what: 'name', copy: true, then: () => {} }),
      saveAnyway: async (then) => {
        setAsking(null);
        const saved = await save(then, true);
        if (saved) then(saved);
      },
      apply: async () => {
        const { bench } = store.getState();
        // an unnamed look is named first, then applied
        const then = (saved: Saved): void => void apply(saved);
        const at = bench.lookId === null || isEdited(bench) ? await save(then) : { id: bench.lookId, revision: bench.revision! };
        if (at) await apply(at);
      },
    };
  }, [busy, dispatch, saveRevision, applyLook, shoot.id, shoot.name]);

  const create = async (name: string, family: string, notes: string): Promise<void> => {
    const then = asking?.then;
    await saver.flush();
    const { look, draft } = store.getState().bench,
      described = { name, family, notes };
    try {
      const saved = await createLook({ ...look, ...described }).unwrap();
      dispatch(act.revisionSaved({ lookId: saved.id, revision: saved.revision, described }));
      await draftDone(store, draft?.id ?? null);
      setAsking(null);
      tell(`${name} is on the shelf`);
      then?.(saved);
    } catch (error) {
      complain(messageOf(error));
    }
  };
  const { look } = store.getState().bench;
  const sheet =
    asking?.what === 'name' ? (
      <NameLook
        look={look}
        title={asking.copy ? 'Save as another look' : 'Put this look on the shelf'}
        onClose={() => setAsking(null)}
        onSave={(name, family, notes) => void create(name, family, notes)}
      />
    ) : asking?.what === 'newer' ? (
      <NewerSheet
        message={asking.message}
        onClose={() => setAsking(null)}
        onRevision={() => void hand.saveAnyway(asking.then)}
        onOther={() => setAsking({ what: 'name', copy: true, then: asking.then })}
      />
    ) : null;
  return { hand, sheet: sheet && <Suspense>{sheet}</Suspense> };
}
