import { useSyncExternalStore } from 'react';

let closed = false,
  wasIn = false;
const listeners = new Set<() => void>();

/** Notes whether the server asked to log in. */
export function doorIsClosed(now: boolean): void {
  if (closed === now) return;
  closed = now;
  for (const l of listeners) l();
}
/** Notes that somebody is in; whether somebody was. */
export const cameIn = (): void => {
  wasIn = true;
};
export const wasAnybodyIn = (): boolean => wasIn;
/** Whether one has to log in (again); what is open on the page stays as it is meanwhile. */
export const useDoorClosed = (): boolean =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => closed,
  );
