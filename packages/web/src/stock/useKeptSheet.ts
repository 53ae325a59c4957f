import { useEffect } from 'react';
import { tell } from '../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../saving/index.ts';
import type { Attempt, Send } from '../saving/saver.ts';
import { store, useAppSelector } from '../store.ts';
import type { DraftedSheet } from '../types.ts';
import { stockApi } from './stockApi.ts';
import { stockAct, type StockState } from './stockSlice.ts';

/** Edits kept with a draft; older ones can be undone only in the window that made them. */
const most = 40;
/** The newest version known of each draft: what is still to be kept may belong to a sheet that is no longer in hand. */
const versions = new Map<string, number>();
type Kept = Pick<StockState, 'from' | 'sheet' | 'past' | 'future' | 'use'>;
const bodyOf = ({ from, sheet, past, future, use }: Kept): DraftedSheet => ({
  version: versions.get(from) ?? 0,
  sheet,
  past: past.slice(-most),
  future: future.slice(-most),
  use,
});

/** Changed in another window: what is here goes on the Shelf beside it, so that neither is written over. */
async function part({ from, sheet }: Kept): Promise<Attempt> {
  const name = `${sheet.name.slice(0, 64)}, other window`,
    made = await store.dispatch(stockApi.endpoints.createStock.initiate({ ...sheet, name })).unwrap();
  if (store.getState().stock.from === from) store.dispatch(stockAct.saved(made));
  tell(`${sheet.name} was changed in another window. What you have here is on the Shelf as ${name}.`);
  return 'done';
}
async function keep(wish: Kept): Promise<Attempt> {
  const { from } = wish;
  try {
    const kept = await store.dispatch(stockApi.endpoints.keepDraftedSheet.initiate({ from, ...bodyOf(wish) })).unwrap();
    versions.set(from, kept.version);
    store.dispatch(stockAct.kept({ from, version: kept.version }));
    return 'done';
  } catch (error) {
    const { status } = error as { status?: unknown };
    if (status === 409) return part(wish).catch((e: unknown) => attemptOf(e));
    const attempt = attemptOf(error);
    if (attempt === 'refused') tell('This sheet cannot be kept as it is: undo the last step.');
    return attempt;
  }
}

/** Ends what was under way: it stands elsewhere now. What is still to be kept of it goes first, so that it does not come after. */
export async function endKept(from: string): Promise<void> {
  if (!(await saver.flush())) return;
  versions.delete(from);
  await store.dispatch(stockApi.endpoints.endDraftedSheet.initiate(from));
}
/** Keeps every change of the sheet in the designer on the server. */
export function useKeptSheet(): void {
  const { sheet, base, from, version, past, future, use, baseUse } = useAppSelector((s) => s.stock);
  useEffect(() => {
    versions.set(from, version);
  }, [from, version]);
  useEffect(() => {
    if (from === '' || (sheet === base && use === baseUse && version === 0)) return;
    // by value: another stock may be in hand when it is sent
    const wish: Kept = { from, sheet, past, future, use },
      send: Send = () => keep(wish);
    send.leaving = () => sendLeaving(`/api/stocks/draft?from=${encodeURIComponent(from)}`, 'PUT', bodyOf(wish));
    saver.put(`stock-${from}`, send);
    // the version follows from keeping, and is no reason to keep again
  }, [sheet, base, use, baseUse, from]);
}
