import type { Geometry } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import type { Placed } from '../view/FrameView.tsx';
import { useAim } from '../view/useAim.ts';
import type { GroundState } from './groundSlice.ts';

type Crop = Geometry['crop'];
const handles = [
  ['nw', 0, 0],
  ['n', 0.5, 0],
  ['ne', 1, 0],
  ['e', 1, 0.5],
  ['se', 1, 1],
  ['s', 0.5, 1],
  ['sw', 0, 1],
  ['w', 0, 0.5],
] as const;
let gestures = 0;

/** Width over height of a ratio for a picture, or null when it is free. */
export function ratioOf(ratio: Geometry['ratio'], upright: boolean): number | null {
  if (ratio === 'free') return null;
  const [a, b] = ratio.split(':').map(Number) as [number, number],
    wide = Math.max(a, b) / Math.min(a, b);
  return upright ? 1 / wide : wide;
}
/** The largest crop of a ratio round the middle of a crop. */
export function cropTo(ratio: number | null, crop: Crop, aspect: number): Crop {
  if (ratio === null) return crop;
  const cx = crop.x + crop.width / 2,
    cy = crop.y + crop.height / 2,
    share = ratio / aspect;
  let width = crop.width,
    height = crop.width / share;
  if (height > 1) {
    height = 1;
    width = share;
  }
  if (width > 1) {
    width = 1;
    height = 1 / share;
  }
  return { x: Math.min(1 - width, Math.max(0, cx - width / 2)), y: Math.min(1 - height, Math.max(0, cy - height / 2)), width, height };
}
/** A crop after one of its handles is drawn to a place; the ratio is kept, the picture not left. */
export function pulled(crop: Crop, hx: number, hy: number, at: { x: number; y: number }, ratio: number | null, aspect: number): Crop {
  const least = 0.03,
    inside = (v: number): number => Math.min(1, Math.max(0, v));
  let left = crop.x,
    right = crop.x + crop.width,
    top = crop.y,
    bottom = crop.y + crop.height;
  if (hx === 0) left = Math.min(right - least, inside(at.x));
  else if (hx === 1) right = Math.max(left + least, inside(at.x));
  if (hy === 0) top = Math.min(bottom - least, inside(at.y));
  else if (hy === 1) bottom = Math.max(top + least, inside(at.y));
  if (ratio !== null) {
    const share = ratio / aspect;
    let w = right - left,
      h = bottom - top;
    if (hx === 0.5) w = h * share;
    else if (hy === 0.5) h = w / share;
    else if (w / h > share) w = h * share;
    else h = w / share;
    const ax = hx === 0 ? right : hx === 1 ? left : (left + right) / 2,
      ay = hy === 0 ? bottom : hy === 1 ? top : (top + bottom) / 2;
    const roomX = hx === 0 ? ax : hx === 1 ? 1 - ax : 2 * Math.min(ax, 1 - ax),
      roomY = hy === 0 ? ay : hy === 1 ? 1 - ay : 2 * Math.min(ay, 1 - ay),
      k = Math.min(1, roomX / w, roomY / h);
    w *= k;
    h *= k;
    left = hx === 0 ? ax - w : hx === 1 ? ax : ax - w / 2;
    top = hy === 0 ? ay - h : hy === 1 ? ay : ay - h / 2;
    right = left + w;
    bottom = top + h;
  }
  return {
    x: inside(left),
    y: inside(top),
    width: Math.min(1 - inside(left), right - left),
    height: Math.min(1 - inside(top), bottom - top),
  };
}

const guideLines: Record<GroundState['guides'], readonly [number, number, number, number][]> = {
  none: [],
  thirds: [1 / 3, 2 / 3].flatMap(
    (t) =>
      [
        [t, 0, t, 1],
        [0, t, 1, t],
      ] as [number, number, number, number][],
  ),
  diagonals: [
    [0, 0, 1, 1],
    [1, 0, 0, 1],
  ],
  golden: [0.381966, 0.618034].flatMap(
    (t) =>
      [
        [t, 0, t, 1],
        [0, t, 1, t],
      ] as [number, number, number, number][],
  ),
};

/** A line over the picture, as fractions of it. */
export interface Line {
  from: { x: number; y: number };
  to: { x: number; y: number };
}

/** The crop over the whole picture: drawn by its handles, moved by its inside, with guides; or lines drawn to right it by. */
export function CropOverlay({
  placed,
  geometry,
  guides,
  line,
  lines,
  onCrop,
  onLine,
}: {
  placed: Placed;
  geometry: Geometry;
  guides: GroundState['guides'];
  line: boolean;
  /** drawn already */ lines: readonly Line[];
  onCrop: (crop: Crop, gesture: string) => void;
  onLine: (line: Line) => void;
}): React.JSX.Element {
  const { box, picture } = placed,
    { crop } = geometry,
    root = useRef<HTMLDivElement>(null),
    drag = useRef<{ hx: number; hy: number; start: { x: number; y: number }; crop: Crop; gesture: string } | null>(null),
    from = useRef<{ x: number; y: number } | null>(null),
    drawn = useRef<SVGLineElement>(null),
    aim = useAim(),
    [begun, setBegun] = useState<{ x: number; y: number } | null>(null);
  // a line can be drawn by keys too: the aim is there as soon as one is asked for
  useEffect(() => {
    setBegun(null);
    aim.set(line ? { x: 0.5, y: 0.5 } : null);
    if (line) root.current?.focus();
  }, [line, lines.length]);
  const lineKeys = (e: React.KeyboardEvent): void => {
    if (!line || e.target !== e.currentTarget || aim.moved(e) || e.key !== 'Enter' || !aim.at) return;
    e.preventDefault();
    if (!begun) setBegun(aim.at);
    else if (Math.hypot(aim.at.x - begun.x, aim.at.y - begun.y) > 0.01) {
      setBegun(null);
      onLine({ from: begun, to: aim.at });
    }
  };
  const aspect = picture.width / picture.height,
    ratio = ratioOf(geometry.ratio, crop.width * aspect < crop.height);
  const at = (e: React.PointerEvent): { x: number; y: number } => {
    const r = root.current!.getBoundingClientRect();
    return { x: (e.clientX - r.left) / r.width, y: (e.clientY - r.top) / r.height };
  };
  const begin = (e: React.PointerEvent, hx: number, hy: number): void => {
    e.stopPropagation();
    root.current!.setPointerCapture(e.pointerId);
    drag.current = { hx, hy, start: at(e), crop, gesture: `crop-${++gestures}` };
  };
  return (
    <div
      ref={root}
      className="crop"
      data-testid="crop"
      {...(line
        ? {
            tabIndex: 0,
            role: 'application',
            'aria-roledescription': 'line',
            'aria-label': 'Line: arrows aim, Enter begins it, Enter again ends it',
            onKeyDown: lineKeys,
          }
        : {})}
      style={{ left: box.left, top: box.top, width: box.width, height: box.height, cursor: line ? 'crosshair' : undefined }}
      onPointerDown={(e) => {
        e.stopPropagation();
        if (line) {
          root.current!.setPointerCapture(e.pointerId);
          from.current = at(e);
        }
      }}
      onPointerMove={(e) => {
        const p = at(e),
          d = drag.current;
        if (from.current) {
          const l = drawn.current!;
          l.setAttribute('x1', String(from.current.x * 100));
          l.setAttribute('y1', String(from.current.y * 100));
          l.setAttribute('x2', String(p.x * 100));
          l.setAttribute('y2', String(p.y * 100));
          return;
        }
        if (!d) return;
        if (d.hx === 0.5 && d.hy === 0.5)
          onCrop(
            {
              ...d.crop,
              x: Math.min(1 - d.crop.width, Math.max(0, d.crop.x + p.x - d.start.x)),
              y: Math.min(1 - d.crop.height, Math.max(0, d.crop.y + p.y - d.start.y)),
            },
            d.gesture,
          );
        else onCrop(pulled(d.crop, d.hx, d.hy, p, ratio, aspect), d.gesture);
      }}
      onPointerUp={(e) => {
        drag.current = null;
        if (!from.current) return;
        const p = at(e),
          dx = (p.x - from.current.x) * box.width,
          dy = (p.y - from.current.y) * box.height;
        const start = from.current;
        from.current = null;
        drawn.current!.setAttribute('x2', drawn.current!.getAttribute('x1')!);
        drawn.current!.setAttribute('y2', drawn.current!.getAttribute('y1')!);
        if (Math.hypot(dx, dy) < 12) return;
        onLine({ from: start, to: p });
      }}
    >
      <div
        className="crop-frame"
        style={{ left: `${crop.x * 100}%`, top: `${crop.y * 100}%`, width: `${crop.width * 100}%`, height: `${crop.height * 100}%` }}
        onPointerDown={(e) => {
          if (!line) begin(e, 0.5, 0.5);
        }}
        role="slider"
        tabIndex={0}
        aria-label="Crop, moved by arrows, resized by Alt and arrows"
        aria-valuenow={Math.round(crop.width * 100)}
        onKeyDown={(e) => {
          const step = e.shiftKey ? 0.002 : 0.01,
            dx = e.key === 'ArrowLeft' ? -step : e.key === 'ArrowRight' ? step : 0,
            dy = e.key === 'ArrowUp' ? -step : e.key === 'ArrowDown' ? step : 0;
          if ((dx || dy) && e.altKey) {
            e.preventDefault();
            onCrop(
              pulled(crop, dx ? 1 : 0.5, dy ? 1 : 0.5, { x: crop.x + crop.width + dx, y: crop.y + crop.height + dy }, ratio, aspect),
              'crop-keys',
            );
            return;
          }
          if (dx || dy) {
            e.preventDefault();
            onCrop(
              { ...crop, x: Math.min(1 - crop.width, Math.max(0, crop.x + dx)), y: Math.min(1 - crop.height, Math.max(0, crop.y + dy)) },
              'crop-keys',
            );
          }
        }}
      >
        <svg viewBox="0 0 1 1" preserveAspectRatio="none">
          {guideLines[guides].map(([x1, y1, x2, y2], i) => (
            <line key={i} x1={x1} y1={y1} x2={x2} y2={y2} vectorEffect="non-scaling-stroke" />
          ))}
        </svg>
        {!line &&
          handles.map(([name, hx, hy]) => (
            <i
              key={name}
              className={`crop-handle ${name}`}
              data-handle={name}
              style={{ left: `${hx * 100}%`, top: `${hy * 100}%` }}
              onPointerDown={(e) => begin(e, hx, hy)}
            />
          ))}
      </div>
      <svg className="crop-line" viewBox="0 0 100 100" preserveAspectRatio="none">
        {lines.map((l, i) => (
          <line key={i} x1={l.from.x * 100} y1={l.from.y * 100} x2={l.to.x * 100} y2={l.to.y * 100} vectorEffect="non-scaling-stroke" />
        ))}
        {begun && aim.at && (
          <line x1={begun.x * 100} y1={begun.y * 100} x2={aim.at.x * 100} y2={aim.at.y * 100} vectorEffect="non-scaling-stroke" />
        )}
        <line ref={drawn} vectorEffect="non-scaling-stroke" />
      </svg>
      {line && aim.at && <i className="aim" style={{ left: `${aim.at.x * 100}%`, top: `${aim.at.y * 100}%` }} aria-hidden />}
    </div>
  );
}
