import { emptyLook, stocks, type Look, type StockSheet } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { Redo2, Undo2 } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { messageOf } from '../api.ts';
import { NameSheet } from '../kit/NameSheet.tsx';
import { Rove } from '../kit/Rove.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { useShortcut } from '../kit/useShortcut.ts';
import { useSaveState } from '../saving/index.ts';
import { store, useAppDispatch, useAppSelector, type State } from '../store.ts';
import type { Frame } from '../types.ts';
import { useDarkroom } from '../view/useDarkroom.ts';
import { filmFor, filmStep, inksOf, layerNames } from './charting.ts';
import { Computed, WheelAndWedge } from './Computed.tsx';
import { CurveChart, type Side } from './CurveChart.tsx';
import { FrontControls } from './FrontControls.tsx';
import { OverUnder } from './OverUnder.tsx';
import { Rendered } from './Rendered.tsx';
import { SheetFields } from './SheetFields.tsx';
import { holdsOf, seesOf, SpectrumChart } from './SpectrumChart.tsx';
import { stockAct, type Use } from './stockSlice.ts';
import { useCreateStockMutation, useSaveStockMutation, useStockRevisionsQuery, useStocksQuery } from './stockApi.ts';
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
    { data: shelf } = useStocksQuery(),
    { data: revisions } = useStockRevisionsQuery(stockId ?? 0, { skip: stockId === null }),
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
  const edited = sheet !== base,
    colour = sheet.layers.length === 3,
    note =
      stockId === null
        ? `${from.startsWith('look:') ? 'in the look on the bench' : 'comes with Dyepot'}${edited ? ', changed here' : ''}`
        : `sheet revision ${revision}${newest !== revision ? ` of ${newest}` : ''}${edited ? ', changed since' : ''}`;
  const others = [
    ...(shelf ?? []).filter((s) => s.id !== null && s.id !== stockId && s.sheet),
    ...stocks.map((s) => ({ id: null, sheet: s })),
  ];
  return (
    <div className="stock-page">
      <TopBar page="Stock" title={sheet.name} note={`${note}${saving === 'waiting' ? ' · not saved yet' : ''}`}>
        <button
          type="button"
          className="icon-button"
          aria-label={`Undo ${past.at(-1)?.words ?? ''}`}
          title={`Undo ${past.at(-1)?.words ?? ''}`}
          disabled={past.length === 0}
          onClick={() => dispatch(stockAct.undone())}
        >
          <Undo2 size={16} aria-hidden />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label={`Redo ${future.at(-1)?.words ?? ''}`}
          title={`Redo ${future.at(-1)?.words ?? ''}`}
          disabled={future.length === 0}
          onClick={() => dispatch(stockAct.redone())}
        >
          <Redo2 size={16} aria-hidden />
        </button>
        {revisions && revisions.length > 1 && (
          <label className="inline">
            <select
              aria-label="Revision"
              value={revision ?? ''}
              onChange={(e) => void navigate(`/stock?stock=${stockId}&revision=${e.target.value}`)}
            >
              {revisions.map((r) => (
                <option key={r.revision} value={r.revision}>
                  revision {r.revision}
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="inline" title="The dashed lines of the charts">
          {over && 'dashed'}
          <select
            aria-label="Lay another over"
            value={over ? over.name : ''}
            onChange={(e) => dispatch(stockAct.laidOver(others.find((o) => o.sheet!.name === e.target.value)?.sheet ?? null))}
          >
            <option value="">Lay another over…</option>
            {others.map((o, i) => (
              <option key={`${o.sheet!.name}-${i}`} value={o.sheet!.name}>
                {o.sheet!.name}
              </option>
            ))}
          </select>
        </label>
        <Button size="xs" variant="outline" onClick={inLook}>
          Use in the look
        </Button>
        <Button size="xs" variant="outline" onClick={() => setNaming(true)}>
          Save as…
        </Button>
        <Button size="xs" colorPalette="dye" disabled={stockId !== null && !edited} onClick={() => void saveRevision()}>
          {stockId === null ? 'Save stock' : 'Save revision'}
        </Button>
      </TopBar>
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
          <FrontControls
            sheet={sheet}
            use={use}
            onUse={(change: Partial<Use>) => dispatch(stockAct.used(change))}
            onCharacter={(s) => onSheet({ ...s, name: sheet.name }, `Character of ${s.name}`, '')}
          />
          <SpectrumChart
            title="Layers see · nm"
            label={(i) => (colour ? `The ${layerNames[i]} layer’s peak` : 'The layer’s peak')}
            curves={sheet.layers.map(seesOf)}
            over={over?.layers.map(seesOf) ?? []}
            inks={inksOf(sheet)}
            onPeak={onLayer}
          />
          {colour && (
            <SpectrumChart
              title="Dyes hold back · nm"
              label={(i) => `The ${['cyan', 'magenta', 'yellow'][i]} dye’s peak`}
              curves={sheet.dyes.map(holdsOf)}
              over={over?.dyes.map(holdsOf) ?? []}
              inks={['#54b8c4', '#c96ab4', '#d0b94c']}
              onPeak={onDye}
            />
          )}
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
