import { emptyLook, type Look, type StockSheet } from '@dyepot/core';
import { draftOf } from '../view/filmEngine.ts';
import { filmStep } from './charting.ts';
import type { StockState, Use } from './stockSlice.ts';

let inHand: { sheet: StockSheet; use: Use; look: Look } | null = null;
/** A sheet as it is shown while the hand moves it: by a coarser table; grain and light scattered back wait until it rests. */
export function lookInHand({ sheet, use }: Pick<StockState, 'sheet' | 'use'>): Look {
  if (inHand?.sheet !== sheet || inHand.use !== use) {
    const step = filmStep(draftOf(sheet), use);
    inHand = {
      sheet,
      use,
      look: { ...emptyLook('sheet'), stock: { ...step, params: { ...step.params, grain: 'left out', halation: 'left out' } } },
    };
  }
  return inHand.look;
}
