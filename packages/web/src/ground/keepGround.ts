import { plainGroundwork } from '@dyepot/core';
import { groundApi } from './groundApi.ts';
import { mendFrame } from '../house/mendFrame.ts';
import { attemptOf, saver, sendLeaving } from '../saving/index.ts';
import type { Attempt, Send } from '../saving/saver.ts';
import type { store as theStore } from '../store.ts';
import type { Frame } from '../types.ts';
import { groundAct, type Doc, type History } from './groundSlice.ts';
import { askOnce } from '../kit/askOnce.ts';

type Store = typeof theStore;
/** Changes kept with a frame; older ones can be undone only in the window that made them. */
const mostKept = 60;
const plain = JSON.stringify(plainGroundwork);

const historyOf = ({ past, future, snapshots, probes }: Doc): History => ({
  past: past.slice(-mostKept),
  future: future.slice(-mostKept),
  snapshots,
  probes,
});
const documentOf = (doc: Doc): Doc['ground'] | null => (JSON.stringify(doc.ground) === plain ? null : doc.ground);

/** Fetches what the server remembers of a frame, once. */
export async function loadHistory(store: Store, frameId: number): Promise<void> {
  if (store.getState().ground.docs[frameId]?.loaded) return;
  const history = await askOnce(store.dispatch(groundApi.endpoints.groundHistory.initiate(frameId, { forceRefetch: true })));
  store.dispatch(groundAct.historyLoaded({ frameId, history: history as Partial<History> | null }));
}

/** Sends a frame's groundwork, or only what is remembered of it, to be kept. */
async function keep(store: Store, frameId: number): Promise<Attempt> {
  const ask = store.dispatch;
  try {
    await loadHistory(store, frameId);
    const doc = store.getState().ground.docs[frameId];
    if (!doc) return 'done';
    const text = JSON.stringify(doc.ground),
      history = historyOf(doc);
    if (text === doc.known) {
      await ask(groundApi.endpoints.saveHistory.initiate({ id: frameId, history })).unwrap();
      return 'done';
    }
    ask(groundAct.sent({ frameId, text }));
    const frame = await ask(
      groundApi.endpoints.saveGroundwork.initiate({ id: frameId, groundwork: documentOf(doc), version: doc.version, history }),
    ).unwrap();
    ask(groundAct.kept({ frameId, known: text, version: frame.groundVersion }));
    mendFrame(ask, frame);
    return 'done';
  } catch (error) {
    const { status, data } = error as { status?: unknown; data?: { now?: Frame } };
    if (status === 409 && data?.now) {
      const { groundwork, groundVersion } = data.now;
      ask(groundAct.overtaken({ frameId, ground: groundwork, version: groundVersion }));
      return keep(store, frameId);
    }
    return attemptOf(error);
  }
}

/** Sends the same from a page that is being left; what was done goes along where it is small enough. */
function leave(frameId: number, doc: Doc): boolean {
  const body = { groundwork: documentOf(doc), version: doc.version };
  if (!doc.loaded) return sendLeaving(`/api/frames/${frameId}/groundwork`, 'PUT', body);
  const history = historyOf(doc);
  if (JSON.stringify(doc.ground) === doc.known) return sendLeaving(`/api/frames/${frameId}/history`, 'PUT', { history });
  const url = `/api/frames/${frameId}/groundwork`;
  return sendLeaving(url, 'PUT', { ...body, history }) || sendLeaving(url, 'PUT', body);
}

/** Keeps every change of groundwork on the server, whichever page is open. */
export function keepGround(store: Store): void {
  let last = store.getState().ground.docs;
  store.subscribe(() => {
    const now = store.getState().ground.docs,
      before = last;
    last = now;
    if (now === before) return;
    for (const [id, doc] of Object.entries(now)) {
      const frameId = Number(id);
      if (doc.touched === 0 || doc.touched === before[frameId]?.touched) continue;
      const send: Send = () => keep(store, frameId);
      send.leaving = () => leave(frameId, store.getState().ground.docs[frameId]!);
      saver.put(`ground-${frameId}`, send);
    }
  });
}
