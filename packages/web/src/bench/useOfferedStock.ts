import { useEffect } from 'react';
import { stockAct } from '../stock/stockSlice.ts';
import { store, useAppDispatch, useAppSelector } from '../store.ts';
import { act } from './benchSlice.ts';

/** Puts a stock that the designer offers into the look on the bench. */
export function useOfferedStock(): void {
  const dispatch = useAppDispatch(),
    offered = useAppSelector((s) => s.stock.offered);
  useEffect(() => {
    if (!offered) return;
    dispatch(act.sideChosen('look'));
    if (store.getState().bench.look.stock.kind !== 'film') dispatch(act.stockTaken('film'));
    const { id } = store.getState().bench.look.stock;
    dispatch(
      act.parametersSet({ id, values: { sheet: offered.sheet, ...offered.use }, words: `Stock ${offered.sheet.name}`, gesture: '' }),
    );
    dispatch(stockAct.offered(null));
  }, [dispatch, offered]);
}
