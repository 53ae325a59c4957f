import type { ReadoutKind } from '@dyepot/core';
import type { ViewState } from '../view/layout.ts';
import { freshBench, freshView, type BenchState } from './benchSlice.ts';

const key = 'dyepot-bench-2';
/** What this browser remembers of the bench: where one was and how it looked, never the look itself. */
interface Remembered {
  shootId: number | null;
  leadId: number | null;
  lookId: number | null;
  revision: number | null;
  draftId: number | null;
  witnessIds: number[] | null;
  surround: ViewState['surround'];
  readout: ReadoutKind;
  before: BenchState['before'];
  showPlace: BenchState['showPlace'];
  placeTint: string;
}
export function rememberedBench(): Partial<Remembered> {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? '{}') ?? {}) as Partial<Remembered>;
  } catch {
    return {};
  }
}
/** The bench with what is remembered of its looks. */
export function loadBench(): BenchState {
  const { surround, readout, before, shootId, leadId, witnessIds, showPlace, placeTint } = rememberedBench();
  return {
    ...freshBench,
    shootId: shootId ?? null,
    leadId: leadId ?? null,
    witnessIds: witnessIds ?? null,
    view: { ...freshView, surround: surround ?? 'mid' },
    readout: readout ?? 'histogram',
    before: before ?? 'ground',
    showPlace: showPlace ?? freshBench.showPlace,
    placeTint: placeTint ?? freshBench.placeTint,
  };
}
export function saveBench(s: BenchState): void {
  const { shootId, leadId, lookId, revision, witnessIds, readout, before, showPlace, placeTint } = s,
    kept: Remembered = {
      shootId,
      leadId,
      lookId,
      revision,
      draftId: s.draft?.id ?? null,
      witnessIds,
      surround: s.view.surround,
      readout,
      before,
      showPlace,
      placeTint,
    };
  try {
    localStorage.setItem(key, JSON.stringify(kept));
  } catch {
    /* storage may be refused; only where one was is forgotten then */
  }
}
