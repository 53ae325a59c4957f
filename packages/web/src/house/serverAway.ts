import { useSyncExternalStore } from 'react';

let away = false;
const listeners = new Set<() => void>();

/** Notes whether the server answered just now. */
export function serverAnswered(answered: boolean): void {
  if (away === !answered) return;
  away = !answered;
  for (const l of listeners) l();
}
export const isServerAway = (): boolean => away;
/** Whether the server does not answer. */
export const useServerAway = (): boolean =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, isServerAway);
