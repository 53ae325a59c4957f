import type { Rendition } from '@dyepot/core';
import { useEffect, useRef } from 'react';
import { EvenMark } from '../evenness/index.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { Picture } from '../kit/Picture.tsx';
import { pictureUrl } from '../pictures.ts';
import type { Frame } from '../types.ts';

/** How near all cells are, and which place of theirs lies in the middle (shares of the picture). */
export interface View {
  zoom: number;
  x: number;
  y: number;
}
export interface Row {
  id: number;
  revision: number;
  name: string;
  strip: readonly string[];
}
const limit = ({ zoom, x, y }: View): View => {
  const z = Math.min(8, Math.max(1, zoom)),
    half = 0.5 / z;
  return { zoom: z, x: Math.min(1 - half, Math.max(half, x)), y: Math.min(1 - half, Math.max(half, y)) };
};

/** Frames across, looks down; all cells show the same place as near. Arrows walk, Enter opens, F favours, S strikes out. */
export function SwatchTable({
  frames,
  looks,
  rendition,
  said,
  view,
  onView,
  onSay,
  onOpen,
}: {
  frames: readonly Frame[];
  looks: readonly Row[];
  rendition: Rendition;
  said: Readonly<Record<string, 'best' | 'out'>>;
  view: View;
  onView: (v: View) => void;
  onSay: (key: string, what: 'best' | 'out') => void;
  onOpen: (frame: Frame, look: Row) => void;
}): React.JSX.Element {
  const own = useRef<HTMLTableElement>(null),
    drag = useRef<{ x: number; y: number; from: View; moved: boolean } | null>(null),
    latest = useRef({ view, onView });
  latest.current = { view, onView };
  useEffect(() => {
    // React listens to wheels passively; a page must not scroll while pictures zoom
    const node = own.current!,
      heard = (e: WheelEvent): void => {
        const cell = (e.target as HTMLElement).closest<HTMLElement>('.swatch');
        if (!cell || e.shiftKey) return;
        e.preventDefault();
        const { view: v } = latest.current;
        latest.current.onView(limit({ ...v, zoom: v.zoom * 1.0015 ** -e.deltaY }));
      };
    node.addEventListener('wheel', heard, { passive: false });
    return () => node.removeEventListener('wheel', heard);
  }, []);
  const move = (r: number, c: number): void => own.current?.querySelector<HTMLElement>(`[data-cell="${r} ${c}"]`)?.focus();
  return (
    <div className="swatch-scroll">
      <table className="swatch-table" ref={own}>
        <thead>
          <tr>
            <th scope="col">
              <span className="unseen">Look</span>
            </th>
            {frames.map((f) => (
              <th key={f.id} scope="col" title={`${f.name}, ${f.light}`}>
                {f.name} <EvenMark id={f.id} /> <small>{f.light}</small>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {looks.map((look, r) => (
            <tr key={look.id}>
              <th scope="row" title={look.name}>
                <span>{look.name}</span>
                {look.strip.length > 0 && <DyeStrip strip={look.strip} height={8} />}
              </th>
              {frames.map((f, c) => {
                const key = `${f.id} ${look.id}`,
                  is = said[key],
                  near = view.zoom > 1.4;
                return (
                  <td key={f.id}>
                    <button
                      type="button"
                      data-cell={`${r} ${c}`}
                      tabIndex={r === 0 && c === 0 ? 0 : -1}
                      className={`swatch ${is ?? ''}`}
                      aria-label={`${f.name} under ${look.name}${is === 'best' ? ', a favourite' : is === 'out' ? ', struck out' : ''}`}
                      title="Click opens it on the Bench; F favours, S strikes out"
                      onPointerDown={(e) => {
                        if (e.button !== 0) return;
                        e.currentTarget.setPointerCapture(e.pointerId);
                        drag.current = { x: e.clientX, y: e.clientY, from: view, moved: false };
                      }}
                      onPointerMove={(e) => {
                        const d = drag.current;
                        if (!d || e.buttons === 0) return;
                        const box = e.currentTarget.getBoundingClientRect(),
                          [dx, dy] = [e.clientX - d.x, e.clientY - d.y];
                        if (!d.moved && Math.hypot(dx, dy) < 5) return;
                        d.moved = true;
                        onView(
                          limit({ ...d.from, x: d.from.x - dx / box.width / d.from.zoom, y: d.from.y - dy / box.height / d.from.zoom }),
                        );
                      }}
                      onClick={() => {
                        const moved = drag.current?.moved;
                        drag.current = null;
                        if (!moved) onOpen(f, look);
                      }}
                      onKeyDown={(e) => {
                        const way = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[e.key];
                        if (way) {
                          e.preventDefault();
                          move(r + way[0]!, c + way[1]!);
                        } else if (e.key === 'f' || e.key === 's') {
                          e.preventDefault();
                          onSay(key, e.key === 'f' ? 'best' : 'out');
                        } else if (e.key === '+' || e.key === '-') {
                          e.preventDefault();
                          onView(limit({ ...view, zoom: view.zoom * (e.key === '+' ? 1.25 : 0.8) }));
                        }
                      }}
                    >
                      <span
                        className="swatch-picture"
                        style={{ transform: `scale(${view.zoom}) translate(${(0.5 - view.x) * 100}%, ${(0.5 - view.y) * 100}%)` }}
                      >
                        <Picture alt="" src={pictureUrl(f, look.id ? look : null, near ? 1080 : 360, rendition)} />
                      </span>
                      {is && <b className="swatch-said">{is === 'best' ? '●' : '✕'}</b>}
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
