import {
  beforeRighting,
  groundworkParts,
  plainGroundwork,
  renditionLook,
  renditions,
  rightedBy,
  temperatureOfBalance,
  withParts,
  type Groundwork,
  type GroundworkPart,
  type Rendition,
} from '@dyepot/core';
import { Button, Checkbox, IconButton } from '@chakra-ui/react';
import { Redo2, Undo2 } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useSearchParams } from 'react-router';
import { messageOf, pictureUrl, useBalanceMutation, useLooksQuery, useShootQuery, useShootsQuery, useUpdateShootMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame, Shoot } from '../types.ts';
import { Darkroom } from '../view/darkroom.ts';
import { FrameView } from '../view/FrameView.tsx';
import { useReadoutSignal } from '../view/readoutSignal.ts';
import { keys, ViewTools } from '../view/ViewTools.tsx';
import { CropOverlay, type Line } from './CropOverlay.tsx';
import { mapOf, type Lining } from './GeometryPart.tsx';
import { groundAct, type Part } from './groundSlice.ts';
import { Probes } from './Probes.tsx';
import { GroundTray, partNames } from './GroundTray.tsx';
import { LensOverlay } from './LensOverlay.tsx';
import type { LensShown } from './LensPart.tsx';
import { Loupe } from './Loupe.tsx';
import { PresetSheet } from './PresetSheet.tsx';
import { summary, useKeeping, useSmallPlate } from './useGroundwork.ts';

const parts: Part[] = ['light', 'exposure', 'zones', 'ends', 'geometry', 'lens', 'detail'];
const whole = { x: 0, y: 0, width: 1, height: 1 };

export default function GroundScreen(): React.JSX.Element {
  const [search] = useSearchParams(),
    kept = useAppSelector((s) => s.ground.shootId),
    { data: shoots, error } = useShootsQuery();
  const asked = search.get('shoot'),
    id = asked ? Number(asked) : shoots?.some((s) => s.id === kept) ? kept : (shoots?.[0]?.id ?? null),
    { data: shoot } = useShootQuery(id ?? 0, { skip: id === null });
  if (error)
    return (
      <>
        <TopBar />
        <Nothing title="The groundwork cannot be shown" words={messageOf(error)} />
      </>
    );
  if (shoots?.length === 0 || shoot?.frames.length === 0)
    return (
      <>
        <TopBar />
        <Nothing title="No frames to work on" words="Groundwork is done on the frames of a shoot. Bring in raw files first.">
          <Button asChild size="sm" colorPalette="dye">
            <Link to="/shoots">Go to Shoots</Link>
          </Button>
        </Nothing>
      </>
    );
  if (!shoot)
    return (
      <>
        <TopBar />
        <Waiting words="Laying out the frames…" />
      </>
    );
  return <Ground shoot={shoot} asked={search.get('frame') ? Number(search.get('frame')) : null} />;
}

function Ground({ shoot, asked }: { shoot: Shoot; asked: number | null }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    state = useAppSelector((s) => s.ground),
    { part, view } = state;
  const frame =
    shoot.frames.find((f) => f.id === state.frameId) ?? shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0]!;
  const open = useCallback(
    (f: Frame): void => {
      dispatch(groundAct.frameOpened({ shootId: shoot.id, frameId: f.id, ground: f.groundwork }));
    },
    [dispatch, shoot.id],
  );
  useEffect(() => {
    open(shoot.frames.find((f) => f.id === asked) ?? frame);
  }, [asked, shoot.id]);
  useKeeping(shoot.frames);

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
  const { data: looks } = useLooksQuery(),
    worn = looks?.find((l) => l.id === shoot.look?.id)?.document ?? null,
    [wearing, setWearing] = useState(false),
    [tried, setTried] = useState<Rendition | null>(null),
    [updateShoot] = useUpdateShootMutation(),
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
  /** A line drawn over the whole picture: one levels it, a second of its kind rights it. */
  const lined = (line: Line): void => {
    const { geometry } = ground,
      turned = geometry.quarterTurns % 2 === 1 ? { width: frame.height, height: frame.width } : frame,
      at = (p: Line['from']): [number, number] =>
        beforeRighting(geometry, frame.width, frame.height, mapOf(frame, ground), p.x * turned.width, p.y * turned.height);
    if (lining === 'level') {
      setLining('off');
      const angle = (Math.atan2((line.to.y - line.from.y) * turned.height, (line.to.x - line.from.x) * turned.width) * 180) / Math.PI,
        v = Math.round(Math.min(45, Math.max(-45, geometry.straighten + Math.round(angle / 90) * 90 - angle)) * 10) / 10;
      set(`Straighten ${v.toFixed(1)}°`, '', { geometry: { ...geometry, straighten: v } });
    } else if (lines.length === 0) setLines([line]);
    else {
      const way = lining === 'verticals' ? 'upright' : 'level',
        found = rightedBy(
          [...lines, line].map((l) => ({ from: at(l.from), to: at(l.to), way })),
          geometry,
          turned.width,
          turned.height,
        );
      setLining('off');
      if (found)
        set(way === 'upright' ? 'Two uprights' : 'Two levels', '', {
          geometry: {
            ...geometry,
            straighten: Math.round(found.straighten * 100) / 100,
            vertical: Math.round(found.vertical * 100) / 100,
            horizontal: Math.round(found.horizontal * 100) / 100,
          },
        });
      else complain('these two lines lean too far apart to be righted together');
    }
  };

  useHotkeys('mod+z', () => dispatch(groundAct.undone()), { ...keys, preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => dispatch(groundAct.redone()), { ...keys, preventDefault: true });
  useHotkeys('pageup', () => step(-1), { ...keys, preventDefault: true }, [frame.id, shoot.frames]);
  useHotkeys('pagedown', () => step(1), { ...keys, preventDefault: true }, [frame.id, shoot.frames]);
  useHotkeys(
    'p',
    () => {
      dispatch(groundAct.partChosen('light'));
      setPicking((p) => !p);
    },
    keys,
  );
  useHotkeys('escape', () => {
    setPicking(false);
    setLining('off');
  });
  useHotkeys(
    'k',
    () => {
      const on = !(state.clipping.black && state.clipping.white);
      dispatch(groundAct.set({ clipping: { black: on, white: on } }));
    },
    keys,
    [state.clipping],
  );

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
  const asShot = temperatureOfBalance(plainGroundwork.balance, frame.profile);
  return (
    <div className="bench ground">
      <TopBar
        title={
          <Link to={`/shoots/${shoot.id}`} title={shoot.name}>
            <b>{frame.name}</b>
          </Link>
        }
      >
        <IconButton
          aria-label={doc?.past.length ? `Undo ${doc.past[doc.past.length - 1]!.words}` : 'Undo'}
          title={doc?.past.length ? `Undo ${doc.past[doc.past.length - 1]!.words}` : 'Nothing to undo'}
          size="xs"
          variant="ghost"
          disabled={!doc?.past.length}
          onClick={() => dispatch(groundAct.undone())}
        >
          <Undo2 size={16} />
        </IconButton>
        <IconButton aria-label="Redo" size="xs" variant="ghost" disabled={!doc?.future.length} onClick={() => dispatch(groundAct.redone())}>
          <Redo2 size={16} />
        </IconButton>
        <div className="segmented" role="group" aria-label="Starting rendition of the shoot" onPointerLeave={() => setTried(null)}>
          {(Object.keys(renditions) as Rendition[]).map((r) => (
            <button
              key={r}
              type="button"
              title={`${renditions[r].name}: where every frame of the shoot starts`}
              aria-pressed={!wearing && shoot.rendition === r}
              onPointerEnter={() => setTried(r)}
              onFocus={() => setTried(r)}
              onBlur={() => setTried(null)}
              onClick={() => {
                setWearing(false);
                updateShoot({ id: shoot.id, rendition: r })
                  .unwrap()
                  .catch((e: unknown) => complain(messageOf(e)));
              }}
            >
              {r[0]!.toUpperCase() + r.slice(1)}
            </button>
          ))}
        </div>
        {worn && (
          <button type="button" className={`tool ${wearing ? 'on' : ''}`} aria-pressed={wearing} onClick={() => setWearing(!wearing)}>
            Under {shoot.look!.name}
          </button>
        )}
        <Button size="xs" variant="outline" title="Groundwork kept under a name, by camera and ISO" onClick={() => setPresets(true)}>
          Presets…
        </Button>
        <Button
          size="xs"
          variant="outline"
          title="Copy this frame’s groundwork"
          onClick={() => {
            dispatch(groundAct.set({ copied: ground }));
            tell(`Groundwork of ${frame.name} copied`);
          }}
        >
          Copy
        </Button>
        <Button size="xs" variant="outline" disabled={!state.copied} onClick={() => setGiving('paste')}>
          Paste…
        </Button>
        <Button
          size="xs"
          colorPalette="dye"
          disabled={chosen.size === 0}
          title="Control-click frames at the left to choose them"
          onClick={() => setGiving('chosen')}
        >
          {chosen.size === 0 ? 'Give to chosen' : `Give to ${chosen.size} ${chosen.size === 1 ? 'frame' : 'frames'}`}
        </Button>
      </TopBar>
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
                {!cropping && doc?.probes && <Probes probes={doc.probes} placed={placed} />}
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
      <nav className="witnesses frames-column" aria-label="Frames">
        {shoot.frames
          .filter((f) => !f.missing)
          .map((f) => (
            <button
              key={f.id}
              ref={f.id === frame.id ? (node) => node?.scrollIntoView({ block: 'nearest' }) : undefined}
              type="button"
              className={`column-frame ${f.id === frame.id ? 'current' : ''} ${chosen.has(f.id) ? 'chosen' : ''}`}
              aria-pressed={f.id === frame.id}
              title="Control-click to choose several"
              onClick={(e) => {
                if (e.ctrlKey || e.metaKey)
                  setChosen((c) => {
                    const next = new Set(c);
                    if (!next.delete(f.id)) next.add(f.id);
                    return next;
                  });
                else open(f);
              }}
              style={{ aspectRatio: `${f.output.width} / ${f.output.height}` }}
            >
              <Picture alt={f.name} src={pictureUrl(f, wearing ? shoot.look : null, 360, shoot.rendition)} />
              <span>
                {f.name}
                {f.groundwork && <i title="has groundwork">●</i>}
              </span>
            </button>
          ))}
      </nav>
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
      <div className="chain parts" role="tablist" aria-label="Parts of the groundwork">
        {parts.map((p) => (
          <button
            key={p}
            type="button"
            role="tab"
            aria-selected={p === part}
            className={p === part ? 'selected' : ''}
            onClick={() => dispatch(groundAct.partChosen(p))}
          >
            <b>{partNames[p][0]}</b>
            <small>{summary(ground, p, asShot, frame.fileLens)}</small>
          </button>
        ))}
        <p className="dim">Groundwork belongs to the frame, never to the look. Shift-click the picture to pin a probe.</p>
      </div>
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
        <Give
          title={
            giving === 'paste'
              ? `Paste onto ${frame.name}`
              : `Give ${frame.name}’s groundwork to ${chosen.size} ${chosen.size === 1 ? 'frame' : 'frames'}`
          }
          onClose={() => setGiving(null)}
          onGive={(which) => {
            if (giving === 'paste') set('Paste groundwork', '', withParts(ground, state.copied!, which));
            else
              for (const id of chosen) {
                const f = shoot.frames.find((x) => x.id === id);
                if (f && f.id !== frame.id)
                  dispatch(
                    groundAct.changed({
                      frameId: f.id,
                      words: `From ${frame.name}`,
                      gesture: '',
                      from: f.groundwork,
                      ground: withParts(state.docs[f.id]?.ground ?? f.groundwork ?? plainGroundwork, ground, which),
                    }),
                  );
              }
            setGiving(null);
            if (giving === 'chosen') tell(`Given to ${chosen.size}`);
          }}
        />
      )}
    </div>
  );
}

/** Asks which parts to give. */
function Give({
  title,
  onClose,
  onGive,
}: {
  title: string;
  onClose: () => void;
  onGive: (parts: GroundworkPart[]) => void;
}): React.JSX.Element {
  const [which, setWhich] = useState<ReadonlySet<GroundworkPart>>(new Set(['light', 'exposure', 'zones', 'ends', 'lens', 'detail']));
  return (
    <Sheet title={title} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (which.size === 0) complain('choose at least one part');
          else onGive([...which]);
        }}
      >
        {(Object.keys(groundworkParts) as GroundworkPart[]).map((p) => (
          <Checkbox.Root
            key={p}
            size="sm"
            display="flex"
            mb="2"
            checked={which.has(p)}
            onCheckedChange={() =>
              setWhich((w) => {
                const next = new Set(w);
                if (!next.delete(p)) next.add(p);
                return next;
              })
            }
          >
            <Checkbox.HiddenInput />
            <Checkbox.Control />
            <Checkbox.Label>{partNames[p][0]}</Checkbox.Label>
          </Checkbox.Root>
        ))}
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye">
            Give
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
