import type { Look } from '@dyepot/core';
import { groundApi } from './ground/groundApi.ts';
import { api } from './api.ts';
import type { store as theStore } from './store.ts';

type Store = typeof theStore;
interface OldBench {
  lookId: number | null;
  revision: number | null;
  edited: boolean;
  look: Look;
}
interface OldDoc {
  past: object[];
  future: object[];
  snapshots: object[];
  probes?: object[];
}
const read = <T>(key: string): T | null => {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as T | null;
  } catch {
    return null;
  }
};

/** Brings what earlier versions kept in this browser to the server, once: the look on the bench as a draft, what was done frame by frame. */
export async function bringOldWorkIn(store: Store): Promise<void> {
  const bench = read<OldBench>('dyepot-bench-1'),
    ground = read<{ docs?: Record<string, OldDoc> }>('dyepot-ground-1');
  try {
    if (bench?.edited && bench.look) {
      const { lookId, revision, look } = bench,
        wish = { lookId, revision, look, past: [], future: [] };
      await store
        .dispatch(api.endpoints.beginDraft.initiate(wish))
        .unwrap()
        // its look is gone, or has a draft already: it is kept as one of its own
        .catch(() => store.dispatch(api.endpoints.beginDraft.initiate({ ...wish, lookId: null, revision: null })).unwrap());
    }
    localStorage.removeItem('dyepot-bench-1');
    for (const [id, { past, future, snapshots, probes = [] }] of Object.entries(ground?.docs ?? {}))
      await store
        .dispatch(groundApi.endpoints.saveHistory.initiate({ id: Number(id), history: { past, future, snapshots, probes } }))
        .unwrap()
        .catch(() => {});
    localStorage.removeItem('dyepot-ground-1');
  } catch {
    /* the server does not answer or refuses it: it is tried again at the next start */
  }
}
