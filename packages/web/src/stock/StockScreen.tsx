import { sheetOf, stocks } from '@dyepot/core';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { messageOf, useShootQuery, useShootsQuery } from '../api.ts';
import { tell } from '../kit/notices.tsx';
import { QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import { store, useAppSelector } from '../store.ts';
import { loadFilm } from '../view/withFilm.ts';
import { stockApi } from './stockApi.ts';
import { Designer } from './Designer.tsx';
import { plainUse, stockAct, type SheetEdit, type StockState, type Use } from './stockSlice.ts';
import { askOnce } from '../kit/askOnce.ts';

type Opened = Pick<StockState, 'from' | 'stockId' | 'revision' | 'newest' | 'base' | 'baseUse'>;
/** What the address asks for: a stock of the shelf, the look on the bench, or one that comes with Dyepot. */
async function found(asked: URLSearchParams): Promise<Opened> {
  const id = Number(asked.get('stock')),
    revision = Number(asked.get('revision')) || undefined;
  if (id > 0) {
    const s = await askOnce(store.dispatch(stockApi.endpoints.stock.initiate({ id, revision }, { forceRefetch: true })));
    return {
      from: `stock:${id}${s.revision < s.newest ? `@${s.revision}` : ''}`,
      stockId: id,
      revision: s.revision,
      newest: s.newest,
      base: s.sheet,
      baseUse: plainUse,
    };
  }
  const { params } = store.getState().bench.look.stock,
    worn = asked.has('look') ? sheetOf(params) : null;
  if (worn) {
    const use = Object.fromEntries(Object.keys(plainUse).map((k) => [k, (params[k] as number | undefined) ?? 0])) as unknown as Use;
    const { draft, lookId } = store.getState().bench,
      from = `look:${draft?.id ?? lookId ?? 'new'}:${worn.name}`.slice(0, 110);
    return { from, stockId: null, revision: null, newest: null, base: worn, baseUse: use };
  }
  const name = asked.get('name'),
    shipped = stocks.find((s) => s.name === name) ?? stocks[0]!;
  return { from: `name:${shipped.name}`, stockId: null, revision: null, newest: null, base: shipped, baseUse: plainUse };
}

/** The stock designer: a film by its data sheet. */
export default function StockScreen(): React.JSX.Element {
  const [asked] = useSearchParams(),
    address = asked.toString(),
    [state, setState] = useState<{ address: string; failed: string | null }>({ address: '-', failed: null }),
    { from } = useAppSelector((s) => s.stock);
  useEffect(() => {
    let gone = false;
    const open = async (): Promise<void> => {
      const [opened] = await Promise.all([found(new URLSearchParams(address)), loadFilm()]);
      if (gone) return;
      // what is still in hand is gone on with, unless what it came from is another now
      const inHand = store.getState().stock;
      if (inHand.from === opened.from && JSON.stringify(inHand.base) === JSON.stringify(opened.base)) return;
      const draft = await askOnce(store.dispatch(stockApi.endpoints.draftedSheet.initiate(opened.from, { forceRefetch: true })));
      if (gone) return;
      store.dispatch(
        stockAct.opened({
          ...opened,
          sheet: draft?.sheet ?? opened.base,
          past: (draft?.past ?? []) as SheetEdit[],
          future: (draft?.future ?? []) as SheetEdit[],
          version: draft?.version ?? 0,
          use: { ...opened.baseUse, ...draft?.use },
        }),
      );
      if (draft)
        tell(
          'What you had under way here is as you left it.',
          () => void store.dispatch(stockAct.sheetSet({ sheet: opened.base, words: 'As it was', gesture: '' })),
        );
    };
    open().then(
      () => {
        if (!gone) setState({ address, failed: null });
      },
      (e: unknown) => {
        if (!gone) setState({ address, failed: messageOf(e) });
      },
    );
    return () => {
      gone = true;
    };
  }, [address]);
  const shootId = useAppSelector((s) => s.bench.shootId),
    { data: shoots } = useShootsQuery(),
    id = shoots?.some((s) => s.id === shootId) ? shootId : (shoots?.[0]?.id ?? null),
    { data: shoot } = useShootQuery(id ?? 0, { skip: id === null });
  if (state.failed)
    return (
      <QuietPage page="Stock" title="This stock cannot be opened" words={state.failed} way={{ to: '/shelf', words: 'Go to the Shelf' }} />
    );
  if (state.address !== address || from === '') return <WaitingPage page="Stock" words="Opening the sheet…" />;
  return <Designer frames={shoot?.frames ?? []} leadId={shoot?.leadFrameId ?? null} />;
}
