import { outputSize } from '@dyepot/core';
import { Suspense, useRef, useState } from 'react';
import { useShortcut } from '../kit/useShortcut.ts';
import { useExact } from './useExact.ts';
import { useZoomGestures } from './useZoomGestures.ts';
import { draftPiece, isLarge, layOut, nextZoom, zoomAt, type Box, type ViewState } from './layout.ts';
import { meanAbout, pixelAt, probeWords, type Rgb8 } from './canvasReading.ts';
import { LeadFoot } from './LeadFoot.tsx';
import { pieceMap, type Place } from './pieceMap.ts';
import { useDraftPace } from './useDraftPace.ts';
import { useFrameRender } from './useFrameRender.ts';
import { nothingHeld, useStageHand, type Held } from './useStageHand.ts';
import { ClipMarks, LimitMark, Overview, PlaceMarks, StageTags, WipeBar, ZoneMarks } from './overPicture.ts';
import type { FrameViewProps } from './frameViewProps.ts';
import { useSizeOf } from './useSizeOf.ts';
import { useStageKeys } from './useStageKeys.ts';

const bothWorkers = [0, 1] as const;
/** A frame, large: fitted, filling or magnified, panned and zoomed round the pointer, compared by a wipe, a held key or side by side. */
export function FrameView({
  darkroom,
  frame,
  look,
  ground,
  mask = false,
  passing = false,
  before,
  steps,
  place = null,
  view,
  onView,
  live,
  readout,
  onReadouts,
  children,
  onPick = null,
  onPull = null,
  onPin,
  clipping,
}: FrameViewProps): React.JSX.Element {
  const stage = useRef<HTMLDivElement>(null),
    canvas = useRef<HTMLCanvasElement>(null),
    beforeCanvas = useRef<HTMLCanvasElement>(null),
    exactCanvas = useRef<HTMLCanvasElement>(null),
    leaveExact = useRef(() => {});
  const full = useSizeOf(stage),
    [probe, setProbe] = useState(''),
    [panning, setPanning] = useState(false);
  const held = useRef<Held>(nothingHeld);
  const density = Math.min(2, window.devicePixelRatio || 1),
    picture = outputSize(ground, frame),
    { zoom, compare, wipe, across, limit, limiting, surround, zones } = view;
  const size = compare === 'beside' ? { width: Math.floor((full.width - 2) / 2), height: full.height } : full;

  const laid = size.width > 0 ? layOut(picture, size, view, density) : null,
    { piece, box, seen } = laid ?? {};
  const [ready, setReady] = useState(0),
    [painted, setPainted] = useState(0),
    visible = ready === frame.id,
    marking = Boolean(zones || clipping?.black || clipping?.white),
    [drop, paced] = useDraftPace();
  const small = piece ? draftPiece(picture, piece, Math.max(1, drop)) : null;
  const message = useFrameRender(darkroom, {
    name: 'lead',
    frame,
    piece: piece ?? null,
    look,
    ground,
    mask,
    steps,
    limit,
    rank: 1,
    canvas,
    workers: bothWorkers,
    readout,
    draft: small,
    // a part of the picture, magnified, has no coarser piece to stand for it
    fine: drop === 0 || (piece !== undefined && small === null && isLarge(piece)),
    live,
    onPainted: () => {
      setReady(frame.id);
      if (marking) setPainted((n) => n + 1);
    },
    // what has nothing coarser to give way to says nothing of how coarse drafts are to be
    onDraft: small ? paced : undefined,
    onAsked: () => leaveExact.current(),
    onReadouts: (r) => {
      onReadouts(r);
      if (marking) setPainted((n) => n + 1);
    },
  });
  useFrameRender(darkroom, {
    name: 'before',
    frame,
    piece: piece ?? null,
    look: before.look,
    ground: before.ground,
    steps: before.steps,
    rank: 2,
    canvas: beforeCanvas,
    workers: bothWorkers,
    wanted: compare !== 'off',
  });

  // fitted, the quick view gives way to the exact one when the hand rests
  const fitted =
    zoom === 'fit' && laid && laid.scale < 0.98 && visible && compare !== 'before' && !mask && !passing
      ? {
          width: Math.min(picture.width, Math.round(laid.box.width * density)),
          height: Math.min(picture.height, Math.round(laid.box.height * density)),
        }
      : null;
  const { isExact, leave } = useExact(exactCanvas, frame, look, ground, steps, fitted);
  leaveExact.current = leave;

  const zoomTo = (next: ViewState['zoom'], at?: { x: number; y: number }): void =>
    onView(at && size.width > 0 ? zoomAt(picture, size, view, next, at, density) : { zoom: next });
  // Space still presses whatever control has the focus
  useShortcut('space', () => setPanning(true), {
    keydown: true,
    preventDefault: true,
    unless: (e) => (e.target as HTMLElement).closest('button, a, summary, input, select, [role]') !== null,
  });
  useShortcut('space', () => setPanning(false), { keyup: true, keydown: false });
  useShortcut('plus, equal, add', () => zoomTo(nextZoom(zoom, 1, picture, size, density)));
  useShortcut('minus, subtract', () => zoomTo(nextZoom(zoom, -1, picture, size, density)));
  useZoomGestures(stage, picture, size, view, density, onView, () => {
    held.current = nothingHeld;
  });

  const placeBox = (b: Box | undefined, shift = 0): React.CSSProperties =>
    b ? { left: b.left + shift, top: b.top, width: b.width, height: b.height } : { display: 'none' };
  const imageRendering = typeof zoom === 'number' && zoom >= (density === 1 ? 1 : 2) ? 'pixelated' : 'auto',
    pans = zoom !== 'fit';
  const left = box ? Math.max(0, box.left) : 0,
    right = box ? Math.min(size.width, box.left + box.width) : 0,
    top = box ? Math.max(0, box.top) : 0,
    bottom = box ? Math.min(size.height, box.top + box.height) : 0,
    wipeX = Math.round(left + wipe * (right - left)),
    wipeY = Math.round(top + wipe * (bottom - top)),
    beside = compare === 'beside' ? size.width + 2 : 0;
  const map = piece && box ? pieceMap(picture, piece, box) : null;
  const fractionAt = (clientX: number, clientY: number): Place | null =>
    canvas.current && map ? map.fromClient(canvas.current, clientX, clientY) : null;
  const read = (at: Place): Rgb8 | null => {
    const p = map?.inPiece(at);
    return p && canvas.current ? pixelAt(canvas.current, p) : null;
  };
  const meanAt = (at: Place, side: number): Rgb8 | null => {
    const p = map?.inPiece(at);
    return p && canvas.current ? meanAbout(canvas.current, p, Math.max(1, Math.round(side / 2 ** (piece?.level ?? 0)))) : null;
  };
  const hand = useStageHand({
    view,
    onView,
    picture,
    size,
    density,
    edges: { left, right, top, bottom },
    wipeAt: across ? wipeY : wipeX,
    fractionAt,
    meanAt,
    onPick: panning ? null : onPick,
    onPull: panning ? null : onPull,
    onPin: onPin ?? null,
    onHover: (clientX, clientY) => {
      const at = fractionAt(clientX, clientY),
        colour = at && read(at);
      setProbe(colour ? probeWords(colour) : '');
    },
    held,
  });
  const stageKeys = useStageKeys({ view, onView, picture, size, density, meanAt, onPick, onPull, onPin }),
    aimed = stageKeys.aim && (map?.toStage(stageKeys.aim) ?? null);
  return (
    <section className={`lead surround-${surround}`} aria-label={`Frame ${frame.name}`}>
      <div
        ref={stage}
        role="application"
        aria-roledescription="picture"
        aria-label={`${frame.name}: ${onPick || onPull ? 'arrows aim, Enter picks' : onPin ? 'arrows pan, Enter aims and pins' : 'arrows pan'}`}
        tabIndex={0}
        onKeyDown={stageKeys.onKeyDown}
        className={`stage ${panning ? 'panning' : ''} ${(onPick || onPull || limiting) && !panning ? 'picks' : pans ? 'pans' : ''}`}
        data-testid="stage"
        onDoubleClick={(e) => {
          if (onPick || onPull || limiting) return;
          const r = stage.current!.getBoundingClientRect();
          if (zoom !== 'fit') onView({ zoom: 'fit' });
          else zoomTo(1, { x: (e.clientX - r.left) % (size.width + 2), y: e.clientY - r.top });
        }}
        {...hand}
        onPointerLeave={() => setProbe('')}
      >
        <div className="half" style={{ width: size.width, left: beside }}>
          <canvas
            ref={canvas}
            data-testid="lead"
            className={compare === 'before' ? 'hidden' : ''}
            style={{ ...placeBox(box), imageRendering, visibility: visible ? 'visible' : 'hidden' }}
          />
          <canvas
            ref={exactCanvas}
            data-testid="exact"
            className={isExact && fitted ? '' : 'hidden'}
            style={{ ...placeBox(box), pointerEvents: 'none' }}
          />
          {place && compare !== 'before' && (
            <Suspense>
              <PlaceMarks
                darkroom={darkroom}
                frame={frame}
                piece={piece ?? null}
                place={place}
                treatment={{ look, ground, steps }}
                live={live}
                style={{ ...placeBox(box), imageRendering }}
              />
            </Suspense>
          )}
          {zones && compare !== 'before' && (
            <Suspense>
              <ZoneMarks canvas={canvas} painted={painted} style={{ ...placeBox(box), imageRendering }} />
            </Suspense>
          )}
          {clipping && (clipping.black || clipping.white) && compare !== 'before' && (
            <Suspense>
              <ClipMarks canvas={canvas} clipping={clipping} painted={painted} style={{ ...placeBox(box), imageRendering }} />
            </Suspense>
          )}
        </div>
        <div className="half" style={{ width: size.width, left: 0, pointerEvents: 'none' }}>
          <canvas
            ref={beforeCanvas}
            data-testid="before"
            className={compare === 'off' ? 'hidden' : ''}
            style={{
              ...placeBox(box),
              imageRendering,
              clipPath:
                compare === 'wipe' && box
                  ? across
                    ? `inset(0 0 ${Math.max(0, box.top + box.height - wipeY)}px 0)`
                    : `inset(0 ${Math.max(0, box.left + box.width - wipeX)}px 0 0)`
                  : undefined,
            }}
          />
        </div>
        {compare === 'wipe' && box && (
          <Suspense>
            <WipeBar
              wipe={wipe}
              across={across}
              style={across ? { left, top: wipeY, width: right - left } : { left: wipeX, top, height: bottom - top }}
              onView={onView}
            />
          </Suspense>
        )}
        {compare !== 'off' && box && (
          <Suspense>
            <StageTags view={view} box={box} stage={size} words={before.words} />
          </Suspense>
        )}
        {aimed && <i className={`aim ${stageKeys.pulling ? 'pulling' : ''}`} data-testid="aim" style={aimed} aria-hidden />}
        {limit && map && (
          <Suspense>
            <LimitMark limit={limit} style={map.toBox(limit)} onView={onView} />
          </Suspense>
        )}
        {box &&
          compare === 'off' &&
          !limiting &&
          map &&
          children?.({
            box,
            whole: map.toBox({ x: 0, y: 0, width: 1, height: 1 }),
            stage: size,
            picture,
            toStage: (at) => map?.toStage(at) ?? null,
            read,
            busy: () => canvas.current?.hasAttribute('aria-busy') ?? false,
          })}
        {seen && pans && (seen.width < 0.99 || seen.height < 0.99) && (
          <Suspense>
            <Overview seen={seen} picture={picture} onCentre={(c) => onView({ centre: c })} />
          </Suspense>
        )}
        {message && (
          <p className="stage-message" role="alert">
            {message}
          </p>
        )}
        {!visible && !message && (
          <p className="stage-waiting" role="status">
            Loading {frame.name}…
          </p>
        )}
      </div>
      <LeadFoot frame={frame} zoom={zoom} scale={laid?.scale ?? 0} exact={isExact && fitted !== null} probe={probe} />
    </section>
  );
}
export type { Placed } from './frameViewProps.ts';
