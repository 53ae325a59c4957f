import { useEffect } from 'react';
import { tell } from '../kit/notices.tsx';
import { attemptOf, saver, sendLeaving } from '../saving/index.ts';
import type { Attempt, Send } from '../saving/saver.ts';
import { store, useAppSelector } from '../store.ts';
import { stockApi } from './stockApi.ts';
import { stockAct } from './stockSlice.ts';

/** Edits kept with a draft; older ones can be undone only in the window that made them. */
const most = 40;
const wish = (): { from: string; version: number; sheet: object; past: object[]; future: object[] } => {
  const { from, version, sheet, past, future } = store.getState().stock;
  return { from, version, sheet, past: past.slice(-most), future: future.slice(-most) };
};

async function keep(from: string): Promise<Attempt> {
  const s = store.getState().stock;
  if (s.from !== from) return 'done';
  try {
    const kept = await store.dispatch(stockApi.endpoints.keepDraftedSheet.initiate(wish() as never)).unwrap();
    store.dispatch(stockAct.kept({ from, version: kept.version }));
    return 'done';
  } catch (error) {
    if ((error as { status?: unknown }).status === 409) {
      const there = await store.dispatch(stockApi.endpoints.draftedSheet.initiate(from, { subscribe: false, forceRefetch: true })).unwrap();
      store.dispatch(stockAct.kept({ from, version: there?.version ?? 0 }));
      tell('This sheet is open in another window too. What is here is kept in place of what was kept there.');
      return 'again';
    }
    const attempt = attemptOf(error);
    if (attempt === 'refused') tell('This sheet cannot be kept as it is: undo the last step.');
    return attempt;
  }
}

/** Keeps every change of the sheet in the designer on the server. */
export function useKeptSheet(): void {
  const { sheet, base, from, version } = useAppSelector((s) => s.stock);
  useEffect(() => {
    if (from === '' || (sheet === base && version === 0)) return;
    const send: Send = () => keep(from);
    send.leaving = () => {
      const { from: of, ...body } = wish();
      return sendLeaving(`/api/stocks/draft?from=${encodeURIComponent(of)}`, 'PUT', body);
    };
    saver.put(`stock-${from}`, send);
    // the version follows from keeping, and is no reason to keep again
  }, [sheet, base, from]);
}
