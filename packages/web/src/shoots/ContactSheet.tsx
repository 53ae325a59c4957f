import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { pictureUrl } from '../api.ts';
import { Picture } from '../kit/Picture.tsx';
import type { Frame, Shoot } from '../types.ts';
import { justify, type Row } from './justify.ts';

const gap = 6;
type Line = { kind: 'light'; name: string; count: number } | { kind: 'row'; row: Row<Frame> };

interface Props {
  shoot: Shoot;
  selected: ReadonlySet<number>;
  leadId: number | null;
  onSelect: (id: number, how: 'one' | 'toggle' | 'range') => void;
  onOpen: (frame: Frame) => void;
  onFind: (frame: Frame) => void;
}

/** Frames grouped by light in justified rows; only the rows near the window exist. */
export function ContactSheet({ shoot, selected, leadId, onSelect, onOpen, onFind }: Props): React.JSX.Element {
  const scroller = useRef<HTMLDivElement>(null),
    [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const node = scroller.current!,
      measure = (): void => setWidth(node.clientWidth - 32);
    const observer = new ResizeObserver(measure);
    observer.observe(node);
    measure();
    return () => observer.disconnect();
  }, []);
  const lines = useMemo<Line[]>(() => {
    if (width <= 0) return [];
    const groups = new Map<string, Frame[]>();
    for (const f of shoot.frames) groups.set(f.light, [...(groups.get(f.light) ?? []), f]);
    return [...groups].flatMap(([name, frames]) => [
      { kind: 'light' as const, name, count: frames.length },
      ...justify(frames, (f) => f.output.width / f.output.height, width, width > 1600 ? 260 : 200, gap).map((row) => ({
        kind: 'row' as const,
        row,
      })),
    ]);
  }, [shoot.frames, width]);
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
  return (
    <div className="sheet-scroll" ref={scroller} data-testid="contact-sheet">
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const l = lines[index]!;
          if (l.kind === 'light')
            return (
              <h2 key={`l${l.name}`} className="light-name" style={{ top: start }}>
                {l.name}{' '}
                <small>
                  {l.count} {l.count === 1 ? 'frame' : 'frames'}
                </small>
              </h2>
            );
          return (
            <div key={index} className="sheet-row" style={{ top: start, height: l.row.height }}>
              {l.row.items.map(({ item: f, width: w }) => (
                <button
                  key={f.id}
                  type="button"
                  className={`sheet-frame ${selected.has(f.id) ? 'selected' : ''}`}
                  style={{ width: w }}
                  aria-pressed={selected.has(f.id)}
                  aria-label={`${f.name}, ${f.light}${f.missing ? ', missing' : ''}`}
                  onClick={(e) => onSelect(f.id, e.shiftKey ? 'range' : e.metaKey || e.ctrlKey ? 'toggle' : 'one')}
                  onDoubleClick={() => (f.missing ? onFind(f) : onOpen(f))}
                  onKeyDown={(e) => {
                    if (e.key === 'Enter') {
                      e.preventDefault();
                      onOpen(f);
                    }
                  }}
                >
                  <Picture
                    alt={f.name}
                    src={pictureUrl(f, shoot.look, w * Math.min(2, window.devicePixelRatio) > 400 ? 720 : 360, shoot.rendition)}
                  />
                  {f.id === leadId && <b className="tag lead-tag">lead</b>}
                  {f.missing && <b className="tag missing-tag">missing</b>}
                  <span className="frame-line">
                    <span>{f.name}</span>
                    <small>{Math.round(f.kelvin / 50) * 50} K</small>
                  </span>
                </button>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}
