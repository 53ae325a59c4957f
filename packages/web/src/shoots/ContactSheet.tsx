import { isTrimmed } from '@dyepot/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { EvenMark } from '../evenness/index.ts';
import { sheetPictureUrl } from '../pictures.ts';
import { Picture } from '../kit/Picture.tsx';
import type { Frame, Shoot } from '../types.ts';
import { marks } from './choosing.ts';
import { dragFrames, dragsFrames, framesDropped } from './dragged.ts';
import { justify, type Row } from './justify.ts';
import type { How } from './useChosen.ts';

const gap = 6;
type Line = { kind: 'light'; name: string; count: number } | { kind: 'row'; light: string; row: Row<Frame> };

interface TileProps {
  frame: Frame;
  src: string;
  width: number;
  chosen: boolean;
  leads: boolean;
  /** the one stop of the sheet for Tab */
  stop: boolean;
  onChoose: (id: number, how: How) => void;
  onOpen: (frame: Frame) => void;
  onFocus: (id: number) => void;
}
const Tile = memo(function Tile({ frame: f, src, width, chosen, leads, stop, onChoose, onOpen, onFocus }: TileProps): React.JSX.Element {
  return (
    <div
      role="option"
      aria-selected={chosen}
      tabIndex={stop ? 0 : -1}
      data-frame={f.id}
      draggable
      className={`sheet-frame ${chosen ? 'selected' : ''} ${f.rating < 0 ? 'rejected' : ''}`}
      style={{ width }}
      title={f.name}
      onFocus={() => onFocus(f.id)}
      onClick={(e) => onChoose(f.id, e.shiftKey ? 'range' : e.metaKey || e.ctrlKey ? 'toggle' : 'one')}
      onDoubleClick={() => onOpen(f)}
    >
      <Picture alt="" src={src} />
      {leads && <b className="tag lead-tag">lead</b>}
      {f.steps && <i className="trim-dot" title={isTrimmed(f.steps) ? 'trimmed' : 'steps of its own'} />}
      {f.rating !== 0 && <b className={`tag rating-tag ${f.rating < 0 ? 'rejected' : ''}`}>{f.rating < 0 ? '✕' : '★'.repeat(f.rating)}</b>}
      {f.mark && (
        <i
          className="mark-line"
          style={{ background: marks.find((m) => m.mark === f.mark)?.colour }}
          title={marks.find((m) => m.mark === f.mark)?.words}
        />
      )}
      {f.look && <b className="tag look-tag">own look</b>}

      {f.missing && <b className="tag missing-tag">missing</b>}
      {f.doubt && <b className="tag missing-tag">doubtful</b>}
      <span className="frame-line">
        <span>{f.name}</span>{' '}
        <span className="frame-facts">
          <EvenMark id={f.id} /> <small>{f.finished ?? `${Math.round(f.kelvin / 50) * 50} K`}</small>
        </span>
        <span className="unseen">
          , {f.light}
          {f.rating > 0 && `, rated ${f.rating}`}
          {f.rating < 0 && ', rejected'}
          {f.steps && (isTrimmed(f.steps) ? ', trimmed' : ', steps of its own')}
          {f.mark && `, ${marks.find((m) => m.mark === f.mark)?.words}`}
        </span>
      </span>
    </div>
  );
});

/** Lays frames out by light in justified rows. */
function linesOf(frames: readonly Frame[], width: number): Line[] {
  if (width <= 0) return [];
  const groups = new Map<string, Frame[]>();
  for (const f of frames) {
    const group = groups.get(f.light);
    if (group) group.push(f);
    else groups.set(f.light, [f]);
  }
  return [...groups].flatMap(([name, own]) => [
    { kind: 'light' as const, name, count: own.length },
    ...justify(own, (f) => f.output.width / f.output.height, width, width > 1600 ? 260 : 200, gap).map((row) => ({
      kind: 'row' as const,
      light: name,
      row,
    })),
  ]);
}

/** The frame an arrow leads to: along the rows, or the nearest above and below. */
function neighbour(lines: readonly Line[], id: number, key: string): Frame | undefined {
  const rows = lines.flatMap((l) => (l.kind === 'row' ? [l.row] : [])),
    order = rows.flatMap((r) => r.items.map((i) => i.item));
  const at = order.findIndex((f) => f.id === id);
  if (key === 'ArrowRight') return order[at + 1];
  if (key === 'ArrowLeft') return order[at - 1];
  if (key === 'Home') return order[0];
  if (key === 'End') return order[order.length - 1];
  const middles = (row: Row<Frame>): number[] => {
    let x = 0;
    return row.items.map(({ width }) => {
      const middle = x + width / 2;
      x += width + gap;
      return middle;
    });
  };
  const r = rows.findIndex((row) => row.items.some((i) => i.item.id === id)),
    far = key === 'PageUp' ? -3 : key === 'PageDown' ? 3 : key === 'ArrowUp' ? -1 : 1,
    target = rows[Math.min(rows.length - 1, Math.max(0, r + far))];
  if (r < 0 || !target) return undefined;
  const here = middles(rows[r]!)[rows[r]!.items.findIndex((i) => i.item.id === id)]!,
    there = middles(target);
  const best = there.reduce((b, m, i) => (Math.abs(m - here) < Math.abs(there[b]! - here) ? i : b), 0);
  return target.items[best]?.item;
}
const moves = ['ArrowRight', 'ArrowLeft', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown'];

interface Props {
  shoot: Shoot;
  selected: ReadonlySet<number>;
  onChoose: (id: number, how: How) => void;
  onOpen: (frame: Frame) => void;
  onFind: (frame: Frame) => void;
  /** frames were dropped among those of a light */
  onLight: (frames: readonly Frame[], light: string) => void;
}
const lightUnder = (e: React.DragEvent): string | undefined =>
  (e.target as HTMLElement).closest<HTMLElement>('[data-light]')?.dataset['light'];

/** Frames grouped by light in justified rows; only the rows near the window exist. One stop for Tab, arrows inside. */
export function ContactSheet({ shoot, selected, onChoose, onOpen, onFind, onLight }: Props): React.JSX.Element {
  const scroller = useRef<HTMLDivElement>(null),
    [width, setWidth] = useState(0),
    [at, setAt] = useState<number | null>(null),
    goTo = useRef<number | null>(null),
    [over, setOver] = useState<string | null>(null);
  useLayoutEffect(() => {
    const node = scroller.current!,
      measure = (): void => setWidth(node.clientWidth - 32);
    const observer = new ResizeObserver(measure);
    observer.observe(node);
    measure();
    return () => observer.disconnect();
  }, []);
  const lines = useMemo(() => linesOf(shoot.frames, width), [shoot.frames, width]);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => {
      const l = lines[i]!;
      return l.kind === 'light' ? 42 : l.row.height + gap;
    },
    overscan: 3,
  });
  useLayoutEffect(() => virtual.measure(), [virtual, lines]);
  const open = useCallback((f: Frame): void => (f.missing ? onFind(f) : onOpen(f)), [onFind, onOpen]);
  const items = virtual.getVirtualItems();
  // the frame the keys lead to exists only once its row does
  useEffect(() => {
    if (goTo.current === null) return;
    const node = scroller.current?.querySelector<HTMLElement>(`[data-frame="${goTo.current}"]`);
    if (!node) return;
    goTo.current = null;
    node.focus({ preventScroll: true });
  });
  const move = (to: Frame | undefined, range: boolean): void => {
    if (!to) return;
    setAt(to.id);
    goTo.current = to.id;
    const line = lines.findIndex((l) => l.kind === 'row' && l.row.items.some((i) => i.item.id === to.id));
    virtual.scrollToIndex(line, { align: 'auto' });
    if (range) onChoose(to.id, 'range');
  };
  const known = at !== null && shoot.frames.some((f) => f.id === at),
    first = [...selected][0] ?? shoot.leadFrameId ?? shoot.frames[0]!.id,
    visible = items.flatMap(({ index }) => {
      const l = lines[index];
      return l?.kind === 'row' ? l.row.items.map((i) => i.item.id) : [];
    }),
    wanted = known ? at : first,
    stop = visible.includes(wanted) ? wanted : visible[0];
  return (
    <div
      className="sheet-scroll"
      ref={scroller}
      data-testid="contact-sheet"
      role="listbox"
      aria-label="Frames"
      aria-multiselectable
      onDragStart={(e) => {
        const id = Number((e.target as HTMLElement).dataset['frame']);
        if (!id) return;
        dragFrames(e, selected.has(id) ? [...selected] : [id]);
      }}
      onDragOver={(e) => {
        const light = lightUnder(e);
        if (!light || !dragsFrames(e)) return;
        e.preventDefault();
        if (light !== over) setOver(light);
      }}
      onDragLeave={(e) => e.target === scroller.current && setOver(null)}
      onDragEnd={() => setOver(null)}
      onDrop={(e) => {
        const light = lightUnder(e),
          ids = new Set(framesDropped(e));
        setOver(null);
        if (!light || ids.size === 0) return;
        e.preventDefault();
        const moved = shoot.frames.filter((f) => ids.has(f.id) && f.light !== light);
        if (moved.length > 0) onLight(moved, light);
      }}
      onKeyDown={(e) => {
        const id = Number((e.target as HTMLElement).dataset['frame']),
          frame = shoot.frames.find((f) => f.id === id);
        if (!frame) return;
        if (moves.includes(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey) {
          e.preventDefault();
          // the first of a range is where Shift was first held
          if (e.shiftKey && selected.size === 0) onChoose(id, 'toggle');
          move(neighbour(lines, id, e.key), e.shiftKey);
        } else if (e.key === 'Enter') {
          e.preventDefault();
          open(frame);
        } else if (e.key === ' ') {
          e.preventDefault();
          e.stopPropagation();
          onChoose(id, 'toggle');
        }
      }}
    >
      <div role="presentation" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {items.map(({ index, start }) => {
          const l = lines[index];
          if (!l) return null;
          if (l.kind === 'light')
            return (
              <div
                key={`l${l.name}`}
                role="presentation"
                data-light={l.name}
                className={`light-name ${over === l.name ? 'dropping' : ''}`}
                style={{ top: start }}
              >
                <span title={l.name}>{l.name}</span>{' '}
                <small>
                  {l.count} {l.count === 1 ? 'frame' : 'frames'}
                </small>
              </div>
            );
          return (
            <div
              key={index}
              role="presentation"
              data-light={l.light}
              className={`sheet-row ${over === l.light ? 'dropping' : ''}`}
              style={{ top: start, height: l.row.height }}
            >
              {l.row.items.map(({ item: f, width: w }) => (
                <Tile
                  key={f.id}
                  frame={f}
                  src={sheetPictureUrl(f, shoot.look, w * Math.min(2, window.devicePixelRatio) > 400 ? 720 : 360, shoot.rendition)}
                  width={w}
                  chosen={selected.has(f.id)}
                  leads={f.id === shoot.leadFrameId}
                  stop={f.id === stop}
                  onChoose={onChoose}
                  onOpen={open}
                  onFocus={setAt}
                />
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}
