import { Button } from '@chakra-ui/react';
import { skipToken } from '@reduxjs/toolkit/query';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { messageOf, useLookQuery, useLooksQuery, useShootQuery } from '../api.ts';
import { EvenMarksOf, useEvenMarks } from '../evenness/index.ts';
import { ChooseSheet } from '../kit/ChooseSheet.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { UndoRedo } from '../kit/UndoRedo.tsx';
import { useShortcut } from '../kit/useShortcut.ts';
import { Nothing, QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import { marks, useSaying } from '../shoots/index.ts';
import type { Frame, LookCard, Shoot } from '../types.ts';
import { useDarkroom } from '../view/useDarkroom.ts';
import { nextZoom, type ViewState } from '../view/layout.ts';
import { CompareBar, layouts, type Count } from './CompareBar.tsx';
import { Side, type Shown } from './Side.tsx';
import { TrimTray } from './TrimTray.tsx';
import { useTrims } from './useTrims.ts';
import './compare.css';

const fitted: ViewState = {
  zoom: 'fit',
  centre: { x: 0.5, y: 0.5 },
  compare: 'off',
  wipe: 0.5,
  across: false,
  limit: null,
  limiting: false,
  surround: 'mid',
  zones: false,
};
const numbers = (text: string | null): number[] => (text ?? '').split(',').flatMap((t) => (/^\d{1,15}$/.test(t) ? Number(t) : []));

export default function CompareScreen(): React.JSX.Element {
  const id = Number(useParams()['id']),
    { data: shoot, error } = useShootQuery(id, { skip: !Number.isInteger(id) });
  if (!Number.isInteger(id) || (error && !shoot))
    return (
      <QuietPage
        page="Side by side"
        title="These frames cannot be shown"
        words={error ? messageOf(error) : 'There is no such shoot.'}
        way={{ to: '/shoots', words: 'All shoots' }}
      />
    );
  if (!shoot) return <WaitingPage page="Side by side" words="Laying the frames side by side…" />;
  return <Compare key={shoot.id} shoot={shoot} />;
}

/** What is laid side by side: frames as they are worn, or each under each of some looks. */
function laidOut(shoot: Shoot, frames: readonly Frame[], lookIds: readonly number[], cards: readonly LookCard[]): Shown[] {
  const named = (id: number): string => cards.find((c) => c.id === id)?.name ?? 'a look of its own';
  if (lookIds.length === 0)
    return frames.map((frame) => {
      const worn = frame.look ?? shoot.look;
      return { key: String(frame.id), frame, look: worn && { id: worn.id, revision: worn.revision, name: named(worn.id) } };
    });
  const looks = lookIds.flatMap((l) => (l === 0 ? [null] : (cards.find((c) => c.id === l) ?? [])));
  return frames.flatMap((frame) =>
    looks.map((l) => ({ key: `${frame.id} ${l?.id ?? 0}`, frame, look: l && { id: l.id, revision: l.revision, name: l.name } })),
  );
}

function Compare({ shoot }: { shoot: Shoot }): React.JSX.Element {
  const navigate = useNavigate(),
    darkroom = useDarkroom(),
    [search, setSearch] = useSearchParams(),
    { data: cards } = useLooksQuery(),
    asked = numbers(search.get('frames')),
    lookIds = numbers(search.get('looks')),
    count = ([1, 2, 4, 6].includes(Number(search.get('side'))) ? Number(search.get('side')) : 2) as Count,
    [choosing, setChoosing] = useState<'frames' | 'looks' | null>(null),
    [view, setView] = useState<ViewState>(fitted),
    [before, setBefore] = useState(false),
    [together, setTogether] = useState(false),
    // the address follows the frame in hand; it comes later than the next key does
    [wanted, setWanted] = useState(() => Number(search.get('at')) || 0),
    even = useEvenMarks(shoot),
    trims = useTrims(shoot.frames),
    say = useSaying(trims);
  const put = (change: Record<string, string>): void =>
    setSearch(
      (s) => {
        const next = new URLSearchParams(s);
        for (const [k, v] of Object.entries(change)) {
          if (v === '') next.delete(k);
          else next.set(k, v);
        }
        return next;
      },
      { replace: true },
    );
  const frames = useMemo(() => {
      const named = asked.flatMap((i) => shoot.frames.find((f) => f.id === i) ?? []);
      return named.length > 0 ? named : shoot.frames;
    }, [shoot.frames, asked.join()]),
    items = useMemo(() => laidOut(shoot, frames, lookIds, cards ?? []), [shoot, frames, lookIds.join(), cards]);
  const at = Math.min(items.length - 1, Math.max(0, wanted)),
    first = Math.floor(at / count) * count,
    shown = items.slice(first, first + count),
    inHand = items[at] ?? null,
    go = (to: number): void => {
      const next = Math.min(items.length - 1, Math.max(0, to));
      setWanted(next);
      put({ at: String(next) });
    };
  // the keys stay with the frame in hand where they stood on another
  useEffect(() => {
    const active = document.activeElement;
    if (active?.matches('.side-name') || active === document.body) document.querySelector<HTMLElement>('.side.in-hand .side-name')?.focus();
  }, [at, count]);
  const { data: read } = useLookQuery(inHand?.look ? { id: inHand.look.id, revision: inHand.look.revision } : skipToken),
    frame = inHand?.frame ?? null,
    zoomBy = (way: 1 | -1): void => {
      const stage = document.querySelector<HTMLElement>('.side-stage');
      if (stage && frame)
        setView((v) => ({
          ...v,
          zoom: nextZoom(
            v.zoom,
            way,
            frame.output,
            { width: stage.clientWidth, height: stage.clientHeight },
            Math.min(2, window.devicePixelRatio || 1),
          ),
        }));
    },
    rate = (rating: number): void => {
      if (frame) say([{ id: frame.id, rating }], frame.name);
    };
  useShortcut('0,1,2,3,4,5', (e) => {
    if (/^[0-5]$/.test(e.key)) rate(Number(e.key));
  });
  useShortcut('r', () => rate(frame && frame.rating < 0 ? 0 : -1));
  useShortcut('m', () => {
    const order = ['', ...marks.map((m) => m.mark)];
    if (frame) say([{ id: frame.id, mark: order[(order.indexOf(frame.mark) + 1) % order.length]! }], frame.name);
  });
  /** The one in hand is rated over all that are shown beside it. */
  const best = (): void => {
    if (!frame) return;
    const others = [...new Map(shown.map((s) => [s.frame.id, s.frame])).values()].filter((f) => f.id !== frame.id),
      over = Math.min(5, Math.max(0, ...others.map((f) => f.rating)) + 1);
    if (frame.rating < over) rate(over);
  };
  useShortcut('mod+shift+z, mod+y', () => trims.redo(), { preventDefault: true });
  useShortcut('k', best);
  useShortcut('f', () => setView((v) => ({ ...v, zoom: v.zoom === 'fit' ? 1 : 'fit' })));
  useShortcut('plus, equal, add', () => zoomBy(1));
  useShortcut('minus, subtract', () => zoomBy(-1));
  useShortcut('o', () => setBefore(true), { keydown: true });
  useShortcut('o', () => setBefore(false), { keyup: true, keydown: false });
  useShortcut('pagedown', () => go(first + count), { preventDefault: true });
  useShortcut('pageup', () => go(first - count), { preventDefault: true });
  const arrows: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -layouts[count], ArrowDown: layouts[count] };
  if (items.length === 0)
    return (
      <QuietPage
        page="Side by side"
        title="There are no frames to lay side by side"
        words="Bring in raw files first."
        way={{ to: `/shoots/${shoot.id}?bring`, words: 'Bring raws in' }}
      />
    );
  return (
    <div className="page compare-page">
      <TopBar page={`${shoot.name}, side by side`} title={shoot.name} note="side by side">
        <Button size="xs" variant="outline" asChild>
          <Link to={`/shoots/${shoot.id}`}>Contact sheet</Link>
        </Button>
        <Button size="xs" variant="outline" onClick={() => setChoosing('frames')}>
          Frames…
        </Button>
        <Button size="xs" variant="outline" onClick={() => setChoosing('looks')}>
          {lookIds.length === 0 ? 'Looks…' : `${lookIds.length} looks…`}
        </Button>
        <UndoRedo undoes={trims.last} redoes={trims.next} onUndo={() => trims.undo()} onRedo={() => trims.redo()} />
      </TopBar>
      <main id="main" tabIndex={-1} className="compare">
        <div
          className={`sides surround-mid columns-${layouts[count]} rows-${Math.ceil(count / layouts[count])}`}
          role="group"
          aria-label="Frames side by side"
          onKeyDown={(e) => {
            const by = arrows[e.key];
            if (by !== undefined && (e.target as HTMLElement).matches('.side-name')) {
              e.preventDefault();
              go(at + by);
            } else if (e.key === 'Enter' && frame && (e.target as HTMLElement).matches('.side-name')) {
              e.preventDefault();
              const look = inHand!.look;
              void navigate(`/bench?shoot=${shoot.id}&frame=${frame.id}${look ? `&look=${look.id}&revision=${look.revision}` : ''}`);
            }
          }}
        >
          <EvenMarksOf value={even}>
            {darkroom &&
              shown.map((s, i) => (
                <Side
                  key={i}
                  shown={s}
                  index={i}
                  steps={trims.stepsOf(s.frame)}
                  darkroom={darkroom}
                  shoot={shoot}
                  view={view}
                  before={before}
                  inHand={first + i === at}
                  says={lookIds.length > 0 ? (s.look?.name ?? 'Neutral response') : s.frame.light}
                  onView={(change) => setView((v) => ({ ...v, ...change }))}
                  onTake={() => {
                    if (first + i !== at) go(first + i);
                  }}
                />
              ))}
          </EvenMarksOf>
        </div>
        {shown.length === 0 && <Nothing title="Nothing here" words="Choose frames to lay side by side." />}
        <TrimTray
          shoot={shoot}
          frame={frame!}
          all={frames.length > 0 && asked.length > 0 ? frames : [...new Map(shown.map((s) => [s.frame.id, s.frame])).values()]}
          look={read?.document ?? null}
          trims={trims}
          together={together}
          onTogether={setTogether}
        />
        <CompareBar
          count={count}
          zoom={view.zoom}
          before={before}
          first={first}
          shown={shown.length}
          of={items.length}
          onCount={(n) => put({ side: String(n) })}
          onZoom={(zoom) => setView(zoom === 'fit' ? fitted : (v) => ({ ...v, zoom }))}
          onBefore={() => setBefore(!before)}
          onBest={best}
          onGo={go}
        />
      </main>
      {choosing && (
        <ChooseSheet
          title={choosing === 'frames' ? 'Frames side by side' : 'Looks to compare'}
          most={choosing === 'frames' ? 1000 : 24}
          of={
            choosing === 'frames'
              ? shoot.frames.map((f) => ({ id: f.id, words: f.name, more: f.light }))
              : [
                  { id: 0, words: 'Neutral response', more: 'no look' },
                  ...(cards ?? []).filter((c) => !c.broken).map((c) => ({ id: c.id, words: c.name, more: c.family })),
                ]
          }
          chosen={choosing === 'frames' ? asked : lookIds}
          onClose={() => setChoosing(null)}
          onChosen={(ids) => {
            setWanted(0);
            put({ [choosing]: ids.join(), at: '' });
            setChoosing(null);
          }}
        />
      )}
    </div>
  );
}
