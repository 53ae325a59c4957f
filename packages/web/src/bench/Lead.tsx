import { levelSize, plateLevels, type Histogram, type Look } from '@dyepot/core';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import { act } from './benchSlice.ts';
import type { Darkroom } from './darkroom.ts';
import { useFrameRender, type Piece } from './useFrameRender.ts';

const bothWorkers = [0, 1] as const;
interface Box { left: number; top: number; width: number; height: number }

/** Which level and rectangle of the plate to show, and where it lies on the page. */
function layOut(frame: Frame, stage: { width: number; height: number }, zoom: 'fit' | 1 | 2, centre: { x: number; y: number }, density: number): { piece: Piece; box: Box; scale: number } {
  if (zoom === 'fit') {
    const scale = Math.min((stage.width - 44) / frame.width, (stage.height - 44) / frame.height, 1 / density);
    let level = 0;
    while (level < plateLevels - 1 && (frame.width >> (level + 1)) >= frame.width * scale * density * 0.92) level++;
    const size = levelSize(frame.width, frame.height, level), width = Math.round(frame.width * scale), height = Math.round(frame.height * scale);
    return { piece: { level, x: 0, y: 0, ...size }, box: { left: Math.round((stage.width - width) / 2), top: Math.round((stage.height - height) / 2), width, height }, scale: scale * density };
  }
  const scale = zoom / density, seen = { width: Math.min(frame.width, Math.ceil(stage.width / scale)), height: Math.min(frame.height, Math.ceil(stage.height / scale)) };
  const margin = 128, clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));
  const x0 = clamp(centre.x * frame.width - seen.width / 2, 0, frame.width - seen.width), y0 = clamp(centre.y * frame.height - seen.height / 2, 0, frame.height - seen.height);
  const x = Math.max(0, Math.floor((x0 - margin) / 64) * 64), y = Math.max(0, Math.floor((y0 - margin) / 64) * 64);
  const width = Math.min(frame.width - x, seen.width + 2 * margin + 64), height = Math.min(frame.height - y, seen.height + 2 * margin + 64);
  const offX = Math.max(0, (stage.width - frame.width * scale) / 2), offY = Math.max(0, (stage.height - frame.height * scale) / 2);
  return { piece: { level: 0, x, y, width: Math.round(width), height: Math.round(height) }, box: { left: Math.round((x - x0) * scale + offX), top: Math.round((y - y0) * scale + offY), width: width * scale, height: height * scale }, scale: zoom };
}

interface Props { darkroom: Darkroom; frame: Frame; look: Look; onHistogram: (h: Histogram | null) => void }

/** The lead frame, large: fit, 100 % and 200 %, panned by dragging, compared by a wipe or a held key. */
export function Lead({ darkroom, frame, look, onHistogram }: Props): React.JSX.Element {
  const dispatch = useAppDispatch();
  const { zoom, centre, compare, wipe, surround } = useAppSelector((s) => s.bench);
  const stage = useRef<HTMLDivElement>(null), canvas = useRef<HTMLCanvasElement>(null), before = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const drag = useRef<{ x: number; y: number; cx: number; cy: number; wipe: boolean; moved: boolean } | null>(null);
  const [probe, setProbe] = useState<string>('');
  const density = Math.min(2, window.devicePixelRatio || 1);

  useLayoutEffect(() => {
    const node = stage.current!;
    const observer = new ResizeObserver(() => setSize({ width: node.clientWidth, height: node.clientHeight }));
    observer.observe(node);
    setSize({ width: node.clientWidth, height: node.clientHeight });
    return () => observer.disconnect();
  }, []);

  const laid = size.width > 0 ? layOut(frame, size, zoom, centre, density) : null;
  const [ready, setReady] = useState<{ piece: Piece; frame: number } | null>(null);
  const { histogram, message } = useFrameRender(darkroom, { name: 'lead', frame, piece: laid?.piece ?? null, look, rank: 1, canvas, workers: bothWorkers, counted: true, draft: laid && zoom === 'fit' && laid.piece.level < plateLevels - 1 && laid.piece.width * laid.piece.height > 2e5 ? { level: laid.piece.level + 1, x: 0, y: 0, ...levelSize(frame.width, frame.height, laid.piece.level + 1) } : null, onPainted: (piece) => setReady({ piece, frame: frame.id }) });
  useFrameRender(darkroom, { name: 'before', frame, piece: laid?.piece ?? null, look: null, rank: 2, canvas: before, workers: bothWorkers, wanted: compare !== 'off' });
  useEffect(() => onHistogram(histogram), [histogram, onHistogram]);

  // until the new piece is there the old canvas is shown where its own pixels belong
  const place = (box: Box | undefined): React.CSSProperties => (box ? { left: box.left, top: box.top, width: box.width, height: box.height } : { display: 'none' });
  const imageRendering = zoom === 2 || (zoom === 1 && density === 1) ? 'pixelated' : 'auto';
  const box = laid?.box, visible = ready?.frame === frame.id;
  const wipeX = box ? Math.round(Math.max(0, box.left) + wipe * (Math.min(size.width, box.left + box.width) - Math.max(0, box.left))) : 0;

  const readAt = (clientX: number, clientY: number): void => {
    const c = canvas.current;
    if (!c || !box) return;
    const r = c.getBoundingClientRect(), x = Math.floor(((clientX - r.left) / r.width) * c.width), y = Math.floor(((clientY - r.top) / r.height) * c.height);
    if (x < 0 || y < 0 || x >= c.width || y >= c.height) { setProbe(''); return; }
    const [R, G, B] = c.getContext('2d')!.getImageData(x, y, 1, 1).data;
    setProbe(`R ${R} G ${G} B ${B}`);
  };
  return (
    <section className={`lead surround-${surround}`} aria-label={`Lead frame ${frame.name}`}>
      <div
        ref={stage} className={`stage ${zoom === 'fit' ? '' : 'pans'}`} data-testid="stage"
        onDoubleClick={(e) => {
          const r = stage.current!.getBoundingClientRect();
          if (zoom !== 'fit') dispatch(act.viewSet({ zoom: 'fit' }));
          else if (box) dispatch(act.viewSet({ zoom: 1, centre: { x: (e.clientX - r.left - box.left) / box.width, y: (e.clientY - r.top - box.top) / box.height } }));
        }}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          const onWipe = compare === 'wipe' && Math.abs(e.clientX - stage.current!.getBoundingClientRect().left - wipeX) < 14;
          if (!onWipe && zoom === 'fit') return;
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, y: e.clientY, cx: centre.x, cy: centre.y, wipe: onWipe, moved: false };
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d) { readAt(e.clientX, e.clientY); return; }
          if (d.wipe && box) {
            const left = Math.max(0, box.left), right = Math.min(size.width, box.left + box.width);
            dispatch(act.wipeMoved((e.clientX - stage.current!.getBoundingClientRect().left - left) / (right - left)));
          } else if (zoom !== 'fit') {
            const scale = zoom / density, half = { x: Math.min(0.5, size.width / scale / frame.width / 2), y: Math.min(0.5, size.height / scale / frame.height / 2) };
            dispatch(act.viewSet({ centre: { x: Math.min(1 - half.x, Math.max(half.x, d.cx - (e.clientX - d.x) / scale / frame.width)), y: Math.min(1 - half.y, Math.max(half.y, d.cy - (e.clientY - d.y) / scale / frame.height)) } }));
          }
        }}
        onPointerUp={() => { drag.current = null; }} onPointerLeave={() => setProbe('')}
      >
        <canvas ref={canvas} data-testid="lead" className={compare === 'before' ? 'hidden' : ''} style={{ ...place(box), imageRendering, visibility: visible ? 'visible' : 'hidden' }} />
        <canvas ref={before} data-testid="before" className={compare === 'off' ? 'hidden' : ''} style={{ ...place(box), imageRendering, clipPath: compare === 'wipe' && box ? `inset(0 ${Math.max(0, box.left + box.width - wipeX)}px 0 0)` : undefined }} />
        {compare === 'wipe' && box && <div className="wipe" style={{ left: wipeX, top: Math.max(0, box.top), height: Math.min(size.height, box.top + box.height) - Math.max(0, box.top) }} role="slider" tabIndex={0} aria-label="Wipe between before and after" aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(wipe * 100)} onKeyDown={(e) => { if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') { e.preventDefault(); dispatch(act.wipeMoved(wipe + (e.key === 'ArrowLeft' ? -0.02 : 0.02))); } }}><i /></div>}
        {compare !== 'off' && box && <><b className="tag" style={{ left: Math.max(0, box.left) + 12, top: Math.max(0, box.top) + 12 }}>before the look</b>{compare === 'wipe' && <b className="tag" style={{ right: Math.max(0, size.width - box.left - box.width) + 12, top: Math.max(0, box.top) + 12 }}>with the look</b>}</>}
        {message && <p className="stage-message" role="alert">{message}</p>}
        {!visible && !message && <p className="stage-waiting" role="status">Loading {frame.name}…</p>}
      </div>
      <footer className="lead-foot">
        <span>{frame.name}</span><span>{frame.light}</span><span data-testid="zoom">{zoom === 'fit' ? `Fit, ${Math.round((laid?.scale ?? 0) * 100)} %` : `${zoom * 100} %`}</span><span className="spring" /><span className="probe">{probe}</span>
      </footer>
    </section>
  );
}
