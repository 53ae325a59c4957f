import { emptyLook, number, type Readouts } from '@dyepot/core';
import { Button, IconButton } from '@chakra-ui/react';
import { Redo2, Undo2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useSearchParams } from 'react-router';
import { messageOf, useApplyLookMutation, useCreateLookMutation, useLooksQuery, useSaveRevisionMutation, useShootQuery, useShootsQuery } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Shoot } from '../types.ts';
import { Darkroom } from '../view/darkroom.ts';
import { FrameView } from '../view/FrameView.tsx';
import type { ViewState } from '../view/layout.ts';
import { keys, ViewTools } from '../view/ViewTools.tsx';
import { BakeSheet } from './BakeSheet.tsx';
import { act } from './benchSlice.ts';
import { Chain } from './Chain.tsx';
import { NameLook } from './NameLook.tsx';
import { Tray } from './Tray.tsx';
import { usePictureTools } from './usePictureTools.ts';
import { Witnesses } from './Witnesses.tsx';

const strength = number('Look strength', '%', 0, 200, 100, 1, 0);

/** Opens what the address asks for (?shoot, ?look, ?frame), once; otherwise the bench stands as it was left. */
function useOpening(): number | null {
  const dispatch = useAppDispatch(), [search, setSearch] = useSearchParams(), { data: looks } = useLooksQuery(), { data: shoots } = useShootsQuery(), kept = useAppSelector((s) => s.bench.shootId);
  const asked = search.get('shoot') ?? search.get('look');
  useEffect(() => {
    if (!asked || !looks) return;
    const shoot = search.get('shoot'), frame = search.get('frame'), lookId = search.get('look');
    if (shoot) dispatch(act.shootOpened({ shootId: Number(shoot), leadId: frame ? Number(frame) : null }));
    if (lookId === 'new') dispatch(act.lookOpened({ lookId: null, revision: null, look: emptyLook('New look') }));
    else if (lookId) { const look = looks.find((l) => l.id === Number(lookId)); if (look) dispatch(act.lookOpened({ lookId: look.id, revision: look.revision, look: look.document })); }
    setSearch({}, { replace: true });
  }, [asked, looks, dispatch, search, setSearch]);
  if (asked) return null;
  return shoots?.some((s) => s.id === kept) ? kept : (shoots?.[0]?.id ?? null);
}

export default function BenchScreen(): React.JSX.Element {
  const shootId = useOpening(), { data: shoots, error } = useShootsQuery(), { data: shoot } = useShootQuery(shootId ?? 0, { skip: shootId === null });
  if (error) return <><TopBar /><Nothing title="The bench cannot be set up" words={messageOf(error)} /></>;
  if (shoots?.length === 0) return <><TopBar /><Nothing title="Nothing on the bench yet" words="A look is designed on real frames. Bring in a shoot first."><Button asChild size="sm" colorPalette="dye"><Link to="/shoots">Go to Shoots</Link></Button></Nothing></>;
  if (!shoot) return <><TopBar /><Waiting words="Laying out the frames…" /></>;
  if (shoot.frames.length === 0) return <><TopBar title={shoot.name} /><Nothing title="This shoot has no frames" words="Bring in raw files, then come back to the bench."><Button asChild size="sm" colorPalette="dye"><Link to={`/shoots/${shoot.id}`}>Open the shoot</Link></Button></Nothing></>;
  return <Bench shoot={shoot} />;
}

function Bench({ shoot }: { shoot: Shoot }): React.JSX.Element {
  const dispatch = useAppDispatch(), state = useAppSelector((s) => s.bench), { look } = state;
  // made in an effect, since workers must end with the screen
  const [darkroom, setDarkroom] = useState<Darkroom | null>(null);
  useEffect(() => { const d = new Darkroom(); setDarkroom(d); return () => { setDarkroom(null); d.close(); }; }, []);
  const [readouts, setReadouts] = useState<Readouts | null>(null), [naming, setNaming] = useState<'new' | 'copy' | null>(null), [baking, setBaking] = useState(false), onView = (change: Partial<ViewState>): void => { dispatch(act.viewSet(change)); };
  const [createLook] = useCreateLookMutation(), [saveRevision, saving] = useSaveRevisionMutation(), [applyLook] = useApplyLookMutation();
  const lead = shoot.frames.find((f) => f.id === state.leadId) ?? shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0]!;

  useEffect(() => { dispatch(act.shootOpened({ shootId: shoot.id, leadId: lead.id })); }, [dispatch, shoot.id, lead.id]);

  const save = async (): Promise<{ id: number; revision: number } | null> => {
    if (state.lookId === null) { setNaming('new'); return null; }
    try {
      const saved = await saveRevision({ id: state.lookId, look }).unwrap();
      dispatch(act.revisionSaved({ lookId: saved.id, revision: saved.revision, name: saved.name }));
      tell(`${saved.name} saved as revision ${saved.revision}`);
      return saved;
    } catch (error) { complain(messageOf(error)); return null; }
  };
  const saveAs = async (name: string, family: string, notes: string): Promise<void> => {
    try {
      const saved = await createLook({ ...look, name, family, notes }).unwrap();
      dispatch(act.lookDescribed({ name, family, notes }));
      dispatch(act.revisionSaved({ lookId: saved.id, revision: saved.revision, name }));
      setNaming(null);
      tell(`${name} is on the shelf`);
    } catch (error) { complain(messageOf(error)); }
  };
  const applyToShoot = async (): Promise<void> => {
    const at = state.edited || state.lookId === null ? await save() : { id: state.lookId, revision: state.revision! };
    if (!at) return;
    try {
      await applyLook({ shootId: shoot.id, lookId: at.id, revision: at.revision }).unwrap();
      tell(`${shoot.name} now wears ${look.name}, revision ${at.revision}`);
    } catch (error) { complain(messageOf(error)); }
  };

  const tools = usePictureTools(look, state.selected);
  useHotkeys('escape', () => tools.onTool('off'));
  useHotkeys('mod+z', () => dispatch(act.undone()), { ...keys, preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => dispatch(act.redone()), { ...keys, preventDefault: true });
  useHotkeys('mod+s', () => void save(), { ...keys, preventDefault: true });
  return (
    <div className="bench">
      <TopBar
        title={<><Link to={`/shoots/${shoot.id}`} className="crumb">{shoot.name}</Link><b data-testid="look-name">{look.name}</b></>}
        note={<span data-testid="look-state">{state.revision === null ? 'not saved yet' : `revision ${state.revision}${state.edited ? ', edited' : ''}`}</span>}
      >
        <div className="look-strength"><NumberControl parameter={strength} label="Strength" value={Math.round(look.strength * 1000) / 10} onChange={(v, gesture) => dispatch(act.lookStrengthSet({ strength: v / 100, gesture: `look-${gesture}` }))} /></div>
        <IconButton aria-label={state.past.length ? `Undo ${state.past[state.past.length - 1]!.words}` : 'Undo'} title={state.past.length ? `Undo ${state.past[state.past.length - 1]!.words}` : 'Nothing to undo'} size="xs" variant="ghost" disabled={state.past.length === 0} onClick={() => dispatch(act.undone())}><Undo2 size={16} /></IconButton>
        <IconButton aria-label="Redo" title={state.future.length ? `Redo ${state.future[state.future.length - 1]!.words}` : 'Nothing to redo'} size="xs" variant="ghost" disabled={state.future.length === 0} onClick={() => dispatch(act.redone())}><Redo2 size={16} /></IconButton>
        <Button size="xs" variant="outline" title="As a lookup table for other programs" onClick={() => setBaking(true)}>Bake…</Button>
        <Button size="xs" variant="outline" onClick={() => setNaming('copy')}>Save as…</Button>
        <Button size="xs" variant="outline" disabled={state.lookId !== null && !state.edited} loading={saving.isLoading} onClick={() => void save()}>{state.lookId === null ? 'Save look' : 'Save revision'}</Button>
        <Button size="xs" colorPalette="dye" onClick={() => void applyToShoot()}>Apply to shoot</Button>
      </TopBar>
      {darkroom && <>
        {/* the lead stands first, so that its pieces are asked for before the witnesses' */}
        <div className="table">
          <FrameView darkroom={darkroom} frame={lead} look={tools.shown(look)} ground={lead.groundwork} passing={tools.passing} onPick={tools.onPick} onPull={tools.onPull} before={state.before === 'ground' ? { look: null, ground: lead.groundwork, words: 'groundwork only' } : { look: null, ground: null, words: 'as decoded' }} view={state.view} onView={onView} live={(s) => ({ look: tools.shown(s.bench.look), ground: lead.groundwork })} readout={state.readout} onReadouts={setReadouts} />
          <ViewTools view={state.view} onView={onView} befores={[{ value: 'ground', words: 'before: groundwork only' }, { value: 'decoded', words: 'before: as decoded' }]} before={state.before} onBefore={(v) => dispatch(act.beforeChosen(v as 'ground'))} />
        </div>
        <Witnesses darkroom={darkroom} frames={shoot.frames} look={look} leadId={lead.id} ids={state.witnessIds ?? shoot.witnessIds} auto={state.witnessIds === null} />
      </>}
      <Tray look={look} selected={state.selected} readouts={readouts} tools={tools} />
      <Chain look={look} selected={state.selected} />
      {baking && <BakeSheet look={look} onClose={() => setBaking(false)} />}
      {naming && <NameLook look={look} title={naming === 'new' ? 'Put this look on the shelf' : 'Save as another look'} onClose={() => setNaming(null)} onSave={(name, family, notes) => void saveAs(name, family, notes)} />}
    </div>
  );
}
