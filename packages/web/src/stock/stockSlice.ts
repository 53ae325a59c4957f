import type { StockSheet } from '@dyepot/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** One undoable change of the sheet: the sheet before and after it, and the gesture it belongs to. */
export interface SheetEdit {
  words: string;
  gesture: string;
  before: StockSheet;
  after: StockSheet;
}
/** How the sheet is used in the picture beside it; never part of the sheet. */
export interface Use {
  contrast: number;
  colour: number;
  rated: number;
  push: number;
  print: number;
}
export interface StockState {
  /** what it was opened from, as its draft is kept under */
  from: string;
  stockId: number | null;
  revision: number | null;
  newest: number | null;
  sheet: StockSheet;
  /** the sheet as it was opened or saved */
  base: StockSheet;
  past: SheetEdit[];
  future: SheetEdit[];
  /** of the draft on the server; 0 where there is none */
  version: number;
  use: Use;
  /** as it was when opened */
  baseUse: Use;
  over: StockSheet | null;
  /** on its way into the look on the bench */
  offered: { sheet: StockSheet; use: Use } | null;
}
export const plainUse: Use = { contrast: 0, colour: 0, rated: 0, push: 0, print: 0 };
/** Until something is opened there is no sheet, and no page that would show it. */
const none = {} as StockSheet;
const fresh: StockState = {
  from: '',
  stockId: null,
  revision: null,
  newest: null,
  sheet: none,
  base: none,
  past: [],
  future: [],
  version: 0,
  use: plainUse,
  baseUse: plainUse,
  over: null,
  offered: null,
};
const mostEdits = 200;

/** The sheet in the designer. */
export const stock = createSlice({
  name: 'stock',
  initialState: fresh,
  reducers: {
    opened: (
      _s,
      a: PayloadAction<
        Pick<StockState, 'from' | 'stockId' | 'revision' | 'newest' | 'sheet' | 'base' | 'past' | 'future' | 'version' | 'use' | 'baseUse'>
      >,
    ) => ({
      ...fresh,
      ...a.payload,
    }),
    sheetSet(s, { payload: { sheet, words, gesture } }: PayloadAction<{ sheet: StockSheet; words: string; gesture: string }>) {
      const last = s.past[s.past.length - 1];
      if (last && gesture !== '' && last.gesture === gesture) last.after = sheet;
      else s.past.push({ words, gesture, before: s.sheet, after: sheet });
      if (s.past.length > mostEdits) s.past.shift();
      s.future = [];
      s.sheet = sheet;
    },
    undone(s) {
      const last = s.past.pop();
      if (!last) return;
      s.future.push(last);
      s.sheet = last.before;
    },
    redone(s) {
      const next = s.future.pop();
      if (!next) return;
      s.past.push(next);
      s.sheet = next.after;
    },
    used(s, a: PayloadAction<Partial<Use>>) {
      s.use = { ...s.use, ...a.payload };
    },
    offered(s, a: PayloadAction<StockState['offered']>) {
      s.offered = a.payload;
    },
    laidOver(s, a: PayloadAction<StockSheet | null>) {
      s.over = a.payload;
    },
    kept(s, a: PayloadAction<{ from: string; version: number }>) {
      if (s.from === a.payload.from) s.version = a.payload.version;
    },
    /** it is a revision of the shelf now */
    saved(s, a: PayloadAction<{ id: number; revision: number; newest: number; sheet: StockSheet }>) {
      const { id, revision, newest, sheet } = a.payload;
      Object.assign(s, {
        from: `stock:${id}`,
        stockId: id,
        revision,
        newest,
        sheet,
        base: sheet,
        baseUse: s.use,
        version: 0,
        past: [],
        future: [],
      });
    },
  },
});
export const stockAct = stock.actions;
