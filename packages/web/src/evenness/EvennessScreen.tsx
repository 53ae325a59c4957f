import { Button } from '@chakra-ui/react';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { messageOf, useShootQuery } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { LazyMenu } from '../kit/LazyMenu.tsx';
import { Rove } from '../kit/Rove.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { useShortcut } from '../kit/useShortcut.ts';
import { Nothing, QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import type { EvennessNews, Shoot } from '../types.ts';
import {
  useEvennessQuery,
  useMeasureMutation,
  usePutGroundworksMutation,
  useTakeProposalsMutation,
  type Evenness,
  type Under,
} from './evennessApi.ts';
import { DifferenceChart } from './DifferenceChart.tsx';
import { MatchWays } from './MatchWays.tsx';
import { standing } from './layout.ts';
import { distributionWidth, StripChart } from './StripChart.tsx';
import { Thumbs } from './Thumbs.tsx';
import { Proposal } from './Proposal.tsx';
import './evenness.css';

const LightsSheet = lazy(() => import('./LightsSheet.tsx'));

export default function EvennessScreen(): React.JSX.Element {
  const id = Number(useParams()['id']),
    { data: shoot, error } = useShootQuery(id, { skip: !Number.isInteger(id) }),
    [search, setSearch] = useSearchParams(),
    under: Under = search.get('under') === 'none' ? 'none' : 'look',
    { data: even, error: trouble } = useEvennessQuery({ id, under }, { skip: !shoot });
  const wrong = error ?? trouble;
  if (!Number.isInteger(id) || wrong)
    return (
      <QuietPage
        page="Evenness"
        title="Evenness cannot be shown"
        words={wrong ? messageOf(wrong) : 'There is no such shoot.'}
        way={{ to: '/shoots', words: 'All shoots' }}
      />
    );
  if (!shoot || !even) return <WaitingPage page="Evenness" words="Looking at the set…" />;
  return (
    <EvennessPage shoot={shoot} even={even} under={under} onUnder={(u) => setSearch(u === 'none' ? { under: u } : {}, { replace: true })} />
  );
}

/** Compares what is still to be compared, and says how far that is. */
function useComparing(shootId: number, even: Evenness): EvennessNews | null {
  const [measure] = useMeasureMutation(),
    [news, setNews] = useState<EvennessNews | null>(null),
    asked = useRef(0);
  useEffect(() => {
    const heard = (e: Event): void => {
      const { detail } = e as CustomEvent<EvennessNews>;
      if (detail.shootId !== shootId) return;
      setNews(detail.done === detail.total ? null : detail);
      if (detail.message) complain(detail.message);
    };
    window.addEventListener('dyepot-evenness', heard);
    return () => window.removeEventListener('dyepot-evenness', heard);
  }, [shootId]);
  useEffect(() => {
    if (even.missing === 0) asked.current = 0;
    // what cannot be compared is asked for a few times, not for ever
    if (even.missing === 0 || even.comparing || asked.current >= 3) return;
    asked.current++;
    measure(shootId)
      .unwrap()
      .catch((e: unknown) => complain(messageOf(e)));
  }, [even, measure, shootId]);
  return news ?? (even.comparing ? { shootId, ...even.comparing, message: null } : null);
}

function EvennessPage({
  shoot,
  even,
  under,
  onUnder,
}: {
  shoot: Shoot;
  even: Evenness;
  under: Under;
  onUnder: (u: Under) => void;
}): React.JSX.Element {
  const comparing = useComparing(shoot.id, even),
    [take, { isLoading: taking }] = useTakeProposalsMutation(),
    [put] = usePutGroundworksMutation(),
    [chosen, setChosen] = useState<number | null>(null),
    [lights, setLights] = useState(false),
    main = useRef<HTMLDivElement>(null),
    [{ width, height }, setSize] = useState({ width: 880, height: 78 });
  useEffect(() => {
    const node = main.current;
    if (!node) return;
    const measure = (): void =>
        setSize({
          width: Math.max(300, node.clientWidth - 56),
          // three charts, what stands over and under them, and the row of pictures
          height: Math.round(Math.min(200, Math.max(70, (node.clientHeight - 392) / 3))),
        }),
      observer = new ResizeObserver(measure);
    observer.observe(node);
    measure();
    return () => observer.disconnect();
  }, []);
  const all = useMemo(() => even.groups.flatMap((g) => g.frames), [even]),
    known = all.filter((f) => f.now),
    out = useMemo(() => all.filter((f) => f.why), [all]),
    outIds = useMemo(() => new Set(out.map((f) => f.id)), [out]),
    { stands, bands } = useMemo(() => standing(even.groups, width - distributionWidth - 12), [even.groups, width]);
  const shown = all.find((f) => f.id === chosen) ?? out[0] ?? null;
  const go = (by: 1 | -1): void => {
    if (out.length === 0) return;
    const order = all.map((f) => f.id),
      here = shown ? order.indexOf(shown.id) : -1,
      next = by > 0 ? out.find((f) => order.indexOf(f.id) > here) : out.findLast((f) => order.indexOf(f.id) < here);
    setChosen((next ?? (by > 0 ? out[0]! : out[out.length - 1]!)).id);
  };
  const accept = async (ids: number[], share: number, words: string): Promise<void> => {
    try {
      const { was } = await take({ id: shoot.id, ids, share }).unwrap();
      tell(words, async () => {
        await put({ id: shoot.id, frames: was })
          .unwrap()
          .catch((e: unknown) => complain(messageOf(e)));
      });
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const takeOne = (share: number): void => {
    if (!shown?.groundwork) return;
    void accept([shown.id], share, `${shown.name}: ${share === 1 ? 'the proposal is taken' : 'half of the proposal is taken'}`);
    go(1);
  };
  useShortcut('n', () => go(1));
  useShortcut('shift+n', () => go(-1));
  useShortcut('t', () => takeOne(1));
  useShortcut('h', () => takeOne(0.5));
  useShortcut('l', () => go(1));
  const chart = { width, height, stands, bands, chosen: shown?.id ?? null, onChoose: setChosen };
  return (
    <div className="page">
      <TopBar page={`${shoot.name}, evenness`} title={shoot.name} note="evenness">
        <Button size="xs" variant="outline" asChild>
          <Link to={`/shoots/${shoot.id}`}>Contact sheet</Link>
        </Button>
        {even.groups.length > 1 && (
          <Button size="xs" variant="outline" title="Brings whole lights to one another" onClick={() => setLights(true)}>
            Light to light…
          </Button>
        )}
        <LazyMenu
          minW="210px"
          trigger={
            <button type="button" className="report-button">
              Report…
            </button>
          }
          items={[
            { value: 'pdf', words: 'As a PDF to send', disabled: even.missing > 0 },
            { value: 'json', words: 'As JSON' },
          ]}
          onSelect={(value) =>
            window.open(`/api/shoots/${shoot.id}/evenness${value === 'pdf' ? '.pdf' : ''}?under=${under}`, '_blank', 'noopener')
          }
        />
        <Button
          size="xs"
          colorPalette="dye"
          disabled={out.length === 0 || taking}
          title="Brings every frame that stands out to its anchor; one undo takes all back"
          onClick={() =>
            void accept(
              out.map((f) => f.id),
              1,
              `${out.length} ${out.length === 1 ? 'proposal' : 'proposals'} taken`,
            )
          }
        >
          Take {out.length} {out.length === 1 ? 'proposal' : 'proposals'}
        </Button>
      </TopBar>
      <main id="main" tabIndex={-1} className="evenness">
        <div className="even-main" ref={main}>
          <header>
            <h2>
              {known.length - out.length} of {all.length} frames even
            </h2>
            <p>
              within {even.tolerance.toFixed(1)} ΔE of their anchor{even.look ? `, under ${even.look}` : ', before any look'}
            </p>
            {comparing && (
              <p role="status" className="even-progress">
                comparing {comparing.done} of {comparing.total} frames…
              </p>
            )}
            <Rove role="radiogroup" aria-label="What is judged" className="even-under">
              {(
                [
                  ['look', 'Finished pictures'],
                  ['none', 'Before the look'],
                ] as const
              ).map(([value, words]) => (
                <button key={value} type="button" role="radio" aria-checked={under === value} onClick={() => onUnder(value)}>
                  {words}
                </button>
              ))}
            </Rove>
            <MatchWays shootId={shoot.id} by={even.by} brings={even.parts} />
          </header>
          {all.length === 0 ? (
            <Nothing title="No frames yet" words="Bring raws in first: evenness compares the frames of each light." />
          ) : (
            <>
              <StripChart
                title="Exposure"
                words="EV from the anchor · hollow: as it is, filled: proposed"
                of={(a) => a.ev}
                least={0.5}
                band={0.1}
                unit="EV"
                out={outIds}
                {...chart}
              />
              <StripChart
                title="Warmth"
                words="mired from the anchor, warmer upwards"
                of={(a) => a.mired}
                least={20}
                band={3}
                unit="mired"
                out={outIds}
                {...chart}
              />
              <DifferenceChart tolerance={even.tolerance} {...chart} />
              <Thumbs shoot={shoot} stands={stands} chosen={shown?.id ?? null} tolerance={even.tolerance} onChoose={setChosen} />
            </>
          )}
        </div>
        <Proposal
          shoot={shoot}
          even={even}
          under={under}
          frame={shown}
          place={shown && outIds.has(shown.id) ? out.findIndex((f) => f.id === shown.id) + 1 : 0}
          outliers={out.length}
          onTake={takeOne}
          onLeave={() => go(1)}
          onChoose={setChosen}
        />
      </main>
      {lights && (
        <Suspense fallback={null}>
          <LightsSheet shoot={shoot} even={even} onClose={() => setLights(false)} />
        </Suspense>
      )}
    </div>
  );
}
