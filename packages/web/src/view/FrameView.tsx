import {
  levelSize,
  outputSize,
  plateLevels,
  pointReading,
  type Groundwork,
  type Look,
  type ReadoutKind,
  type Readouts,
} from '@dyepot/core';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { State } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Darkroom } from './darkroom.ts';
import { useExact } from './useExact.ts';
import { useZoomGestures } from './useZoomGestures.ts';
import { layOut, nextZoom, scaleOf, zoomAt, type Box, type ViewState } from './layout.ts';
import { useFrameRender, type Treatment } from './useFrameRender.ts';

const bothWorkers = [0, 1] as const;
/** What a draft may take, in milliseconds, before drafts are made coarser; and what it has to fall below for finer ones. */
const draftLimits = { slow: 28, quick: 8 };
let usualDrop = 1;
/** How many levels below the picture a draft is drawn, from how long drafts take on this machine. */
function useDraftPace(): [number, (ms: number) => void] {
  const [drop, setDrop] = useState(usualDrop),
    mean = useRef({ of: 0, count: 0 });
  const paced = (ms: number): void => {
    const m = mean.current;
    m.of = m.count === 0 ? ms : m.of * 0.7 + ms * 0.3;
    const next = ++m.count < 3 ? drop : drop === 1 && m.of > draftLimits.slow ? 2 : drop === 2 && m.of < draftLimits.quick ? 1 : drop;
    if (next !== drop) {
      mean.current = { of: 0, count: 0 };
      usualDrop = next;
      setDrop(next);
    }
  };
  return [drop, paced];
}
/** Where the drawn piece lies in the stage; `toStage` of a place of the picture (fractions), and the pixel painted there now. */
export interface Placed {
  box: Box;
  stage: { width: number; height: number };
  picture: { width: number; height: number };
  toStage: (at: { x: number; y: number }) => { left: number; top: number } | null;
  read: (at: { x: number; y: number }) => [number, number, number] | null;
}

interface Props {
  darkroom: Darkroom;
  frame: Frame;
  look: Look | null;
  ground: Groundwork | null;
  /** where sharpening acts is shown instead of the picture */
  mask?: boolean;
  /** the look is only shown so for a moment: no exact view is asked for */
  passing?: boolean;
  /** what "before" shows, and its name */
  before: Treatment & { words: string };
  view: ViewState;
  onView: (change: Partial<ViewState>) => void;
  live: (s: State) => Treatment;
  readout: ReadoutKind;
  onReadouts: (r: Readouts) => void;
  /** drawn over the picture; its own pointer work goes first */
  children?: (placed: Placed) => React.ReactNode;
  /** a click on the picture, as fractions of it, instead of panning; `mean` is the colour shown over a square there */
  onPick?: ((at: { x: number; y: number }, mean: (side: number) => [number, number, number] | null) => void) | null;
  /** a drag up or down from a place, of the colour shown there, instead of panning */
  onPull?: { start: (colour: [number, number, number], at: { x: number; y: number }) => void; move: (upPx: number) => void } | null;
  /** a Shift-click on the picture */
  onPin?: (at: { x: number; y: number }) => void;
  /** marks pixels at either end of the scale, over the picture */
  clipping?: { black: boolean; white: boolean };
}

/** A frame, large: fitted, filling or magnified, panned and zoomed round the pointer, compared by a wipe, a held key or side by side. */
export function FrameView({
  darkroom,
  frame,
  look,
  ground,
  mask = false,
  passing = false,
  before,
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
}: Props): React.JSX.Element {
  const stage = useRef<HTMLDivElement>(null),
    canvas = useRef<HTMLCanvasElement>(null),
    beforeCanvas = useRef<HTMLCanvasElement>(null),
    exactCanvas = useRef<HTMLCanvasElement>(null),
    leaveExact = useRef(() => {}),
    marks = useRef<HTMLCanvasElement>(null);
  const [full, setSize] = useState({ width: 0, height: 0 }),
    [probe, setProbe] = useState(''),
    [panning, setPanning] = useState(false);
  const drag = useRef<{ x: number; y: number; cx: number; cy: number; wipe: boolean } | null>(null),
    pullFrom = useRef<number | null>(null),
    limitFrom = useRef<{ x: number; y: number } | null>(null);
  const density = Math.min(2, window.devicePixelRatio || 1),
    picture = outputSize(ground, frame),
    { zoom, centre, compare, wipe, across, limit, limiting, surround } = view;
  const size = compare === 'beside' ? { width: Math.floor((full.width - 2) / 2), height: full.height } : full;

  useLayoutEffect(() => {
    const node = stage.current!;
    const measure = (): void => setSize({ width: node.clientWidth, height: node.clientHeight });
    const observer = new ResizeObserver(measure);
    observer.observe(node);
    measure();
    return () => observer.disconnect();
  }, []);

  const laid = size.width > 0 ? layOut(picture, size, view, density) : null,
    { piece, box, seen } = laid ?? {};
  const [ready, setReady] = useState(0),
    [painted, setPainted] = useState(0),
    visible = ready === frame.id,
    marking = Boolean(clipping?.black || clipping?.white),
    [drop, paced] = useDraftPace();
  const coarse = piece ? Math.min(plateLevels - 1, piece.level + drop) : 0,
    small =
      piece &&
      piece.width * piece.height > 2e5 &&
      piece.x === 0 &&
      piece.y === 0 &&
      piece.width === levelSize(picture.width, picture.height, piece.level).width &&
      coarse > piece.level
        ? { level: coarse, x: 0, y: 0, ...levelSize(picture.width, picture.height, coarse) }
        : null;
  const message = useFrameRender(darkroom, {
    name: 'lead',
    frame,
    piece: piece ?? null,
    look,
    ground,
    mask,
    limit,
    rank: 1,
    canvas,
    workers: bothWorkers,
    readout,
    draft: small,
    live,
    onPainted: () => {
      setReady(frame.id);
      if (marking) setPainted((n) => n + 1);
    },
    onDraft: paced,
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
  const { isExact, leave } = useExact(exactCanvas, frame, look, ground, fitted);
  leaveExact.current = leave;

  // clipped pixels, each in the colour of the channels that clip
  useEffect(() => {
    const c = canvas.current,
      m = marks.current;
    if (!c || !m || !clipping || (!clipping.black && !clipping.white) || c.width === 0) return;
    m.width = c.width;
    m.height = c.height;
    const context = m.getContext('2d')!,
      pixels = c.getContext('2d')!.getImageData(0, 0, c.width, c.height),
      { data } = pixels;
    for (let i = 0; i < data.length; i += 4) {
      const high = [0, 1, 2].map((k) => data[i + k] === 255),
        low = [0, 1, 2].map((k) => data[i + k] === 0),
        white = clipping.white && high.some(Boolean),
        black = clipping.black && low.some(Boolean);
      data[i + 3] = white || black ? 255 : 0;
      for (let k = 0; k < 3; k++)
        data[i + k] = white ? (high.every(Boolean) ? 20 : high[k] ? 255 : 30) : low.every(Boolean) ? 235 : low[k] ? 40 : 150;
    }
    context.putImageData(pixels, 0, 0);
  }, [painted, clipping?.black, clipping?.white]);

  const zoomTo = (next: ViewState['zoom'], at?: { x: number; y: number }): void =>
    onView(at && size.width > 0 ? zoomAt(picture, size, view, next, at, density) : { zoom: next });
  // Space still presses whatever control has the focus
  useHotkeys(
    'space',
    () => setPanning(true),
    {
      keydown: true,
      preventDefault: true,
      ignoreEventWhen: (e) => (e.target as HTMLElement).closest('button, a, summary, [role]') !== null,
    },
    [],
  );
  useHotkeys('space', () => setPanning(false), { keyup: true, keydown: false });
  useHotkeys('plus, equal', () => zoomTo(nextZoom(zoom, 1, picture, size, density)), { enableOnFormTags: ['slider'] });
  useHotkeys('minus', () => zoomTo(nextZoom(zoom, -1, picture, size, density)), { enableOnFormTags: ['slider'] });
  useZoomGestures(stage, picture, size, view, density, onView, () => {
    drag.current = null;
    pullFrom.current = null;
    limitFrom.current = null;
  });

  const place = (b: Box | undefined, shift = 0): React.CSSProperties =>
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
  const fractionAt = (clientX: number, clientY: number): { x: number; y: number } | null => {
    const c = canvas.current;
    if (!c || !piece) return null;
    const r = c.getBoundingClientRect(),
      k = levelSize(picture.width, picture.height, piece.level);
    const x = (piece.x + ((clientX - r.left) / r.width) * piece.width) / k.width,
      y = (piece.y + ((clientY - r.top) / r.height) * piece.height) / k.height;
    return x >= 0 && y >= 0 && x <= 1 && y <= 1 ? { x, y } : null;
  };
  const inPiece = (at: { x: number; y: number }): { x: number; y: number } | null => {
    if (!piece) return null;
    const k = levelSize(picture.width, picture.height, piece.level),
      x = at.x * k.width - piece.x,
      y = at.y * k.height - piece.y;
    return x >= 0 && y >= 0 && x < piece.width && y < piece.height ? { x, y } : null;
  };
  const toStage = (at: { x: number; y: number }): { left: number; top: number } | null => {
    const p = inPiece(at);
    return p && box && piece
      ? { left: box.left + (p.x / piece.width) * box.width, top: box.top + (p.y / piece.height) * box.height }
      : null;
  };
  const toBox = (a: { x: number; y: number; width: number; height: number }): React.CSSProperties | null => {
    if (!box || !piece) return null;
    const k = levelSize(picture.width, picture.height, piece.level),
      sx = (box.width / piece.width) * k.width,
      sy = (box.height / piece.height) * k.height,
      ox = box.left - (piece.x / piece.width) * box.width,
      oy = box.top - (piece.y / piece.height) * box.height;
    return { left: ox + a.x * sx, top: oy + a.y * sy, width: a.width * sx, height: a.height * sy };
  };
  const read = (at: { x: number; y: number }): [number, number, number] | null => {
    const p = inPiece(at),
      c = canvas.current;
    if (!p || !c || c.width === 0) return null;
    const d = c.getContext('2d')!.getImageData(Math.floor(p.x), Math.floor(p.y), 1, 1).data;
    return [d[0]!, d[1]!, d[2]!];
  };
  const meanAt = (at: { x: number; y: number }, side: number): [number, number, number] | null => {
    const p = inPiece(at),
      c = canvas.current;
    if (!p || !c || c.width === 0) return null;
    const n = Math.max(1, Math.round(side / 2 ** (piece?.level ?? 0))),
      d = c.getContext('2d')!.getImageData(Math.max(0, Math.floor(p.x - n / 2)), Math.max(0, Math.floor(p.y - n / 2)), n, n).data,
      sum: [number, number, number] = [0, 0, 0];
    for (let i = 0; i < d.length; i += 4) for (let k = 0; k < 3; k++) sum[k]! += d[i + k]! / (d.length / 4);
    return sum;
  };
  const readAt = (clientX: number, clientY: number): void => {
    const c = canvas.current;
    if (!c || !box) return;
    const r = c.getBoundingClientRect(),
      x = Math.floor(((clientX - r.left) / r.width) * c.width),
      y = Math.floor(((clientY - r.top) / r.height) * c.height);
    if (x < 0 || y < 0 || x >= c.width || y >= c.height) {
      setProbe('');
      return;
    }
    const [R, G, B] = c.getContext('2d')!.getImageData(x, y, 1, 1).data as unknown as [number, number, number],
      p = pointReading(R, G, B);
    setProbe(
      `R ${R} G ${G} B ${B} · linear ${p.linear.map((v) => v.toFixed(3)).join(' ')} · L ${p.lightness.toFixed(2)} C ${p.chroma.toFixed(3)} h ${p.chroma < 0.004 ? '–' : `${Math.round(p.hueDegrees)}°`} · zone ${p.zone.toFixed(1)}`,
    );
  };
  return (
    <section className={`lead surround-${surround}`} aria-label={`Frame ${frame.name}`}>
      <div
        ref={stage}
        className={`stage ${(onPick || onPull || limiting) && !panning ? 'picks' : pans ? 'pans' : ''}`}
        data-testid="stage"
        onDoubleClick={(e) => {
          if (onPick || onPull || limiting) return;
          const r = stage.current!.getBoundingClientRect();
          if (zoom !== 'fit') onView({ zoom: 'fit' });
          else zoomTo(1, { x: (e.clientX - r.left) % (size.width + 2), y: e.clientY - r.top });
        }}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          const r = stage.current!.getBoundingClientRect(),
            onWipe = compare === 'wipe' && Math.abs(across ? e.clientY - r.top - wipeY : e.clientX - r.left - wipeX) < 14;
          if (limiting) {
            const at = fractionAt(e.clientX, e.clientY);
            if (at) {
              e.currentTarget.setPointerCapture(e.pointerId);
              limitFrom.current = at;
            }
            return;
          }
          if (onPin && e.shiftKey && !onWipe) {
            const at = fractionAt(e.clientX, e.clientY);
            if (at) onPin(at);
            return;
          }
          if (onPick && !panning && !onWipe) {
            const at = fractionAt(e.clientX, e.clientY);
            if (at) onPick(at, (side) => meanAt(at, side));
            return;
          }
          if (onPull && !panning && !onWipe) {
            const at = fractionAt(e.clientX, e.clientY),
              colour = at && meanAt(at, 5);
            if (colour) {
              e.currentTarget.setPointerCapture(e.pointerId);
              pullFrom.current = e.clientY;
              onPull.start(colour, at!);
            }
            return;
          }
          if (!onWipe && !pans) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, y: e.clientY, cx: centre.x, cy: centre.y, wipe: onWipe };
        }}
        onPointerMove={(e) => {
          const d = drag.current,
            from = limitFrom.current;
          if (pullFrom.current !== null) {
            onPull?.move(pullFrom.current - e.clientY);
            return;
          }
          if (from) {
            const at = fractionAt(e.clientX, e.clientY);
            if (at)
              onView({
                limit: {
                  x: Math.min(from.x, at.x),
                  y: Math.min(from.y, at.y),
                  width: Math.abs(at.x - from.x),
                  height: Math.abs(at.y - from.y),
                },
              });
            return;
          }
          if (!d) {
            readAt(e.clientX, e.clientY);
            return;
          }
          if (d.wipe && box) {
            const r = stage.current!.getBoundingClientRect();
            onView({
              wipe: Math.min(
                1,
                Math.max(0, across ? (e.clientY - r.top - top) / (bottom - top) : (e.clientX - r.left - left) / (right - left)),
              ),
            });
          } else if (pans) {
            const scale = scaleOf(zoom, picture, size, density),
              half = {
                x: Math.min(0.5, size.width / scale / picture.width / 2),
                y: Math.min(0.5, size.height / scale / picture.height / 2),
              };
            onView({
              centre: {
                x: Math.min(1 - half.x, Math.max(half.x, d.cx - (e.clientX - d.x) / scale / picture.width)),
                y: Math.min(1 - half.y, Math.max(half.y, d.cy - (e.clientY - d.y) / scale / picture.height)),
              },
            });
          }
        }}
        onPointerUp={() => {
          drag.current = null;
          pullFrom.current = null;
          if (limitFrom.current) {
            limitFrom.current = null;
            onView({
              limiting: false,
              ...(!limit || limit.width * picture.width < 8 || limit.height * picture.height < 8 ? { limit: null } : {}),
            });
          }
        }}
        onPointerLeave={() => setProbe('')}
      >
        <div className="half" style={{ width: size.width, left: beside }}>
          <canvas
            ref={canvas}
            data-testid="lead"
            className={compare === 'before' ? 'hidden' : ''}
            style={{ ...place(box), imageRendering, visibility: visible ? 'visible' : 'hidden' }}
          />
          <canvas
            ref={exactCanvas}
            data-testid="exact"
            className={isExact && fitted ? '' : 'hidden'}
            style={{ ...place(box), pointerEvents: 'none' }}
          />
          {(clipping?.black || clipping?.white) && compare !== 'before' && (
            <canvas ref={marks} data-testid="clipping" className="marks" style={{ ...place(box), imageRendering }} />
          )}
        </div>
        <div className="half" style={{ width: size.width, left: 0, pointerEvents: 'none' }}>
          <canvas
            ref={beforeCanvas}
            data-testid="before"
            className={compare === 'off' ? 'hidden' : ''}
            style={{
              ...place(box),
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
          <div
            className={`wipe ${across ? 'across' : ''}`}
            style={across ? { left, top: wipeY, width: right - left } : { left: wipeX, top, height: bottom - top }}
            aria-orientation={across ? 'vertical' : 'horizontal'}
            role="slider"
            tabIndex={0}
            aria-label="Wipe between before and after"
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(wipe * 100)}
            onKeyDown={(e) => {
              const way = e.key === 'ArrowLeft' || e.key === 'ArrowUp' ? -0.02 : e.key === 'ArrowRight' || e.key === 'ArrowDown' ? 0.02 : 0;
              if (way) {
                e.preventDefault();
                onView({ wipe: Math.min(1, Math.max(0, wipe + way)) });
              }
            }}
          >
            <i />
          </div>
        )}
        {compare !== 'off' && box && (
          <>
            <b className="tag" style={{ left: left + 12, top: Math.max(0, box.top) + 12 }}>
              {before.words}
            </b>
            {(compare === 'wipe' || compare === 'beside') && (
              <b
                className="tag"
                style={
                  compare === 'wipe' && across
                    ? { left: left + 12, top: bottom - 30 }
                    : { right: Math.max(0, size.width - box.left - box.width) + 12, top: Math.max(0, box.top) + 12 }
                }
              >
                now
              </b>
            )}
          </>
        )}
        {limit && toBox(limit) && (
          <div className="limit" data-testid="limit" style={toBox(limit)!}>
            <button
              type="button"
              title="Read the whole picture again"
              onPointerDown={(e) => e.stopPropagation()}
              onClick={() => onView({ limit: null, limiting: false })}
              onKeyDown={(e) => {
                const d = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, -0.02], ArrowDown: [0, 0.02] }[e.key],
                  clamp = (v: number, top: number): number => Math.min(top, Math.max(0, v));
                if (!d) return;
                e.preventDefault();
                e.stopPropagation();
                onView({
                  limit: e.altKey
                    ? { ...limit, width: clamp(limit.width + d[0]!, 1 - limit.x), height: clamp(limit.height + d[1]!, 1 - limit.y) }
                    : { ...limit, x: clamp(limit.x + d[0]!, 1 - limit.width), y: clamp(limit.y + d[1]!, 1 - limit.height) },
                });
              }}
            >
              readouts ×
            </button>
          </div>
        )}
        {box && compare === 'off' && !limiting && children?.({ box, stage: size, picture, toStage, read })}
        {seen && pans && (seen.width < 0.99 || seen.height < 0.99) && (
          <Overview seen={seen} picture={picture} onCentre={(c) => onView({ centre: c })} />
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
      <footer className="lead-foot">
        <span>{frame.name}</span>
        <span data-testid="zoom">
          {zoom === 'fit'
            ? `Fit, ${Math.round((laid?.scale ?? 0) * 100)} %`
            : zoom === 'fill'
              ? `Fill, ${Math.round((laid?.scale ?? 0) * 100)} %`
              : `${Math.round(zoom * 100)} %`}
        </span>
        {isExact && fitted && (
          <span className="exact-mark" title="This is the full-size render scaled down, as a delivered file would look">
            exact
          </span>
        )}
        <span className="foot-light">{frame.light}</span>
        <span className="spring" />
        <span className="probe">{probe}</span>
      </footer>
    </section>
  );
}

/** A small map of which part of the picture is seen; a press in it goes there. */
function Overview({
  seen,
  picture,
  onCentre,
}: {
  seen: Box;
  picture: { width: number; height: number };
  onCentre: (c: { x: number; y: number }) => void;
}): React.JSX.Element {
  const width = picture.width >= picture.height ? 108 : Math.round((108 * picture.width) / picture.height),
    height = Math.round((width * picture.height) / picture.width);
  const go = (e: React.PointerEvent<HTMLDivElement>): void => {
    e.stopPropagation();
    const r = e.currentTarget.getBoundingClientRect();
    onCentre({ x: (e.clientX - r.left) / r.width, y: (e.clientY - r.top) / r.height });
  };
  return (
    <div
      className="overview"
      data-testid="overview"
      aria-label="Overview of what is seen"
      style={{ width, height }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        go(e);
      }}
      onPointerMove={(e) => {
        if (e.buttons === 1) go(e);
        else e.stopPropagation();
      }}
    >
      <i
        style={{ left: `${seen.left * 100}%`, top: `${seen.top * 100}%`, width: `${seen.width * 100}%`, height: `${seen.height * 100}%` }}
      />
    </div>
  );
}
