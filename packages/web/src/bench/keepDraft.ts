import { api } from '../api.ts';
import type { DraftWish } from '../types.ts';
import { tell } from '../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../saving/index.ts';
import type { Attempt, Send } from '../saving/saver.ts';
import type { store as theStore } from '../store.ts';
import { act, isEdited, type BenchState } from './benchSlice.ts';

type Store = typeof theStore;
/** Edits kept with a draft; older ones can be undone only in the window that made them. */
export const mostKept = 200;

const wishOf = ({ lookId, revision, look, past, future }: BenchState): DraftWish => ({
  lookId,
  revision,
  look,
  past: past.slice(-mostKept),
  future: future.slice(-mostKept),
});

/** Sends the look on the bench to be kept as its draft: begins one, saves the one there is, or parts from one another window saved. */
async function keep(store: Store, opening: string): Promise<Attempt> {
  const bench = store.getState().bench;
  if (bench.opening !== opening || (!isEdited(bench) && !bench.draft)) return 'done';
  try {
    if (!isEdited(bench) && bench.draft && bench.lookId !== null) {
      // undone to its revision: there is nothing of its own left to keep
      await store.dispatch(api.endpoints.endDraft.initiate(bench.draft.id)).unwrap();
      store.dispatch(act.draftEnded());
      return 'done';
    }
    const wish = wishOf(bench);
    const draft = bench.draft
      ? await store.dispatch(api.endpoints.saveDraft.initiate({ ...bench.draft, ...wish })).unwrap()
      : await store.dispatch(api.endpoints.beginDraft.initiate(wish)).unwrap();
    store.dispatch(act.draftKept({ id: draft.id, version: draft.version, opening }));
    return 'done';
  } catch (error) {
    const { status } = error as { status?: unknown };
    // changed, or taken out, in another window: what is here goes on beside it
    if (status === 409 || (status === 404 && (bench.draft !== null || bench.lookId !== null))) {
      if (store.getState().bench.opening !== opening) return 'done';
      store.dispatch(act.draftParted());
      tell(`${bench.look.name} was changed in another window. What you have here is kept beside it, as a draft of its own.`);
      return keep(store, opening);
    }
    const attempt = attemptOf(error);
    if (attempt === 'refused') tell('This look cannot be kept as a draft as it is; save it or undo the last step.');
    return attempt;
  }
}

/** Keeps every change of the look on the bench as a draft on the server. */
export function keepDrafts(store: Store): void {
  let last = store.getState().bench;
  store.subscribe(() => {
    const now = store.getState().bench,
      before = last;
    last = now;
    if (now.look === before.look && now.past === before.past && now.future === before.future) return;
    if (now.opening !== before.opening || (!isEdited(now) && !now.draft)) return;
    const { opening } = now,
      send: Send = () => keep(store, opening);
    send.leaving = () => {
      const bench = store.getState().bench,
        { draft } = bench;
      return draft
        ? sendLeaving(`/api/drafts/${draft.id}`, 'PUT', { ...wishOf(bench), version: draft.version })
        : sendLeaving('/api/drafts', 'POST', wishOf(bench));
    };
    saver.put(`draft-${opening}`, send);
  });
}

/** Ends the draft of the look on the bench, which is a revision now. */
export async function draftDone(store: Store, id: number | null): Promise<void> {
  if (id !== null)
    await store
      .dispatch(api.endpoints.endDraft.initiate(id))
      .unwrap()
      .catch(() => {});
}
