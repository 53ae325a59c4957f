import { emptyLook, stepsOf, type Look } from '@dyepot/core';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useSearchParams } from 'react-router';
import { messageOf, useCreateLookMutation, useLooksQuery, useShootQuery, useShootsQuery } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame, Shoot } from '../types.ts';
import { Darkroom } from '../view/darkroom.ts';
import { FrameView } from '../view/FrameView.tsx';
import type { ViewState } from '../view/layout.ts';
import { useReadoutSignal } from '../view/readoutSignal.ts';
import { keys, ViewTools } from '../view/ViewTools.tsx';
import { BakeSheet } from './BakeSheet.tsx';
import { act } from './benchSlice.ts';
import { Chain } from './Chain.tsx';
import { NameLook } from './NameLook.tsx';
import { Tray } from './Tray.tsx';
import { usePictureTools } from './usePictureTools.ts';
import { Witnesses } from './Witnesses.tsx';
import { BenchBar } from './BenchBar.tsx';

/** Opens what the address asks for (?shoot, ?look, ?frame), once; otherwise the bench stands as it was left. */
function useOpening(): number | null {
  const dispatch = useAppDispatch(),
    [search, setSearch] = useSearchParams(),
    { data: looks } = useLooksQuery(),
    { data: shoots } = useShootsQuery(),
    kept = useAppSelector((s) => s.bench.shootId);
  const asked = search.get('shoot') ?? search.get('look');
  useEffect(() => {
    if (!asked || !looks) return;
    const shoot = search.get('shoot'),
      frame = search.get('frame'),
      lookId = search.get('look');
    if (shoot) dispatch(act.shootOpened({ shootId: Number(shoot), leadId: frame ? Number(frame) : null }));
    if (lookId === 'new') dispatch(act.lookOpened({ lookId: null, revision: null, look: emptyLook('New look') }));
    else if (lookId) {
      const look = looks.find((l) => l.id === Number(lookId));
      if (look) dispatch(act.lookOpened({ lookId: look.id, revision: look.revision, look: look.document }));
    }
    setSearch({}, { replace: true });
  }, [asked, looks, dispatch, search, setSearch]);
  if (asked) return null;
  return shoots?.some((s) => s.id === kept) ? kept : (shoots?.[0]?.id ?? null);
}

export default function BenchScreen(): React.JSX.Element {
  const shootId = useOpening(),
    { data: shoots, error } = useShootsQuery(),
    { data: shoot } = useShootQuery(shootId ?? 0, { skip: shootId === null });
  if (error) return <QuietPage title="The bench cannot be set up" words={messageOf(error)} />;
  if (shoots?.length === 0)
    return (
      <QuietPage
        title="Nothing on the bench yet"
        words="A look is designed on real frames. Bring in a shoot first."
        way={{ to: '/shoots', words: 'Go to Shoots' }}
      />
    );
  if (!shoot) return <WaitingPage words="Laying out the frames…" />;
  if (shoot.frames.length === 0)
    return (
      <QuietPage
        name={shoot.name}
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

const restMs = 240,
  shapeOf = (look: Look): string =>
    stepsOf(look)
      .map((s) => `${s.id} ${s.on} ${s.name}`)
      .join();
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
    { look: newest, selected, leadId, view, readout, before, witnessIds } = useAppSelector((s) => s.bench);
  const look = useRested(newest),
    signal = useReadoutSignal();
  // made in an effect, since workers must end with the screen
  const [darkroom, setDarkroom] = useState<Darkroom | null>(null);
  useEffect(() => {
    const d = new Darkroom();
    setDarkroom(d);
    return () => {
      setDarkroom(null);
      d.close();
    };
  }, []);
  const [naming, setNaming] = useState<'new' | 'copy' | null>(null),
    [baking, setBaking] = useState(false),
    bake = useCallback(() => setBaking(true), []),
    onView = useCallback(
      (change: Partial<ViewState>): void => {
        dispatch(act.viewSet(change));
      },
      [dispatch],
    ),
    [createLook] = useCreateLookMutation();
  const lead = shoot.frames.find((f) => f.id === leadId) ?? shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0]!;
  useEffect(() => {
    dispatch(act.shootOpened({ shootId: shoot.id, leadId: lead.id }));
  }, [dispatch, shoot.id, lead.id]);

  const saveAs = async (name: string, family: string, notes: string): Promise<void> => {
    try {
      const saved = await createLook({ ...newest, name, family, notes }).unwrap();
      dispatch(act.lookDescribed({ name, family, notes }));
      dispatch(act.revisionSaved({ lookId: saved.id, revision: saved.revision, name }));
      setNaming(null);
      tell(`${name} is on the shelf`);
    } catch (error) {
      complain(messageOf(error));
    }
  };
  const tools = usePictureTools(newest, selected, lead),
    { shown, passing, onPick, onPull } = tools;
  useHotkeys('escape', () => tools.onTool('off'));
  useHotkeys('mod+z', () => dispatch(act.undone()), { ...keys, preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => dispatch(act.redone()), { ...keys, preventDefault: true });
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
            passing={passing}
            onPick={onPick}
            onPull={onPull}
            before={beforeGround(lead, before)}
            view={view}
            onView={onView}
            live={(s) => ({ look: shown(s.bench.look), ground: lead.groundwork })}
            readout={readout}
            onReadouts={signal.set}
          />
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
    [darkroom, lead, look, shown, passing, onPick, onPull, before, view, onView, readout, signal, dispatch],
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
  const chain = useMemo(() => <Chain look={look} selected={selected} />, [look, selected]);
  return (
    <div className="bench">
      <BenchBar shoot={shoot} onName={setNaming} onBake={bake} />
      {table}
      {witnesses}
      <Tray look={newest} selected={selected} signal={signal} tools={tools} />
      {chain}
      {baking && <BakeSheet look={newest} onClose={() => setBaking(false)} />}
      {naming && (
        <NameLook
          look={newest}
          title={naming === 'new' ? 'Put this look on the shelf' : 'Save as another look'}
          onClose={() => setNaming(null)}
          onSave={(name, family, notes) => void saveAs(name, family, notes)}
        />
      )}
    </div>
  );
}
