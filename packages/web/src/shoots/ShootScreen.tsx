import { Button } from '@chakra-ui/react';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { messageOf, useJobsQuery, useShootQuery, useUpdateShootMutation } from '../api.ts';
import { TopBar } from '../kit/TopBar.tsx';
import { useShortcut } from '../kit/useShortcut.ts';
import { Nothing, QuietPage, Waiting, WaitingPage } from '../kit/Waiting.tsx';
import { EvenMarksOf, useEvenMarks } from '../evenness/index.ts';
import type { Frame, Shoot } from '../types.ts';
import { everything, filters, marks, through, type Filter } from './choosing.ts';
import { ContactSheet } from './ContactSheet.tsx';
import { FilterBar } from './FilterBar.tsx';
import { SelectionBar } from './SelectionBar.tsx';
import { useChosen } from './useChosen.ts';
import { useFrameActions } from './useFrameActions.ts';
import { useSaying } from './useSaying.ts';
import { useSidecars } from './useSidecars.ts';
import { WorkPath } from './WorkPath.tsx';
import { pictureUrl, sheetPictureUrl } from '../pictures.ts';

const BringIn = lazy(() => import('./BringIn.tsx').then((m) => ({ default: m.BringIn })));
const DeliverSheet = lazy(() => import('../deliveries/DeliverSheet.tsx').then((m) => ({ default: m.DeliverSheet })));
const LookSheet = lazy(() => import('./LookSheet.tsx').then((m) => ({ default: m.LookSheet })));
const LightSheet = lazy(() => import('./LightSheet.tsx').then((m) => ({ default: m.LightSheet })));
const GroupSheet = lazy(() => import('./GroupSheet.tsx').then((m) => ({ default: m.GroupSheet })));
const ChangeSheet = lazy(() => import('./ChangeSheet.tsx').then((m) => ({ default: m.ChangeSheet })));
const MergeSheet = lazy(() => import('./MergeSheet.tsx').then((m) => ({ default: m.MergeSheet })));
const StartSheet = lazy(() => import('./StartSheet.tsx').then((m) => ({ default: m.StartSheet })));
const DustSheet = lazy(() => import('./DustSheet.tsx').then((m) => ({ default: m.DustSheet })));
const FindSheet = lazy(() => import('./FindSheet.tsx').then((m) => ({ default: m.FindSheet })));

export default function ShootScreen(): React.JSX.Element {
  const asked = useParams()['id'] ?? '',
    sound = /^\d{1,15}$/.test(asked),
    { data: shoot, error } = useShootQuery(Number(asked), { skip: !sound });
  const gone = !sound || (error as { status?: unknown } | undefined)?.status === 404;
  if (gone && !shoot)
    return (
      <QuietPage
        page="No such shoot"
        title="There is no such shoot"
        words="It may have been taken out: the trash keeps shoots for 30 days."
        way={{ to: '/shoots', words: 'All shoots' }}
      />
    );
  if (error && !shoot)
    return (
      <QuietPage page="Shoot" title="This shoot cannot be shown" words={messageOf(error)} way={{ to: '/shoots', words: 'All shoots' }} />
    );
  if (!shoot) return <WaitingPage page="Shoot" words="Opening the shoot…" />;
  return <ShootPage key={shoot.id} shoot={shoot} />;
}

/** A look that is about to be worn: by the shoot, or by frames alone. */
interface Wish {
  look: { id: number; revision: number } | null;
  /** null: the whole shoot */
  frames: Frame[] | null;
}
type Open =
  'bring' | 'group' | 'deliver' | 'look' | 'own look' | 'light' | 'start' | 'dust' | 'merge' | { find: Frame } | { wish: Wish } | null;

function ShootPage({ shoot }: { shoot: Shoot }): React.JSX.Element {
  const navigate = useNavigate(),
    [search, setSearch] = useSearchParams();
  const { ids, choose, set } = useChosen(shoot.id, shoot.frames);
  const [sheet, setSheet] = useState<Open>(null),
    close = (): void => setSheet(null),
    /** Shows what a look would change, once the click that chose it is over: a sheet opened within it would be closed by it. */
    ask = (wish: Wish): void => {
      close();
      setTimeout(() => setSheet({ wish }), 60);
    };
  const { data: jobs } = useJobsQuery();
  const [updateShoot] = useUpdateShootMutation();

  useEffect(() => {
    if (!search.has('bring')) return;
    setSheet('bring');
    setSearch({}, { replace: true });
  }, [search, setSearch]);
  const imports = useMemo(() => jobs?.filter((j) => j.kind === 'import' && j.shootId === shoot.id) ?? [], [jobs, shoot.id]);
  const importing = imports.some((j) => j.state === 'running' || j.state === 'waiting');
  const lights = useMemo(() => [...new Set(shoot.frames.map((f) => f.light))], [shoot.frames]),
    chosen = useMemo(() => shoot.frames.filter((f) => ids.has(f.id)), [shoot.frames, ids]),
    count = chosen.length || shoot.frames.length;
  const { attempt, take, dip, dress, wear } = useFrameActions(shoot, () => set([]));
  const bench = useCallback(
    (frame?: Frame): void => {
      const worn = frame?.look ?? (shoot.look?.broken ? null : shoot.look),
        look = worn ? `&look=${worn.id}&revision=${worn.revision}` : '';
      void navigate(`/bench?shoot=${shoot.id}${frame ? `&frame=${frame.id}` : ''}${look}`);
    },
    [navigate, shoot.id, shoot.look],
  );
  const find = useCallback((frame: Frame): void => setSheet({ find: frame }), []);
  const [filter, setFilter] = useState<Filter>(everything),
    even = useEvenMarks(shoot),
    shown = useMemo(() => through(shoot.frames, filter, even), [shoot.frames, filter, even]),
    filtered = useMemo(() => ({ ...shoot, frames: shown }), [shoot, shown]);
  const say = useSaying(),
    sidecars = useSidecars(say),
    nameOf = (of: readonly Frame[]): string => (of.length === 1 ? of[0]!.name : `${of.length} frames`),
    moveTo = (of: readonly Frame[], light: string): void =>
      say(
        of.map((f) => ({ id: f.id, light })),
        `${nameOf(of)}: ${light}`,
      ),
    /** What the keys are about: the chosen frames, or the one the keys stand on where it is none of them. */
    meant = (): Frame[] => {
      const at = Number((document.activeElement as HTMLElement | null)?.dataset['frame']),
        focused = shoot.frames.find((f) => f.id === at);
      return focused && !ids.has(at) ? [focused] : chosen;
    },
    rate = (rating: number): void => {
      const of = meant();
      say(
        of.map((f) => ({ id: f.id, rating })),
        `${nameOf(of)}: ${rating < 0 ? 'rejected' : rating === 0 ? 'no rating' : `rated ${rating}`}`,
      );
    };
  useShortcut('0,1,2,3,4,5', (e) => {
    if (/^[0-5]$/.test(e.key)) rate(Number(e.key));
  });
  useShortcut('r', () => {
    rate(meant().every((f) => f.rating < 0) ? 0 : -1);
  });
  useShortcut('m', () => {
    const of = meant(),
      order = ['', ...marks.map((m) => m.mark)],
      next = order[(order.indexOf(of[0]?.mark ?? '') + 1) % order.length]!;
    say(
      of.map((f) => ({ id: f.id, mark: next })),
      `${nameOf(of)}: ${marks.find((m) => m.mark === next)?.words ?? 'no mark'}`,
    );
  });
  useShortcut('mod+a', () => set(shown.map((f) => f.id)), { preventDefault: true });
  useShortcut('escape', () => set([]));
  useShortcut('delete', () => {
    if (chosen.length > 0) void take(chosen);
  });
  return (
    <div className="page">
      <TopBar
        page={shoot.name}
        title={shoot.name}
        note={`${shoot.frames.length} ${shoot.frames.length === 1 ? 'frame' : 'frames'}, ${lights.length} ${lights.length === 1 ? 'light' : 'lights'}`}
      >
        <Button size="xs" variant="outline" onClick={() => setSheet('bring')}>
          Bring raws in
        </Button>
        <Button size="xs" variant="outline" disabled={shoot.frames.length === 0} onClick={() => bench(chosen[0])}>
          Design a look
        </Button>
        <Button size="xs" colorPalette="dye" disabled={shoot.frames.length === 0} onClick={() => setSheet('deliver')}>
          Deliver {count} {count === 1 ? 'frame' : 'frames'}
        </Button>
      </TopBar>
      <main id="main" tabIndex={-1}>
        <WorkPath
          shoot={shoot}
          imports={imports}
          onOpen={setSheet}
          onDropped={(own, then) => {
            set(own);
            setSheet(then);
          }}
        />
        {shoot.frames.length === 0 ? (
          importing ? (
            <Waiting words="Reading the first frames…" />
          ) : (
            <Nothing title="No frames yet" words="Name a folder of raw files on this machine, or drop files in.">
              <Button size="sm" colorPalette="dye" onClick={() => setSheet('bring')}>
                Bring raws in
              </Button>
            </Nothing>
          )
        ) : (
          <EvenMarksOf value={even}>
            <FilterBar frames={shoot.frames} shown={shown.length} filter={filter} onFilter={setFilter} onGroup={() => setSheet('group')} />
            {shown.length === 0 ? (
              <Nothing title="Nothing is let through" words="No frame is rated, marked and lit as asked.">
                <Button size="sm" variant="outline" onClick={() => setFilter(everything)}>
                  Show all
                </Button>
              </Nothing>
            ) : (
              <ContactSheet
                shoot={filters(filter) || filter.order !== 'name' ? filtered : shoot}
                selected={ids}
                onChoose={choose}
                onOpen={bench}
                onFind={find}
                onLight={moveTo}
              />
            )}
          </EvenMarksOf>
        )}
        {chosen.length > 0 && (
          <SelectionBar
            chosen={chosen}
            onBench={bench}
            onSide={() =>
              void navigate(
                `/shoots/${shoot.id}/compare?frames=${chosen.map((f) => f.id).join()}&side=${chosen.length === 1 ? 1 : chosen.length === 2 ? 2 : chosen.length <= 4 ? 4 : 6}`,
              )
            }
            onLead={(f) => void attempt(updateShoot({ id: shoot.id, leadFrameId: f.id }).unwrap(), `${f.name} leads`)}
            onFind={find}
            onStart={() => setSheet('start')}
            onDust={() => setSheet('dust')}
            onLight={() => setSheet('light')}
            onLook={() => setSheet('own look')}
            onDip={() => void dip(chosen)}
            onSidecars={(way) => void sidecars(way, chosen)}
            onMerge={() => setTimeout(() => setSheet('merge'), 60)}
            onTakeOut={() => void take(chosen)}
            onClear={() => set([])}
          />
        )}
      </main>
      <Suspense>
        {sheet === 'bring' && <BringIn shootId={shoot.id} onClose={close} />}
        {sheet === 'deliver' && (
          <DeliverSheet shoot={shoot} frameIds={chosen.length > 0 ? chosen.map((f) => f.id) : null} onClose={close} />
        )}
        {sheet === 'group' && (
          <GroupSheet
            shoot={shoot}
            onClose={close}
            onTake={(said, groups) => {
              say(said, `${said.length} frames moved; ${groups} groups of light`);
              close();
            }}
          />
        )}
        {sheet === 'look' && (
          <LookSheet
            title="The shoot’s look"
            none={{ name: 'Neutral response', words: 'no look' }}
            worn={shoot.look}
            onClose={close}
            onChosen={(id, revision) => ask({ look: id === null ? null : { id, revision: revision! }, frames: null })}
          />
        )}
        {sheet === 'own look' && chosen.length > 0 && (
          <LookSheet
            title={chosen.length === 1 ? `A look for ${chosen[0]!.name} alone` : `A look for ${chosen.length} frames alone`}
            none={{ name: 'The shoot’s look', words: shoot.look?.name ?? 'neutral response' }}
            worn={chosen[0]!.look}
            onClose={close}
            onChosen={(id, revision) => ask({ look: id === null ? null : { id, revision: revision! }, frames: chosen })}
          />
        )}
        {typeof sheet === 'object' && sheet !== null && 'wish' in sheet && (
          <ChangeSheet
            title="What will change"
            frames={sheet.wish.frames ?? shoot.frames.filter((f) => !f.look)}
            now={(f) => sheetPictureUrl(f, shoot.look, 360, shoot.rendition)}
            then={(f) => pictureUrl(f, sheet.wish.look ?? (sheet.wish.frames ? shoot.look : null), 360, shoot.rendition)}
            words={
              sheet.wish.frames
                ? sheet.wish.look
                  ? 'Let them wear it'
                  : 'Back to the shoot’s look'
                : sheet.wish.look
                  ? 'Let the shoot wear it'
                  : 'Take the look off'
            }
            onClose={close}
            onTake={() => {
              const { look, frames } = sheet.wish;
              if (frames) void dress(frames, look);
              else void wear(look);
              close();
            }}
          />
        )}
        {typeof sheet === 'object' && sheet !== null && 'find' in sheet && <FindSheet frame={sheet.find} onClose={close} />}
        {sheet === 'dust' && chosen.length > 1 && <DustSheet shoot={shoot} frames={chosen.filter((f) => !f.missing)} onClose={close} />}
        {sheet === 'merge' && <MergeSheet shoot={shoot} chosen={chosen.filter((f) => !f.missing)} onClose={close} />}
        {sheet === 'start' && chosen.length > 0 && <StartSheet shoot={shoot} frames={chosen} onClose={close} />}
        {sheet === 'light' && chosen.length > 0 && (
          <LightSheet
            first={chosen[0]!.light}
            count={chosen.length}
            lights={lights}
            onClose={close}
            onSet={(light) => {
              moveTo(chosen, light);
              close();
            }}
          />
        )}
      </Suspense>
    </div>
  );
}
