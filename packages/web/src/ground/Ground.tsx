import { plainGroundwork, renditionLook, type Groundwork, type Rendition } from '@dyepot/core';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { messageOf, useBalanceMutation, useLookQuery } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { store, useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame, Shoot } from '../types.ts';
import { Darkroom } from '../view/darkroom.ts';
import { FrameView } from '../view/FrameView.tsx';
import { useReadoutSignal } from '../view/readoutSignal.ts';
import { ViewTools } from '../view/ViewTools.tsx';
import { CropOverlay, type Line } from './CropOverlay.tsx';
import type { Lining } from './GeometryPart.tsx';
import { groundAct } from './groundSlice.ts';
import { Probes } from './Probes.tsx';
import { GroundTray } from './GroundTray.tsx';
import { LensOverlay } from './LensOverlay.tsx';
import type { LensShown } from './LensPart.tsx';
import { Loupe } from './Loupe.tsx';
import { PresetSheet } from './PresetSheet.tsx';
import { loadHistory } from './keepGround.ts';
import { useSmallPlate } from './useGroundwork.ts';
import { Giving } from './Giving.tsx';
import { PartTabs } from './PartTabs.tsx';
import { FrameColumn } from './FrameColumn.tsx';
import { GroundBar } from './GroundBar.tsx';
import { lineDrawn } from './lineDrawn.ts';
import { useGroundKeys } from './useGroundKeys.ts';

const whole = { x: 0, y: 0, width: 1, height: 1 };

/** The Ground of a shoot: one frame at a time, what is done to it, and its neighbours. */
export function Ground({
  shoot,
  asked,
  onOpened,
}: {
  shoot: Shoot;
  /** the frame the address names */
  asked: number | null;
  onOpened: (frameId: number) => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    state = useAppSelector((s) => s.ground),
    { part, view } = state;
  const frame =
    shoot.frames.find((f) => f.id === state.frameId) ?? shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0]!;
  const open = useCallback(
    (f: Frame): void => {
      dispatch(groundAct.serverSaid({ frameId: f.id, ground: f.groundwork, version: f.groundVersion }));
      dispatch(groundAct.frameOpened({ shootId: shoot.id, frameId: f.id }));
      loadHistory(store, f.id).catch(() => {});
      onOpened(f.id);
    },
    [dispatch, shoot.id, onOpened],
  );
  useEffect(() => {
    open(shoot.frames.find((f) => f.id === asked) ?? frame);
  }, [asked, shoot.id]);
  useEffect(() => {
    dispatch(groundAct.serverSaid({ frameId: frame.id, ground: frame.groundwork, version: frame.groundVersion }));
  }, [frame.id, frame.groundwork, frame.groundVersion, dispatch]);

  const [darkroom, setDarkroom] = useState<Darkroom | null>(null);
  useEffect(() => {
    const d = new Darkroom();
    setDarkroom(d);
    return () => {
      setDarkroom(null);
      d.close();
    };
  }, []);
  const signal = useReadoutSignal(),
    [picking, setPicking] = useState(false),
    [lining, setLining] = useState<Lining>('off'),
    [lines, setLines] = useState<readonly Line[]>([]),
    [lensShown, setLensShown] = useState<LensShown>('off'),
    [mask, setMask] = useState(false),
    [presets, setPresets] = useState(false),
    [picked, setPicked] = useState(''),
    [chosen, setChosen] = useState<ReadonlySet<number>>(new Set()),
    [giving, setGiving] = useState<'paste' | 'chosen' | null>(null);
  const wears = frame.look ?? (shoot.look?.broken ? null : shoot.look),
    { data: wornLook } = useLookQuery({ id: wears?.id ?? 0, revision: wears?.revision ?? null }, { skip: !wears }),
    worn = (wears && wornLook?.document) ?? null,
    [wearing, setWearing] = useState(false),
    [tried, setTried] = useState<Rendition | null>(null),
    look = wearing ? worn : renditionLook(tried ?? shoot.rendition),
    [askBalance] = useBalanceMutation();
  const doc = state.docs[frame.id],
    ground = doc?.ground ?? frame.groundwork ?? plainGroundwork,
    small = useSmallPlate(frame);
  // while cropping, all of the picture is seen
  const cropping = part === 'geometry',
    shown = useMemo(() => (cropping ? { ...ground, geometry: { ...ground.geometry, crop: whole } } : ground), [ground, cropping]);
  const liveShown = useMemo(() => {
    let last: { from: Groundwork | null; out: Groundwork | null } = { from: null, out: null };
    return (g: Groundwork): Groundwork => {
      if (last.from !== g) last = { from: g, out: cropping ? { ...g, geometry: { ...g.geometry, crop: whole } } : g };
      return last.out!;
    };
  }, [cropping]);
  const set = (words: string, gesture: string, change: Partial<Groundwork>): void => {
    dispatch(
      groundAct.changed({ frameId: frame.id, words, gesture: gesture && `${frame.id}-${gesture}`, ground: { ...ground, ...change } }),
    );
  };
  const onView = (change: Parameters<typeof groundAct.viewSet>[0]): void => {
    dispatch(groundAct.viewSet(change));
  };
  const pick = async (at: { x: number; y: number }): Promise<void> => {
    try {
      const found = await askBalance({ id: frame.id, at: { ...at, size: state.pickSize }, groundwork: shown }).unwrap();
      set(`Picked ${Math.round(found.kelvin)} K`, '', { balance: { kind: 'own', kelvin: found.kelvin, tintDuv: found.tintDuv } });
      setPicked(
        `Averaged ${state.pickSize} × ${state.pickSize} px: camera ${found.camera!.map((v) => v.toFixed(3)).join(' ')} → multipliers ${found.multipliers!.map((v) => v.toFixed(2)).join(' ')}, ${Math.round(found.kelvin)} K`,
      );
      setPicking(false);
    } catch (e) {
      setPicked(messageOf(e));
    }
  };
  const step = (way: 1 | -1): void => {
    const i = shoot.frames.findIndex((f) => f.id === frame.id),
      next = shoot.frames[i + way];
    if (next) open(next);
  };
  useEffect(() => {
    setPicking(false);
    setLining('off');
    setPicked('');
    setLensShown('off');
    setMask(false);
  }, [frame.id, part]);
  useEffect(() => setLines([]), [frame.id, part, lining]);
  const lined = (line: Line): void => {
    const done = lineDrawn({ line, lines, lining, ground, frame });
    if ('wait' in done) return setLines([line]);
    setLining('off');
    if ('message' in done) complain(done.message);
    else set(done.words, '', { geometry: done.geometry });
  };

  useGroundKeys({
    onStep: step,
    onPick: () => setPicking((p) => !p),
    onLeave: () => {
      setPicking(false);
      setLining('off');
    },
  });

  const beforeGround =
      state.before === 'plain' || state.before === 'ground'
        ? { ...plainGroundwork, geometry: shown.geometry }
        : { ...(doc?.snapshots[state.before]?.ground ?? plainGroundwork), geometry: shown.geometry },
    beforeKey = JSON.stringify(beforeGround);
  const before = useMemo(
    () => ({
      look: state.before === 'ground' ? renditionLook(shoot.rendition) : look,
      ground: state.before === 'ground' ? shown : (JSON.parse(beforeKey) as Groundwork),
      words:
        state.before === 'plain'
          ? 'as decoded'
          : state.before === 'ground'
            ? 'groundwork only'
            : (doc?.snapshots[state.before]?.name ?? 'before'),
    }),
    [look, beforeKey, state.before, doc?.snapshots, state.before === 'ground' ? shown : null, shoot.rendition],
  );
  return (
    <div className="bench ground">
      <GroundBar
        shoot={shoot}
        frame={frame}
        ground={ground}
        worn={worn}
        wearing={wearing}
        onWearing={setWearing}
        onTried={setTried}
        chosen={chosen.size}
        onPresets={() => setPresets(true)}
        onGiving={setGiving}
      />
      <main id="main" tabIndex={-1} className="pass-through">
        {darkroom && (
          <div className="table">
            <FrameView
              darkroom={darkroom}
              frame={frame}
              look={look}
              ground={shown}
              mask={mask}
              before={before}
              view={view}
              onView={onView}
              live={(s) => ({ look, mask, ground: liveShown(s.ground.docs[frame.id]?.ground ?? ground) })}
              readout={state.readout}
              onReadouts={signal.set}
              clipping={state.clipping}
              onPick={picking ? (at) => void pick(at) : null}
              onPin={(at) => {
                if (!cropping) dispatch(groundAct.probePinned(at));
              }}
            >
              {(placed) => (
                <>
                  {cropping && !picking && (
                    <CropOverlay
                      placed={placed}
                      geometry={ground.geometry}
                      guides={state.guides}
                      line={lining !== 'off'}
                      lines={lines}
                      onCrop={(crop, gesture) => set('Crop', gesture, { geometry: { ...ground.geometry, crop } })}
                      onLine={lined}
                    />
                  )}
                  {lensShown !== 'off' && <LensOverlay placed={placed} shows={lensShown} frame={frame} ground={shown} />}
                  {(part === 'detail' || part === 'lens') && !picking && (
                    <Loupe
                      darkroom={darkroom}
                      frame={frame}
                      look={look}
                      ground={ground}
                      mask={mask}
                      corner={part === 'lens'}
                      small={small}
                      placed={placed}
                      shown={typeof view.zoom !== 'number' || view.zoom < 1}
                    />
                  )}
                  {!cropping && doc && doc.probes.length > 0 && <Probes probes={doc.probes} placed={placed} />}
                </>
              )}
            </FrameView>
            <ViewTools
              view={view}
              onView={onView}
              befores={[
                { value: 'plain', words: 'before: as decoded' },
                ...(worn ? [{ value: 'ground', words: 'before: groundwork only' }] : []),
                ...(doc?.snapshots ?? []).map((shot, i) => ({ value: String(i), words: `before: ${shot.name}` })),
              ]}
              before={String(state.before)}
              onBefore={(v) => dispatch(groundAct.set({ before: v === 'plain' || v === 'ground' ? v : Number(v) }))}
            />
          </div>
        )}
        <FrameColumn shoot={shoot} current={frame} chosen={chosen} onChosen={setChosen} onOpen={open} wearing={wearing} />
        <GroundTray
          frame={frame}
          ground={ground}
          small={small}
          signal={signal}
          picking={picking}
          onPicking={setPicking}
          lining={lining}
          onLining={setLining}
          onLensShown={setLensShown}
          onMask={setMask}
          picked={picked}
          onPicked={setPicked}
          set={set}
        />
        <PartTabs frame={frame} ground={ground} part={part} />
      </main>
      {presets && (
        <PresetSheet
          frame={frame}
          ground={ground}
          onClose={() => setPresets(false)}
          onGiven={(words, next) => {
            set(words, '', next);
            setPresets(false);
          }}
        />
      )}
      {giving && (
        <Giving
          way={giving}
          shoot={shoot}
          frame={frame}
          ground={ground}
          chosen={chosen}
          onPaste={(next) => set('Paste groundwork', '', next)}
          onClose={() => setGiving(null)}
        />
      )}
    </div>
  );
}
