import { Button } from '@chakra-ui/react';
import { Trash2 } from 'lucide-react';
import { lazy, Suspense, useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { messageOf, useDraftsQuery, useLooksQuery, useShootQuery, useShootsQuery } from '../api.ts';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import type { LookCard, Shoot } from '../types.ts';
import { DraftLine } from './DraftLine.tsx';
import { ArrivalSheet } from './ArrivalSheet.tsx';
import { BlendSheet } from './BlendSheet.tsx';
import { CheckSheet } from './CheckSheet.tsx';
import { LargeLook } from './LargeLook.tsx';
import { LookCards, type LookAct } from './LookCards.tsx';
import { ManyBar } from './ManyBar.tsx';
import { LookSheetFrames } from './LookSheetFrames.tsx';
import { NearSheet } from './NearSheet.tsx';
import { RevisionsSheet } from './RevisionsSheet.tsx';
import { ShownOn } from './ShownOn.tsx';
import { foundOnCards, orders, shownOf, type Order } from './orders.ts';
import './share.css';
import { useFoundLooksQuery, type Arrival } from './shelfApi.ts';
import { useBringIn } from './useBringIn.ts';
import { Rove } from '../kit/Rove.tsx';
import { StockCards, useStocksQuery } from '../stock/index.ts';

const GiveStepSheet = lazy(() => import('./GiveStepSheet.tsx'));
const LinkSheet = lazy(() => import('../people/LinkSheet.tsx'));
/** A frame of each light, the lead frame first of its own. */
function coversOf(shoot: Shoot | undefined): number[] {
  const lights = new Map<string, number>();
  for (const f of shoot?.frames ?? []) if (!lights.has(f.light) || f.id === shoot?.leadFrameId) lights.set(f.light, f.id);
  return [...lights.values()];
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
    [arrivals, setArrivals] = useState<{ file: File; looks: readonly Arrival[] } | null>(null),
    bringIn = useBringIn((f, arrived) => setArrivals({ file: f, looks: arrived })),
    [order, setOrder] = useState<Order>(() => {
      const kept = localStorage.getItem('dyepot-shelf-order');
      return kept !== null && Object.hasOwn(orders, kept) ? (kept as Order) : 'name';
    }),
    [large, setLarge] = useState(() => localStorage.getItem('dyepot-shelf-large') !== 'no'),
    [pointed, setPointed] = useState<LookCard | null>(null),
    [chosenIds, setChosenIds] = useState<ReadonlySet<number>>(new Set()),
    [sheet, setSheet] = useState<{ act: LookAct; look: LookCard } | null>(null),
    asking = useDeferredValue(words.trim()),
    { currentData: answer, isError: silent } = useFoundLooksQuery(asking, { skip: asking === '' }),
    lastFound = useRef<readonly number[] | null>(null);
  // what was found stays until the next is there
  if (answer) lastFound.current = answer.ids;
  const foundIds = useMemo(() => {
    if (words.trim() === '') return null;
    return silent ? foundOnCards(looks ?? [], words) : (answer?.ids ?? lastFound.current);
  }, [words, silent, looks, answer]);
  const families = useMemo(() => {
    const counts = new Map<string, number>();
    for (const { family: f } of looks ?? []) if (f !== '') counts.set(f, (counts.get(f) ?? 0) + 1);
    return [...counts].sort(([a], [b]) => a.localeCompare(b));
  }, [looks]);
  const shown = useMemo(() => looks && shownOf(looks, family, foundIds, order), [looks, family, foundIds, order]),
    covers = useMemo(() => coversOf(shoot), [shoot]);
  const choose = (id: number | null): void => {
    setShownOn(id);
    localStorage.setItem('dyepot-shelf-frame', String(id ?? ''));
  };
  const chosen = shoot?.frames.find((f) => f.id === shownOn),
    seenOn = chosen?.id ?? shoot?.leadFrameId ?? null,
    many = useMemo(() => (looks ?? []).filter((l) => chosenIds.has(l.id)), [looks, chosenIds]);
  const timer = useRef(0),
    point = useCallback((look: LookCard) => {
      window.clearTimeout(timer.current);
      // a hand that only passes by asks for nothing
      timer.current = window.setTimeout(() => setPointed(look), 120);
    }, []),
    chooseLook = useCallback(
      ({ id }: LookCard) =>
        setChosenIds((ids) => {
          const next = new Set(ids);
          if (!next.delete(id)) next.add(id);
          return next;
        }),
      [],
    ),
    openSheet = useCallback((act: LookAct, look: LookCard) => setSheet({ act, look }), []);
  useEffect(() => {
    const leave = (e: KeyboardEvent): void => {
      if (e.key === 'Escape' && !document.querySelector('[role=dialog], [role=menu]')) setChosenIds(new Set());
    };
    window.addEventListener('keydown', leave);
    return () => window.removeEventListener('keydown', leave);
  }, []);
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
        {!onStocks && looks && looks.length > 0 && (
          <Button size="xs" variant="outline" asChild>
            <a
              href={`/api/looks/parcel${family === null ? '' : `?family=${encodeURIComponent(family)}`}`}
              title={`${family === null ? 'The whole shelf' : `The family ${family}`} as one file (.dyelook)`}
            >
              {family === null ? 'Share all' : 'Share the family'}
            </a>
          </Button>
        )}
        <Button
          size="xs"
          variant="outline"
          title="Looks (.dyelook), a look or a stock (.json), or a lookup table"
          onClick={() => file.current?.click()}
        >
          {onStocks ? 'Bring in a stock' : 'Bring in a look'}
        </Button>
        <Button size="xs" colorPalette="dye" onClick={() => void navigate(onStocks ? '/stock' : '/bench?look=new')}>
          {onStocks ? 'New stock' : 'New look'}
        </Button>
      </TopBar>
      <input
        ref={file}
        type="file"
        accept=".dyelook,.json,.cube,.clf,.ctf,.cc,.ccc,.cdl,.png,.tif,.tiff"
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
            placeholder={onStocks ? 'Find a stock or a note' : 'Find: warm, lifted blacks, grain…'}
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
          {!onStocks && (
            <select
              className="shelf-order"
              aria-label="Order of the looks"
              value={order}
              onChange={(e) => {
                setOrder(e.target.value as Order);
                localStorage.setItem('dyepot-shelf-order', e.target.value);
              }}
            >
              {Object.entries(orders).map(([key, o]) => (
                <option key={key} value={key}>
                  {o.words}
                </option>
              ))}
            </select>
          )}
          {!onStocks && shoot && shoot.frames.length > 0 && (
            <button
              type="button"
              className="shelf-large"
              aria-pressed={large}
              title="The look that is pointed at, large on the lead frame"
              onClick={() => {
                setLarge(!large);
                localStorage.setItem('dyepot-shelf-large', large ? 'no' : 'yes');
              }}
            >
              Large
            </button>
          )}
          {!onStocks && shoot && shoot.frames.length > 0 && <ShownOn shoot={shoot} chosen={chosen?.id ?? null} choose={choose} />}
        </div>
        {!onStocks && drafts && drafts.length > 0 && <DraftLine drafts={drafts} />}
        {!onStocks && many.length > 0 && (
          <ManyBar
            looks={many}
            families={families.map(([f]) => f)}
            onAll={() => setChosenIds(new Set(shown?.map((l) => l.id)))}
            onNone={() => setChosenIds(new Set())}
          />
        )}
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
          <div className="shelf-looks">
            <LookCards
              looks={shown}
              frames={chosen ? [chosen.id] : covers}
              chosen={chosenIds}
              onChoose={chooseLook}
              onPoint={point}
              onAct={openSheet}
            />
            {large && shoot && shoot.frames.length > 0 && (
              <LargeLook look={looks.find((l) => l.id === (pointed?.id ?? shown[0]!.id)) ?? null} shoot={shoot} />
            )}
            {/* its place is kept while the shoot is read, so that no card moves under a hand */}
            {large && !shoot && (shootId !== undefined || !shoots) && <div className="large-look" />}
          </div>
        )}
        {arrivals && <ArrivalSheet {...arrivals} frame={seenOn} onClose={() => setArrivals(null)} />}
        {sheet?.act === 'check' && (
          <CheckSheet id={sheet.look.id} name={sheet.look.name} shoot={shootId ?? null} onClose={() => setSheet(null)} />
        )}
        {sheet?.act === 'near' && <NearSheet look={sheet.look} onClose={() => setSheet(null)} />}
        {sheet?.act === 'revisions' && (
          <RevisionsSheet look={looks?.find((l) => l.id === sheet.look.id) ?? sheet.look} frame={seenOn} onClose={() => setSheet(null)} />
        )}
        {(sheet?.act === 'pdf' || sheet?.act === 'png') && (
          <LookSheetFrames look={sheet.look} kind={sheet.act} shoot={shoot} covers={covers} onClose={() => setSheet(null)} />
        )}
        {sheet?.act === 'give' && (
          <Suspense>
            <GiveStepSheet look={sheet.look} looks={looks ?? []} frame={seenOn} onClose={() => setSheet(null)} />
          </Suspense>
        )}
        {sheet?.act === 'link' && (
          <Suspense>
            <LinkSheet what={sheet.look.name} target={{ kind: 'look', lookId: sheet.look.id }} onClose={() => setSheet(null)} />
          </Suspense>
        )}
        {sheet?.act === 'blend' && <BlendSheet look={sheet.look} looks={looks ?? []} frame={seenOn} onClose={() => setSheet(null)} />}
      </main>
    </div>
  );
}
