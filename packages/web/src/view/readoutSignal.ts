import type { Readouts } from '@dyepot/core';
import { useState, useSyncExternalStore } from 'react';

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
