import { emptyLook, type Look, type StockSheet } from '@dyepot/core';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { messageOf } from '../api.ts';
import { NameSheet } from '../kit/NameSheet.tsx';
import { Rove } from '../kit/Rove.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { useShortcut } from '../kit/useShortcut.ts';
import { useSaveState } from '../saving/index.ts';
import { store, useAppDispatch, useAppSelector, type State } from '../store.ts';
import type { Frame } from '../types.ts';
import { useDarkroom } from '../view/useDarkroom.ts';
import { filmFor, filmStep } from './charting.ts';
import { Computed, WheelAndWedge } from './Computed.tsx';
import { CurveChart, type Side } from './CurveChart.tsx';
import { DesignerBar } from './DesignerBar.tsx';
import { FrontControls } from './FrontControls.tsx';
import { OverUnder } from './OverUnder.tsx';
import { Rendered } from './Rendered.tsx';
import { SheetFields } from './SheetFields.tsx';
import { chartOfDyes, chartOfLayers, SpectrumChart } from './SpectrumChart.tsx';
import { stockAct, type Use } from './stockSlice.ts';
import { useCreateStockMutation, useSaveStockMutation } from './stockApi.ts';
import { endKept, useKeptSheet } from './useKeptSheet.ts';
import { useLight } from './useLight.ts';
import { lookInHand } from './lookInHand.ts';
import { useRested } from './useRested.ts';

const hands = ['all', 0, 1, 2] as const,
  handWords = ['all three', 'red', 'green', 'blue'],
  both = [0, 1] as const;

export function Designer({ frames, leadId }: { frames: readonly Frame[]; leadId: number | null }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    navigate = useNavigate(),
    { sheet, use, over, stockId, revision, newest, past, future, base, from } = useAppSelector((s) => s.stock),
    [side, setSide] = useState<Side>('film'),
    [hand, setHand] = useState<number | 'all'>('all'),
    [whole, setWhole] = useState(false),
    [naming, setNaming] = useState(false),
    [frameId, setFrameId] = useState<number | null>(null),
    darkroom = useDarkroom(),
    saving = useSaveState(),
    [create] = useCreateStockMutation(),
    [save] = useSaveStockMutation();
  useKeptSheet();
  const frame = frames.find((f) => f.id === (frameId ?? leadId)) ?? frames[0],
    light = useLight(frame);
  const wish = useMemo(() => ({ sheet, use }), [sheet, use]),
    rested = useRested(wish);
  const film = useMemo(() => filmFor(sheet, use), [sheet, use]),
    restedFilm = useMemo(() => filmFor(rested.sheet, rested.use), [rested]),
    strip = useMemo(() => filmStep(rested.sheet, rested.use), [rested]),
    look = useMemo(() => ({ ...emptyLook('sheet'), stock: strip }), [strip]),
    live = useCallback(
      ({ stock }: State): Look => (stock.sheet === rested.sheet && stock.use === rested.use ? look : lookInHand(stock)),
      [rested, look],
    ),
    laid = useMemo(() => over && { sheet: over, film: filmFor(over, use) }, [over, use]);
  const onSheet = useCallback(
      (next: StockSheet, words: string, gesture: string): void => {
        dispatch(stockAct.sheetSet({ sheet: next, words, gesture }));
      },
      [dispatch],
    ),
    onCurves = useCallback(
      (curves: StockSheet['curves'], words: string, gesture: string): void => {
        const now = store.getState().stock.sheet;
        onSheet(side === 'print' && now.print ? { ...now, print: { ...now.print, curves } } : { ...now, curves }, words, gesture);
      },
      [onSheet, side],
    );
  const onLayer = useCallback(
      (i: number, peak: number, gesture: string): void => {
        const now = store.getState().stock.sheet;
        onSheet({ ...now, layers: now.layers.map((l, k) => (k === i ? { ...l, peak } : l)) }, 'What a layer sees', gesture);
      },
      [onSheet],
    ),
    onDye = useCallback(
      (i: number, peak: number, gesture: string): void => {
        const now = store.getState().stock.sheet;
        onSheet({ ...now, dyes: now.dyes.map((d, k) => (k === i ? { ...d, peak } : d)) }, 'A dye', gesture);
      },
      [onSheet],
    );
  const onUse = useCallback((change: Partial<Use>): void => void dispatch(stockAct.used(change)), [dispatch]),
    onCharacter = useCallback(
      (of: StockSheet): void => onSheet({ ...of, name: store.getState().stock.sheet.name }, `Character of ${of.name}`, ''),
      [onSheet],
    );
  // drawn anew only when it is theirs that moves
  const sees = useMemo(() => chartOfLayers(sheet.layers, over?.layers ?? []), [sheet.layers, over]),
    holds = useMemo(() => chartOfDyes(sheet.dyes, over?.dyes ?? []), [sheet.dyes, over]);
  useShortcut('mod+z', () => dispatch(stockAct.undone()), { preventDefault: true });
  useShortcut('mod+shift+z, mod+y', () => dispatch(stockAct.redone()), { preventDefault: true });
  const done = (id: number, words: string): void => {
    void endKept(from);
    tell(words);
    void navigate(`/stock?stock=${id}`, { replace: true });
  };
  const saveAs = async (named: Pick<StockSheet, 'name' | 'family' | 'notes'>): Promise<void> => {
    try {
      const made = await create({ ...sheet, ...named }).unwrap();
      setNaming(false);
      dispatch(stockAct.saved(made));
      done(made.id, `${made.sheet.name} is on the shelf`);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const saveRevision = async (): Promise<void> => {
    if (stockId === null) return setNaming(true);
    try {
      const made = await save({ id: stockId, sheet, from: revision }).unwrap();
      dispatch(stockAct.saved(made));
      done(made.id, `Saved as revision ${made.revision}`);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const inLook = (): void => {
    dispatch(stockAct.offered({ sheet, use }));
    void navigate('/bench');
    // the look has it now, and its own draft
    if (from.startsWith('look:')) void endKept(from);
  };
  const now = useRef({ inLook, saveRevision });
  now.current = { inLook, saveRevision };
  const [does] = useState(() => ({
    inLook: () => now.current.inLook(),
    saveAs: () => setNaming(true),
    save: () => void now.current.saveRevision(),
  }));
  const edited = sheet !== base,
    colour = sheet.layers.length === 3,
    note =
      stockId === null
        ? `${from.startsWith('look:') ? 'in the look on the bench' : 'comes with Dyepot'}${edited ? ', changed here' : ''}`
        : `sheet revision ${revision}${newest !== revision ? ` of ${newest}` : ''}${edited ? ', changed since' : ''}`;
  return (
    <div className="stock-page">
      <DesignerBar
        title={sheet.name}
        note={`${note}${saving === 'waiting' ? ' · not saved yet' : ''}`}
        undoes={past.at(-1)?.words ?? null}
        redoes={future.at(-1)?.words ?? null}
        stockId={stockId}
        revision={revision}
        laid={over?.name ?? ''}
        saves={stockId === null || edited}
        does={does}
      />
      <main id="main" tabIndex={-1} className="stock-main">
        <section className="stock-curves" aria-label="Characteristic curves">
          <header>
            <h2>Characteristic curves</h2>
            <Rove className="segmented" role="radiogroup" aria-label="Curves of">
              {(
                [
                  ['film', sheet.kind === 'reversal' ? 'Film' : 'Negative'],
                  ...(sheet.print ? [['print', 'Print'] as const] : []),
                  ['whole', 'Whole way'],
                ] as [Side, string][]
              ).map(([value, words]) => (
                <button key={value} type="button" role="radio" aria-checked={side === value} onClick={() => setSide(value)}>
                  {words}
                </button>
              ))}
            </Rove>
            {colour && side !== 'whole' && (
              <Rove className="segmented" role="radiogroup" aria-label="Curve in hand">
                {hands.map((h, i) => (
                  <button key={h} type="button" role="radio" aria-checked={hand === h} onClick={() => setHand(h)}>
                    {handWords[i]}
                  </button>
                ))}
              </Rove>
            )}
          </header>
          <CurveChart
            sheet={sheet}
            film={film}
            over={laid}
            side={side === 'print' && !sheet.print ? 'film' : side}
            hand={colour ? hand : 'all'}
            light={light}
            onCurves={onCurves}
          />
          <footer>
            <span>One frame through the stock, three stops under to three over</span>
            {frames.length > 0 && frame && (
              <label className="inline">
                <select aria-label="Frame" value={frame.id} onChange={(e) => setFrameId(Number(e.target.value))}>
                  {frames.map((f) => (
                    <option key={f.id} value={f.id}>
                      {f.name}, {f.light}
                    </option>
                  ))}
                </select>
              </label>
            )}
          </footer>
          {darkroom && frame ? (
            <OverUnder darkroom={darkroom} frame={frame} film={strip} />
          ) : (
            <p className="purpose">Bring in a shoot, and a frame of it is shown here through the stock.</p>
          )}
        </section>
        <aside className="stock-side" aria-label="The sheet">
          {darkroom && frame && (
            <Rendered darkroom={darkroom} name="stock-lead" frame={frame} look={look} live={live} width={560} rank={1} worker={both} />
          )}
          <FrontControls sheet={rested.sheet} use={use} onUse={onUse} onCharacter={onCharacter} />
          <SpectrumChart {...sees} onPeak={onLayer} />
          {colour && <SpectrumChart {...holds} onPeak={onDye} />}
          <WheelAndWedge film={restedFilm} />
          <Computed sheet={rested.sheet} film={restedFilm} other={over} />
          <button type="button" className="text-button" aria-expanded={whole} onClick={() => setWhole(!whole)}>
            {whole ? 'Put the whole sheet away' : 'The whole sheet'}
          </button>
          {whole && <SheetFields sheet={sheet} onSheet={onSheet} />}
        </aside>
      </main>
      {naming && (
        <NameSheet
          title="Put this stock on the shelf"
          what="stock"
          families="Negative, Reversal, Client work…"
          notes="What it is for"
          given={{ name: `${sheet.name.slice(0, 70)}, own`, family: sheet.family, notes: sheet.notes }}
          onClose={() => setNaming(false)}
          onSave={(named) => void saveAs(named)}
        />
      )}
    </div>
  );
}
