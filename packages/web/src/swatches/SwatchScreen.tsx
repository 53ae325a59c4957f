import { Button } from '@chakra-ui/react';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { messageOf, useLooksQuery, useSettingsQuery, useShootQuery } from '../api.ts';
import { EvenMarksOf, useEvenMarks } from '../evenness/index.ts';
import { LazyMenu } from '../kit/LazyMenu.tsx';
import { complain } from '../kit/notices.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { useShortcut } from '../kit/useShortcut.ts';
import { Nothing, QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import type { LookCard, Shoot } from '../types.ts';
import { ChooseSheet } from '../kit/ChooseSheet.tsx';
import { useSaveSwatchesMutation, useSwatchesQuery, type SwatchCard } from './swatchApi.ts';
import { SwatchTable, type View } from './SwatchTable.tsx';
import './swatches.css';

const LinkSheet = lazy(() => import('../people/LinkSheet.tsx'));
const most = { frames: 12, looks: 24 },
  whole: View = { zoom: 1, x: 0.5, y: 0.5 };

export default function SwatchScreen(): React.JSX.Element {
  const id = Number(useParams()['id']),
    { data: shoot, error } = useShootQuery(id, { skip: !Number.isInteger(id) }),
    { data: looks } = useLooksQuery(),
    { data: card } = useSwatchesQuery(id, { skip: !shoot });
  if (!Number.isInteger(id) || error)
    return (
      <QuietPage
        page="Swatch card"
        title="The swatch card cannot be shown"
        words={error ? messageOf(error) : 'There is no such shoot.'}
        way={{ to: '/shoots', words: 'All shoots' }}
      />
    );
  if (!shoot || !looks || !card) return <WaitingPage page="Swatch card" words="Laying the swatches…" />;
  return <SwatchPage shoot={shoot} looks={looks.filter((l) => !l.broken)} kept={card} />;
}

/** What a card begins with: the lead and the most different lights, under the look that is worn and some of the Shelf. */
function begun(shoot: Shoot, looks: readonly LookCard[], kept: SwatchCard): SwatchCard {
  if (kept.frames.length > 0 || kept.looks.length > 0) return kept;
  const frames = [shoot.leadFrameId ?? shoot.frames[0]?.id, ...shoot.witnessIds].flatMap((f) => f ?? []).slice(0, 4),
    worn = shoot.look?.id,
    others = looks.filter((l) => l.id !== worn).slice(0, worn ? 3 : 4);
  return { frames, looks: [...(worn ? [worn] : []), ...others.map((l) => l.id)], said: {} };
}

function SwatchPage({ shoot, looks, kept }: { shoot: Shoot; looks: readonly LookCard[]; kept: SwatchCard }): React.JSX.Element {
  const navigate = useNavigate(),
    [save] = useSaveSwatchesMutation(),
    { data: settings } = useSettingsQuery(),
    [linking, setLinking] = useState(false),
    [choosing, setChoosing] = useState<'frames' | 'looks' | null>(null),
    [view, setView] = useState<View>(whole),
    [onlyLeft, setOnlyLeft] = useState(false),
    card = useMemo(() => begun(shoot, looks, kept), [shoot, looks, kept]),
    marks = useEvenMarks(shoot),
    past = useRef<SwatchCard[]>([]);
  const put = (next: SwatchCard, undoing = false): void => {
    if (!undoing) past.current = [...past.current, card].slice(-100);
    save({ id: shoot.id, card: next })
      .unwrap()
      .catch((e: unknown) => complain(messageOf(e)));
  };
  // what a card begins with is kept, so that it can leave as a file as it is seen
  useEffect(() => {
    if (card !== kept && card.frames.length > 0) put(card, true);
  }, []);
  const say = (key: string, what: 'best' | 'out'): void => {
    const { [key]: was, ...said } = card.said;
    put({ ...card, said: was === what ? said : { ...said, [key]: what } });
  };
  useShortcut(
    'mod+z',
    () => {
      const before = past.current.pop();
      if (before) put(before, true);
    },
    { preventDefault: true },
  );
  useShortcut('1', () => setView(whole));
  useShortcut('2', () => setView((v) => ({ ...v, zoom: 3 })));
  const frames = card.frames.flatMap((f) => shoot.frames.find((s) => s.id === f) ?? []),
    rows = card.looks.flatMap((l) =>
      l === 0 ? [{ id: 0, revision: 0, name: 'Neutral response', strip: [] as string[] }] : (looks.find((s) => s.id === l) ?? []),
    ),
    shown = onlyLeft ? rows.filter((r) => frames.some((f) => card.said[`${f.id} ${r.id}`] !== 'out')) : rows;
  const full = frames.length > 0 && shown.length > 0;
  return (
    <div className="page">
      <TopBar page={`${shoot.name}, swatch card`} title={shoot.name} note="swatch card">
        <Button size="xs" variant="outline" asChild>
          <Link to={`/shoots/${shoot.id}`}>Contact sheet</Link>
        </Button>
        <Button size="xs" variant="outline" onClick={() => setChoosing('frames')}>
          Frames…
        </Button>
        <Button size="xs" variant="outline" onClick={() => setChoosing('looks')}>
          Looks…
        </Button>
        <LazyMenu
          minW="190px"
          trigger={
            <button type="button" className="report-button" disabled={!full}>
              Send as…
            </button>
          }
          items={[
            { value: 'pdf', words: 'A PDF' },
            { value: 'png', words: 'A picture (PNG)' },
            ...(settings?.away ? [{ value: 'link', words: 'A link for someone…' }] : []),
          ]}
          onSelect={(kind) => {
            if (kind === 'link') setTimeout(() => setLinking(true), 60);
            else window.open(`/api/shoots/${shoot.id}/swatches.${kind}`, '_blank', 'noopener');
          }}
        />
      </TopBar>
      {linking && (
        <Suspense>
          <LinkSheet
            what={`the swatch card of ${shoot.name}`}
            target={{ kind: 'swatches', shootId: shoot.id }}
            onClose={() => setLinking(false)}
          />
        </Suspense>
      )}
      <main id="main" tabIndex={-1}>
        <div className="swatch-bar">
          <span>
            {frames.length} {frames.length === 1 ? 'frame' : 'frames'} across, {shown.length} {shown.length === 1 ? 'look' : 'looks'} down ·
            wheel zooms all at once, drag moves them (1 whole, 2 near)
          </span>
          <label className="inline">
            <input type="checkbox" checked={onlyLeft} onChange={() => setOnlyLeft(!onlyLeft)} /> leave out looks struck out on every frame
          </label>
        </div>
        {full ? (
          <EvenMarksOf value={marks}>
            <SwatchTable
              frames={frames}
              looks={shown}
              rendition={shoot.rendition}
              said={card.said}
              view={view}
              onView={setView}
              onSay={say}
              onOpen={(frame, look) =>
                void navigate(
                  `/bench?shoot=${shoot.id}&frame=${frame.id}${look.id ? `&look=${look.id}&revision=${look.revision}` : '&look=new'}`,
                )
              }
            />
          </EvenMarksOf>
        ) : (
          <Nothing title="Nothing to lay side by side yet" words="Choose frames, which go across, and looks, which go down.">
            <Button size="sm" colorPalette="dye" onClick={() => setChoosing(frames.length === 0 ? 'frames' : 'looks')}>
              {frames.length === 0 ? 'Choose frames' : 'Choose looks'}
            </Button>
          </Nothing>
        )}
      </main>
      {choosing && (
        <ChooseSheet
          title={choosing === 'frames' ? 'Frames across' : 'Looks down'}
          most={most[choosing]}
          of={
            choosing === 'frames'
              ? shoot.frames.map((f) => ({ id: f.id, words: f.name, more: f.light }))
              : [{ id: 0, words: 'Neutral response', more: 'no look' }, ...looks.map((l) => ({ id: l.id, words: l.name, more: l.family }))]
          }
          chosen={card[choosing]}
          onClose={() => setChoosing(null)}
          onChosen={(ids) => {
            put({ ...card, [choosing]: ids });
            setChoosing(null);
          }}
        />
      )}
    </div>
  );
}
