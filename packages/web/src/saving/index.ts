import { useSyncExternalStore } from 'react';
import { leanText } from './keptDocuments.ts';
import { openSaver, type Attempt, type Saver, type SaveState } from './saver.ts';

const queue = openSaver();
let looking = false;
/** Nothing is kept of what is tried by someone who may only look. */
export const keepNothing = (now: boolean): void => {
  looking = now;
};
/** The pages' one queue of things to keep. */
export const saver: Saver = {
  ...queue,
  put(...wish) {
    if (!looking) queue.put(...wish);
  },
};
// how the work stands is read off the page by what drives it from outside
const show = (): void => {
  document.documentElement.dataset['saving'] = saver.state();
};
saver.follow(show);
show();
export const useSaveState = (): SaveState => useSyncExternalStore(saver.follow, saver.state);

/** What an answer means for the queue: no answer, a server in trouble or a full disk are met by trying again. */
export function attemptOf(error: unknown): Attempt {
  const { status } = (error ?? {}) as { status?: unknown };
  if (status === 'FETCH_ERROR' || status === 'TIMEOUT_ERROR') return 'again';
  // whoever was logged out logs in again; 403 of one who may only look is for good
  const later = [401, 408, 429];
  return typeof status === 'number' && status < 500 && !later.includes(status) ? 'refused' : 'again';
}

/** Sends a small request that outlives the page. False where it is too large for that (64 KB, Fetch standard). */
export function sendLeaving(url: string, method: 'POST' | 'PUT', body: object): boolean {
  const text = leanText(body);
  if (text.length > 60_000) return false;
  void fetch(url, { method, body: text, headers: { 'Content-Type': 'application/json' }, keepalive: true }).catch(() => {});
  return true;
}

// what can still be sent is sent; where something would be lost the browser asks
window.addEventListener('beforeunload', (e) => {
  if (saver.state() === 'kept' || saver.leave()) return;
  void saver.flush();
  e.preventDefault();
});
