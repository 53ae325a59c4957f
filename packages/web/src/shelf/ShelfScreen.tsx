import { Button } from '@chakra-ui/react';
import { Trash2 } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { tableLook } from '@dyepot/core';
import { Link, useNavigate, useSearchParams } from 'react-router';
import {
  messageOf,
  useCreateLookMutation,
  useDraftsQuery,
  useLooksQuery,
  useReadTableMutation,
  useShootQuery,
  useShootsQuery,
} from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import type { LookCard, ShelfLook, Shoot } from '../types.ts';
import { DraftLine } from './DraftLine.tsx';
import { LookCards } from './LookCards.tsx';
import { Rove } from '../kit/Rove.tsx';
import { StockCards, useCreateStockMutation, useStocksQuery } from '../stock/index.ts';

const found = (looks: readonly LookCard[], family: string | null, words: string): LookCard[] => {
  const asked = words.trim().toLowerCase();
  return looks.filter(
    (l) =>
      (family === null || l.family === family) &&
      (asked === '' || `${l.name}\n${l.family}\n${l.notes}\n${l.words}`.toLowerCase().includes(asked)),
  );
};
/** A frame of each light, the lead frame first of its own. */
function coversOf(shoot: Shoot | undefined): number[] {
  const lights = new Map<string, number>();
  for (const f of shoot?.frames ?? []) if (!lights.has(f.light) || f.id === shoot?.leadFrameId) lights.set(f.light, f.id);
  return [...lights.values()];
}

/** Reads a look file, or makes a look of a lookup table. */
function useBringIn(): (f: File) => Promise<void> {
  const [createLook] = useCreateLookMutation(),
    [createStock] = useCreateStockMutation(),
    [readTable] = useReadTableMutation();
  const documentOf = async (f: File): Promise<ShelfLook['document']> => {
    if (!/\.json$/i.test(f.name)) {
      const { table, corrections } = await readTable(f).unwrap();
      return tableLook(table.title || f.name.replace(/\.[^.]+$/, ''), table, corrections[0]?.cdl ?? null);
    }
    const text = await f.text();
    try {
      return JSON.parse(text) as ShelfLook['document'];
    } catch {
      throw new Error('it is not a look file: it is not JSON');
    }
  };
  return async (f) => {
    try {
      const document = await documentOf(f);
      if ((document as { format?: string }).format === 'dyepot-stock') {
        const stock = await createStock(document).unwrap();
        return tell(`The stock ${stock.sheet.name} is on the shelf`);
      }
      const look = await createLook(document).unwrap();
      tell(`${look.name} is on the shelf`);
    } catch (e) {
      complain(`${f.name}: ${messageOf(e)}`);
    }
  };
}

/** The library of looks: drafts under way, and each look's card with its picture and its dye strip. */
export default function ShelfScreen(): React.JSX.Element {
  const navigate = useNavigate(),
    { data: looks, error } = useLooksQuery(),
    { data: drafts } = useDraftsQuery(),
    { data: stocks } = useStocksQuery(),
    [asked, setAsked] = useSearchParams(),
    onStocks = asked.has('stocks'),
    { data: shoots } = useShootsQuery(),
    [shownOn, setShownOn] = useState<number | null>(() => Number(localStorage.getItem('dyepot-shelf-frame')) || null);
  const shootId = shoots?.[0]?.id,
    { data: shoot } = useShootQuery(shootId ?? 0, { skip: shootId === undefined });
  const [words, setWords] = useState(''),
    [family, setFamily] = useState<string | null>(null),
    file = useRef<HTMLInputElement>(null),
    bringIn = useBringIn();
  const families = useMemo(() => {
    const counts = new Map<string, number>();
    for (const { family: f } of looks ?? []) if (f !== '') counts.set(f, (counts.get(f) ?? 0) + 1);
    return [...counts].sort(([a], [b]) => a.localeCompare(b));
  }, [looks]);
  const shown = useMemo(() => looks && found(looks, family, words), [looks, family, words]),
    covers = useMemo(() => coversOf(shoot), [shoot]);
  const choose = (id: number | null): void => {
    setShownOn(id);
    localStorage.setItem('dyepot-shelf-frame', String(id ?? ''));
  };
  const chosen = shoot?.frames.find((f) => f.id === shownOn);
  return (
    <div className="page">
      <TopBar
        page="Shelf"
        title="Shelf"
        note={onStocks ? stocks && `${stocks.length} stocks` : looks && `${looks.length} ${looks.length === 1 ? 'look' : 'looks'}`}
      >
        <Button size="xs" variant="ghost" asChild>
          <Link to="/trash" title="What was taken out, kept for 30 days">
            <Trash2 size={14} aria-hidden /> Trash
          </Link>
        </Button>
        <Button size="xs" variant="outline" title="A look or a stock (.json), or a lookup table" onClick={() => file.current?.click()}>
          {onStocks ? 'Bring in a stock' : 'Bring in a look'}
        </Button>
        <Button size="xs" colorPalette="dye" onClick={() => void navigate(onStocks ? '/stock' : '/bench?look=new')}>
          {onStocks ? 'New stock' : 'New look'}
        </Button>
      </TopBar>
      <input
        ref={file}
        type="file"
        accept=".json,.cube,.clf,.ctf,.cc,.ccc,.cdl,.png,.tif,.tiff"
        hidden
        aria-label="Look file"
        onChange={(e) => {
          const f = e.target.files?.[0];
          if (f) void bringIn(f);
          e.target.value = '';
        }}
      />
      <main id="main" tabIndex={-1} className="shelf">
        <div className="shelf-bar">
          <Rove className="segmented" role="radiogroup" aria-label="On the shelf">
            <button type="button" role="radio" aria-checked={!onStocks} onClick={() => setAsked({}, { replace: true })}>
              Looks
            </button>
            <button type="button" role="radio" aria-checked={onStocks} onClick={() => setAsked({ stocks: '' }, { replace: true })}>
              Stocks
            </button>
          </Rove>
          <input
            type="search"
            placeholder={onStocks ? 'Find a stock or a note' : 'Find a look, a step or a note'}
            aria-label={onStocks ? 'Find a stock or a note' : 'Find a look, a step or a note'}
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          {!onStocks && (
            <Rove className="families" role="group" aria-label="Family">
              <button type="button" aria-pressed={family === null} onClick={() => setFamily(null)}>
                All {looks?.length ?? ''}
              </button>
              {families.map(([f, n]) => (
                <button key={f} type="button" aria-pressed={family === f} title={f} onClick={() => setFamily(family === f ? null : f)}>
                  {f} {n}
                </button>
              ))}
            </Rove>
          )}
          {!onStocks && shoot && shoot.frames.length > 0 && (
            <label className="shown-on">
              shown on{' '}
              <select value={chosen ? chosen.id : ''} onChange={(e) => choose(e.target.value === '' ? null : Number(e.target.value))}>
                <option value="">each light of {shoot.name}</option>
                {shoot.frames.map((f) => (
                  <option key={f.id} value={f.id}>
                    {f.name}, {f.light}
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
        {!onStocks && drafts && drafts.length > 0 && <DraftLine drafts={drafts} />}
        {onStocks ? (
          <StockCards cards={stocks ?? []} words={words} />
        ) : error && !looks ? (
          <Nothing title="The shelf cannot be shown" words={messageOf(error)} />
        ) : !looks || !shown ? (
          <Waiting words="Taking looks from the shelf…" />
        ) : looks.length === 0 ? (
          <Nothing title="The shelf is empty" words="Design a look on the bench, or bring in a look file someone sent you.">
            <Button asChild size="sm" colorPalette="dye">
              <Link to="/bench?look=new">New look</Link>
            </Button>
          </Nothing>
        ) : shown.length === 0 ? (
          <Nothing title="Nothing like that" words={`No look, step or note says “${words}”.`}>
            <Button
              size="sm"
              onClick={() => {
                setWords('');
                setFamily(null);
              }}
            >
              Show all
            </Button>
          </Nothing>
        ) : (
          <LookCards looks={shown} frames={chosen ? [chosen.id] : covers} />
        )}
      </main>
    </div>
  );
}
