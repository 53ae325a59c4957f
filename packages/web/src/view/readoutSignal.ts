import type { Readouts } from '@dyepot/core';
import { useEffect, useState, useSyncExternalStore } from 'react';

/** The readouts of the picture on screen. They change with every move of the hand, so only what draws them is drawn anew. */
export class ReadoutSignal {
  private readonly listeners = new Set<() => void>();
  value: Readouts | null = null;
  readonly set = (value: Readouts | null): void => {
    this.value = value;
    for (const tell of this.listeners) tell();
  };
  readonly subscribe = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => this.listeners.delete(tell);
  };
}
export const useReadoutSignal = (): ReadoutSignal => useState(() => new ReadoutSignal())[0];
export const useReadouts = (signal: ReadoutSignal): Readouts | null => useSyncExternalStore(signal.subscribe, () => signal.value);

/** The same, a few times a second at most: for what stands behind a control that is being moved. */
export function useCalmReadouts(signal: ReadoutSignal, everyMs = 200): Readouts | null {
  const [value, setValue] = useState(signal.value);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = (): void => {
      timer = undefined;
      setValue(signal.value);
    };
    const stop = signal.subscribe(() => {
      timer ??= setTimeout(show, everyMs);
    });
    show();
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [signal, everyMs]);
  return value;
}
