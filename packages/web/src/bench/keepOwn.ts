import { isNothing } from '@dyepot/core';
import { attemptOf, saver, sendLeaving } from '../saving/index.ts';
import type { Attempt, Send } from '../saving/saver.ts';
import type { store as theStore } from '../store.ts';
import { tell } from '../kit/notices.tsx';
import type { Frame } from '../types.ts';
import { act } from './benchSlice.ts';
import { ownApi } from './ownApi.ts';
import type { OwnDoc } from './benchState.ts';
import { stepsIn } from './ownChain.ts';

type Store = typeof theStore;
const bodyOf = (doc: OwnDoc): { steps: object | null; version: number } => {
  const own = stepsIn(doc.look);
  return { steps: isNothing(own) ? null : { format: 'dyepot-local', version: 1, ...own }, version: doc.version };
};
async function keep(store: Store, frameId: number): Promise<Attempt> {
  const doc = store.getState().bench.owns[frameId];
  if (!doc || doc.look === doc.kept) return 'done';
  try {
    const frame = await store.dispatch(ownApi.endpoints.saveSteps.initiate({ id: frameId, ...bodyOf(doc) })).unwrap();
    store.dispatch(act.ownKept({ frameId, version: frame.stepsVersion, kept: doc.look }));
    return 'done';
  } catch (error) {
    const { status, data } = error as { status?: unknown; data?: { now?: Frame } };
    if (status === 409 && data?.now) {
      // what the other window made takes its place; what was here is one Undo away
      store.dispatch(act.ownKept({ frameId, version: doc.version, kept: store.getState().bench.owns[frameId]!.look }));
      store.dispatch(act.ownOpened({ frameId, steps: data.now.steps, version: data.now.stepsVersion }));
      tell(`The steps of ${data.now.name} were changed in another window and are shown as they stand there; Undo has yours again.`);
      return 'done';
    }
    const attempt = attemptOf(error);
    if (attempt === 'refused') tell('The steps of this frame cannot be kept as they are; undo the last one.');
    return attempt;
  }
}
/** Keeps every change of frames’ own steps on the server. */
export function keepOwnSteps(store: Store): void {
  let last = store.getState().bench.owns;
  store.subscribe(() => {
    const now = store.getState().bench.owns,
      before = last;
    last = now;
    if (now === before) return;
    for (const [id, doc] of Object.entries(now)) {
      const frameId = Number(id);
      if (doc.look === before[frameId]?.look || doc.look === doc.kept) continue;
      const send: Send = () => keep(store, frameId);
      send.leaving = () => {
        const newest = store.getState().bench.owns[frameId];
        return newest ? sendLeaving(`/api/frames/${frameId}/steps`, 'PUT', bodyOf(newest)) : true;
      };
      saver.put(`own-${frameId}`, send);
    }
  });
}
