import { useSyncExternalStore } from 'react';
import { openSaver, type Attempt, type SaveState } from './saver.ts';

/** The pages' one queue of things to keep. */
export const saver = openSaver();
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
  return typeof status === 'number' && status < 500 && status !== 408 && status !== 429 ? 'refused' : 'again';
}

/** Sends a small request that outlives the page. False where it is too large for that (64 KB, Fetch standard). */
export function sendLeaving(url: string, method: 'POST' | 'PUT', body: object): boolean {
  const text = JSON.stringify(body);
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
