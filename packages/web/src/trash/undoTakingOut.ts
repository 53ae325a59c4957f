import { api, messageOf } from '../api.ts';
import { complain, tell, type Undo } from '../kit/notices.tsx';
import { store } from '../store.ts';
import type { TrashKind } from '../types.ts';

/** Puts back what was just taken out, from the notice that says so. */
export const undoTakingOut =
  (kind: TrashKind, ids: readonly number[]): Undo =>
  async () => {
    try {
      for (const id of ids) await store.dispatch(api.endpoints.putBack.initiate({ kind, id })).unwrap();
      tell(ids.length === 1 ? 'Put back' : `${ids.length} put back`);
    } catch (error) {
      complain(messageOf(error));
    }
  };
