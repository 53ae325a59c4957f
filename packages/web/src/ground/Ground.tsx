import { plainGroundwork, type Groundwork } from '@dyepot/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { store, useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame, Shoot } from '../types.ts';
import { FrameView } from '../view/FrameView.tsx';
import { useDarkroom } from '../view/useDarkroom.ts';
import { useReadoutSignal } from '../view/readoutSignal.ts';
import { ViewTools } from '../view/ViewTools.tsx';
import { CropOverlay } from './CropOverlay.tsx';
import { groundAct } from './groundSlice.ts';
import { Probes } from './Probes.tsx';
import { GroundTray } from './GroundTray.tsx';
import { LensOverlay } from './LensOverlay.tsx';
import { Loupe } from './Loupe.tsx';
import { PresetSheet } from './PresetSheet.tsx';
import { loadHistory } from './keepGround.ts';
import { useSmallPlate } from './useGroundwork.ts';
import { Giving } from './Giving.tsx';
import { PartTabs } from './PartTabs.tsx';
import { FrameColumn } from './FrameColumn.tsx';
import { GroundBar } from './GroundBar.tsx';
import { useBefore } from './useBefore.ts';
import { useGroundKeys } from './useGroundKeys.ts';
import { useTools } from './useTools.ts';
import { useDust } from './repair/useDust.ts';
import { useRepairs } from './repair/useRepairs.ts';
import { useWorn } from './useWorn.ts';

const RepairOverlay = lazy(() => import('./repair/RepairOverlay.tsx').then((m) => ({ default: m.RepairOverlay })));

/** A function that gives the same answer again for what it was asked last. */
function keptLast<A extends object, B>(make: (from: A) => B): (from: A) => B {
  let last: { from: A; out: B } | null = null;
  return (from) => (last?.from === from ? last : (last = { from, out: make(from) })).out;
}
const whole = { x: 0, y: 0, width: 1, height: 1 };
/** A frame as its plate is without repairs: the server is asked for that. */
const unmended = (frame: Frame): Frame => ({ ...frame, repairs: [], repairCount: 0, repairStamp: '&mended=no' });

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

  const darkroom = useDarkroom(),
    signal = useReadoutSignal(),
    [presets, setPresets] = useState(false),
    [chosen, setChosen] = useState<ReadonlySet<number>>(new Set()),
    [giving, setGiving] = useState<'paste' | 'chosen' | null>(null),
    { worn, wearing, setWearing, setTried, look } = useWorn(shoot, frame);
  const doc = state.docs[frame.id],
    ground = doc?.ground ?? frame.groundwork ?? plainGroundwork,
    small = useSmallPlate(frame);
  const repairing = useRepairs(frame),
    hand = { ...repairing, dust: useDust(frame, repairing) };
  // while cropping, all of the picture is seen; where dust is shown, the frame as it lies on the sensor
  const cropping = part === 'geometry',
    onSensor = part === 'repair' && hand.dust.pictured,
    uncropped = useMemo(() => keptLast((g: Groundwork) => ({ ...g, geometry: { ...g.geometry, crop: whole } })), []),
    flat = useMemo(() => keptLast((g: Groundwork) => ({ ...g, geometry: plainGroundwork.geometry, lens: plainGroundwork.lens })), []),
    shownOf = (g: Groundwork): Groundwork => (cropping ? uncropped(g) : onSensor ? flat(g) : g),
    shown = shownOf(ground);
  const set = (words: string, gesture: string, change: Partial<Groundwork>): void => {
    dispatch(
      groundAct.changed({ frameId: frame.id, words, gesture: gesture && `${frame.id}-${gesture}`, ground: { ...ground, ...change } }),
    );
  };
  const onView = (change: Parameters<typeof groundAct.viewSet>[0]): void => {
    dispatch(groundAct.viewSet(change));
  };
  const tools = useTools({ frame, part, ground, shown, pickSize: state.pickSize, set }),
    { picking, lining, mask } = tools;
  const step = (way: 1 | -1): void => {
    const i = shoot.frames.findIndex((f) => f.id === frame.id),
      next = shoot.frames[i + way];
    if (next) open(next);
  };
  const asRepaired = useMemo(() => (hand.off ? unmended(frame) : frame), [hand.off, frame]),
    undoing = part === 'repair' ? hand : null;
  useGroundKeys({
    onUndo: undoing ? undoing.undo : () => dispatch(groundAct.undone()),
    onRedo: undoing ? undoing.redo : () => dispatch(groundAct.redone()),
    onStep: step,
    onPick: () => tools.onPicking(!picking),
    onLeave: tools.leave,
  });

  const before = useBefore(state.before, { look, shown, rendition: shoot.rendition, snapshots: doc?.snapshots ?? [] });
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
        undoing={undoing}
        onPresets={() => setPresets(true)}
        onGiving={setGiving}
      />
      <main id="main" tabIndex={-1} className="pass-through">
        {darkroom && (
          <div className="table">
            <FrameView
              darkroom={darkroom}
              frame={asRepaired}
              look={look}
              ground={shown}
              mask={mask}
              passing={hand.off}
              before={before}
              view={view}
              onView={onView}
              live={(s) => ({ look, mask, ground: shownOf(s.ground.docs[frame.id]?.ground ?? ground) })}
              readout={state.readout}
              onReadouts={signal.set}
              clipping={state.clipping}
              onPick={picking ? (at) => void tools.pick(at) : null}
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
                      lines={tools.lines}
                      onCrop={(crop, gesture) => set('Crop', gesture, { geometry: { ...ground.geometry, crop } })}
                      onLine={tools.lined}
                    />
                  )}
                  {tools.lensShown !== 'off' && <LensOverlay placed={placed} shows={tools.lensShown} frame={frame} ground={shown} />}
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
                  {part === 'repair' && !picking && (
                    <Suspense>
                      <RepairOverlay placed={placed} frame={frame} ground={shown} hand={hand} />
                    </Suspense>
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
        <GroundTray frame={frame} ground={ground} small={small} signal={signal} {...tools} set={set} hand={hand} />
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
