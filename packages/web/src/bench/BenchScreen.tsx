import { stepsOf, type Look } from '@dyepot/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { useShortcut } from '../kit/useShortcut.ts';
import { shallowEqual } from 'react-redux';
import { useSearchParams } from 'react-router';
import { messageOf, useShootQuery, useShootsQuery } from '../api.ts';
import { QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame, Shoot } from '../types.ts';
import { useDarkroom } from '../view/useDarkroom.ts';
import { FrameView } from '../view/FrameView.tsx';
import type { ViewState } from '../view/layout.ts';
import { useReadoutSignal } from '../view/readoutSignal.ts';
import { ViewTools } from '../view/ViewTools.tsx';
import { act, docOf } from './benchSlice.ts';
import { stepsIn } from './ownChain.ts';
import { withWet } from './painting.ts';
import { fetchControls } from '../steps/index.ts';
import { Chain } from './Chain.tsx';
import { useOfferedStock } from './useOfferedStock.ts';
import { useOpening } from './useOpening.ts';
import { useSavingLook } from './useSavingLook.tsx';
import { Tray } from './Tray.tsx';
import { usePictureTools } from './usePictureTools.ts';
import { Witnesses } from './Witnesses.tsx';
import { BenchBar } from './BenchBar.tsx';

export default function BenchScreen(): React.JSX.Element {
  const { opening, choose } = useOpening(),
    kept = useAppSelector((s) => s.bench.shootId),
    { data: shoots, error } = useShootsQuery(),
    asked = useSearchParams()[0].get('shoot'),
    // a shoot the address names is shown or said to be gone; one merely remembered gives way to another
    shootId = asked !== null || shoots?.some((s) => s.id === kept) ? kept : (shoots?.[0]?.id ?? null),
    { data: shoot, error: shootError } = useShootQuery(shootId ?? 0, { skip: shootId === null });
  if (shoots?.length === 0)
    return (
      <QuietPage
        page="Bench"
        title="Nothing on the bench yet"
        words="A look is designed on real frames. Bring in a shoot first."
        way={{ to: '/shoots', words: 'Go to Shoots' }}
      />
    );
  if (opening.state === 'failed')
    return (
      <QuietPage
        page="Bench"
        title="This look cannot be laid on the bench"
        words={opening.message}
        way={{ to: '/shelf', words: 'Go to the Shelf' }}
      />
    );
  if (opening.state === 'choosing') return <DraftChoice choice={opening.choice} onChosen={choose} />;
  const failed = error ?? shootError;
  if (!shoot && failed)
    return (
      <QuietPage page="Bench" title="The bench cannot be set up" words={messageOf(failed)} way={{ to: '/shoots', words: 'Go to Shoots' }} />
    );
  if (!shoot || opening.state === 'opening') return <WaitingPage page="Bench" words="Laying out the frames…" />;
  if (shoot.frames.length === 0)
    return (
      <QuietPage
        page="Bench"
        title="This shoot has no frames"
        words="Bring in raw files, then come back to the bench."
        way={{ to: `/shoots/${shoot.id}`, words: 'Open the shoot' }}
      />
    );
  return <Bench shoot={shoot} />;
}

const beforeGround = (lead: Frame, before: 'ground' | 'decoded'): React.ComponentProps<typeof FrameView>['before'] =>
  before === 'ground'
    ? { look: null, ground: lead.groundwork, words: 'groundwork only' }
    : { look: null, ground: null, words: 'as decoded' };

const Places = lazy(() => import('../where/Places.tsx').then((m) => ({ default: m.Places })));
const DraftChoice = lazy(() => import('./DraftChoice.tsx').then((m) => ({ default: m.DraftChoice })));
const BakeSheet = lazy(() => import('./BakeSheet.tsx').then((m) => ({ default: m.BakeSheet })));

const restMs = 240,
  shapeOf = (look: Look): string =>
    stepsOf(look)
      .map((s) => `${s.id} ${s.on} ${s.name} ${s.skein} ${s.mask !== null}`)
      .join() + look.skeins.map((k) => `${k.id} ${k.on} ${k.name} ${k.mask !== null}`).join();
/**
 * The look once the hand rests; at once where its steps change. The controls and the pictures follow every move by
 * themselves, the rest of the page need not be drawn anew with each.
 */
function useRested(newest: Look): Look {
  const [rested, setRested] = useState(newest);
  useEffect(() => {
    const timer = setTimeout(() => setRested(newest), restMs);
    return () => clearTimeout(timer);
  }, [newest]);
  return shapeOf(rested) === shapeOf(newest) ? rested : newest;
}

function Bench({ shoot }: { shoot: Shoot }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    {
      look: newest,
      selected,
      leadId,
      view,
      readout,
      before,
      witnessIds,
      side,
      showPlace,
      placeHeld,
      placeTint,
      // not what is being painted, which is another many times a second
    } = useAppSelector(({ bench: { wet: _wet, brush: _brush, ...rest } }) => rest, shallowEqual),
    inHand = useAppSelector((s) => docOf(s.bench).look);
  const look = useRested(newest),
    chained = useRested(inHand),
    signal = useReadoutSignal();
  // the other steps' controls come when the picture stands and the page has settled
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const leave = signal.subscribe(() => (timer ??= setTimeout(fetchControls, 2000)));
    return () => {
      leave();
      clearTimeout(timer);
    };
  }, [signal]);
  const darkroom = useDarkroom();
  const [baking, setBaking] = useState(false),
    bake = useCallback(() => setBaking(true), []),
    onView = useCallback(
      (change: Partial<ViewState>): void => {
        dispatch(act.viewSet(change));
      },
      [dispatch],
    ),
    saving = useSavingLook(shoot);
  useOfferedStock();
  const lead = shoot.frames.find((f) => f.id === leadId) ?? shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0]!;
  useEffect(() => {
    dispatch(act.shootOpened({ shootId: shoot.id, leadId: lead.id }));
  }, [dispatch, shoot.id, lead.id]);

  useEffect(() => {
    dispatch(act.ownOpened({ frameId: lead.id, steps: lead.steps, version: lead.stepsVersion }));
  }, [dispatch, lead.id, lead.steps, lead.stepsVersion]);
  const own = useAppSelector((s) => s.bench.owns[lead.id]?.look),
    steps = own ? stepsIn(own) : lead.steps,
    placedIds = [...inHand.skeins, ...stepsOf(inHand)].flatMap((h) => (h.mask ? h.id : [])),
    somewhere = placedIds.length > 0,
    held = placedIds.includes(selected),
    place = useMemo(() => {
      const as = showPlace === 'held' ? (placeHeld ? 'tint' : 'off') : showPlace;
      return held && as !== 'off' ? { id: selected, as, tint: placeTint } : null;
    }, [held, selected, showPlace, placeHeld, placeTint]);
  const tools = usePictureTools(newest, steps, side, selected, lead),
    { shown, shownSteps, passing, onPick, onPull } = tools;
  useShortcut('escape', () => tools.onTool('off'));
  useShortcut('mod+z', () => dispatch(act.undone()), { preventDefault: true });
  useShortcut('mod+shift+z, mod+y', () => dispatch(act.redone()), { preventDefault: true });
  const table = useMemo(
    () =>
      darkroom && (
        // the lead stands first, so that its pieces are asked for before the witnesses'
        <div className="table">
          <FrameView
            darkroom={darkroom}
            frame={lead}
            look={shown(look)}
            ground={lead.groundwork}
            steps={shownSteps(steps)}
            place={place}
            passing={passing}
            onPick={onPick}
            onPull={onPull}
            before={beforeGround(lead, before)}
            view={view}
            onView={onView}
            live={(s) => {
              const { wet, owns } = s.bench,
                mine = owns[lead.id]?.look;
              return {
                look: shown(withWet(s.bench.look, wet)),
                ground: lead.groundwork,
                steps: shownSteps(mine ? stepsIn(withWet(mine, wet)) : lead.steps),
                only: wet?.area ?? null,
              };
            }}
            readout={readout}
            onReadouts={signal.set}
          >
            {(placed) =>
              somewhere && (
                <Suspense>
                  <Places frame={lead} placed={placed} />
                </Suspense>
              )
            }
          </FrameView>
          <ViewTools
            view={view}
            onView={onView}
            befores={[
              { value: 'ground', words: 'before: groundwork only' },
              { value: 'decoded', words: 'before: as decoded' },
            ]}
            before={before}
            onBefore={(v) => dispatch(act.beforeChosen(v as 'ground'))}
          />
        </div>
      ),
    [
      darkroom,
      lead,
      look,
      shown,
      passing,
      onPick,
      onPull,
      before,
      view,
      onView,
      readout,
      signal,
      dispatch,
      steps,
      shownSteps,
      place,
      somewhere,
    ],
  );
  const witnesses = useMemo(
    () =>
      darkroom && (
        <Witnesses
          darkroom={darkroom}
          frames={shoot.frames}
          look={look}
          leadId={lead.id}
          ids={witnessIds ?? shoot.witnessIds}
          auto={witnessIds === null}
        />
      ),
    [darkroom, shoot, look, lead.id, witnessIds],
  );
  const chain = useMemo(() => <Chain look={chained} selected={selected} side={side} frame={lead} />, [chained, selected, side, lead]);
  return (
    <div className="bench">
      <BenchBar shoot={shoot} saving={saving.hand} onBake={bake} />
      <main id="main" tabIndex={-1} className="pass-through">
        {table}
        {witnesses}
        <Tray look={inHand} side={side} frame={lead} selected={selected} signal={signal} tools={tools} />
        {chain}
      </main>
      {saving.sheet}
      {baking && (
        <Suspense>
          <BakeSheet look={newest} onClose={() => setBaking(false)} />
        </Suspense>
      )}
    </div>
  );
}
