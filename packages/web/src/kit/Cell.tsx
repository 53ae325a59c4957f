import type { NumberParameter } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { Cells } from './Cells.tsx';
import { tell } from './notices.tsx';
import { formatNumber } from './NumberControl.tsx';
import { readNumber } from './readNumber.ts';

let gestures = 0;

interface CellProps {
  parameter: NumberParameter;
  value: number;
  onChange: (value: number, gesture: string) => void;
  tint?: string;
  /** shown with its sign and unit */
  worded?: boolean;
}

/**
 * A number as a field: dragged sideways (finer the further the pointer is from it), nudged by arrows (Shift finer, Alt
 * coarser), typed after a click, put back by a double click.
 */
export function Cell({ parameter: p, value, onChange, tint = '#8a8886', worded = false }: CellProps): React.JSX.Element {
  const [typed, setTyped] = useState<string | null>(null),
    opened = useRef(0),
    drag = useRef<{ x: number; exact: number; gesture: string; moved: boolean } | null>(null),
    keys = useRef({ gesture: '', at: 0 });
  const clamp = (v: number): number => Math.min(p.max, Math.max(p.min, v)),
    tidy = (v: number, step: number): number => Number(clamp(Math.round(v / step) * step).toFixed(6)),
    share = (v: number): number => ((v - p.min) / (p.max - p.min)) * 100,
    [from, to] = [share(clamp(p.default)), share(clamp(value))];
  const commit = (): void => {
    if (typed !== null && typed.trim() !== '') {
      const v = readNumber(typed, p.unit);
      if (v === null) tell(`${p.label}: “${typed.trim().slice(0, 40)}” is no number; it stays at ${formatNumber(p, value)}`);
      else onChange(clamp(v), `cell-${++gestures}`);
    }
    leaveTyping();
  };
  const field = useRef<HTMLDivElement>(null),
    back = useRef(false);
  // after typing, the focus is where it was
  const leaveTyping = (): void => {
    back.current = true;
    setTyped(null);
  };
  useEffect(() => {
    if (typed !== null || !back.current) return;
    back.current = false;
    if (document.activeElement === document.body || document.activeElement === null) field.current?.focus();
  }, [typed]);
  if (typed !== null)
    return (
      <input
        className="cell"
        aria-label={`${p.label}, typed`}
        autoFocus
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onFocus={(e) => e.target.select()}
        onBlur={commit}
        onDoubleClick={() => {
          // the second click of two lands on the field that the first one opened
          if (performance.now() - opened.current > 600) return;
          setTyped(null);
          onChange(p.default, `cell-${++gestures}`);
        }}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') commit();
          if (e.key === 'Escape') leaveTyping();
        }}
      />
    );
  return (
    <div
      ref={field}
      className="cell"
      role="slider"
      tabIndex={0}
      aria-label={p.label}
      aria-valuemin={p.min}
      aria-valuemax={p.max}
      aria-valuenow={value}
      aria-valuetext={formatNumber(p, value)}
      title="Drag sideways, click to type, double click to put back"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { x: e.clientX, exact: value, gesture: `cell-${++gestures}`, moved: false };
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d || e.clientX === d.x) return;
        const box = e.currentTarget.getBoundingClientRect(),
          away = Math.max(0, Math.abs(e.clientY - (box.top + box.height / 2)) - 18);
        d.exact = clamp(d.exact + ((e.clientX - d.x) * (p.max - p.min)) / 270 / (1 + away / 24));
        d.x = e.clientX;
        d.moved = true;
        const next = tidy(d.exact, away > 0 ? p.step / 5 : p.step);
        if (next !== value) onChange(next, d.gesture);
      }}
      onPointerUp={() => {
        if (drag.current && !drag.current.moved) {
          opened.current = performance.now();
          setTyped(value.toFixed(p.decimals));
        }
        drag.current = null;
      }}
      onKeyDown={(e) => {
        const way = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 1 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -1 : 0;
        if (way) {
          e.preventDefault();
          e.stopPropagation();
          // presses that follow each other are one movement
          const follows = e.timeStamp - keys.current.at < 900 && keys.current.gesture !== '',
            step = p.step * (e.shiftKey ? 0.2 : e.altKey ? 10 : 1);
          keys.current = { gesture: follows ? keys.current.gesture : `cell-keys-${++gestures}`, at: e.timeStamp };
          onChange(tidy(value + way * step, Math.min(step, p.step)), keys.current.gesture);
        } else if (e.key === 'Home' || e.key === 'End') {
          e.preventDefault();
          onChange(e.key === 'Home' ? p.min : p.max, `cell-${++gestures}`);
        } else if (e.key === 'Enter') {
          e.preventDefault();
          setTyped(value.toFixed(p.decimals));
        } else if (e.key === 'Delete' || e.key === 'Backspace') {
          e.preventDefault();
          e.stopPropagation();
          onChange(p.default, `cell-${++gestures}`);
        }
      }}
    >
      <i style={{ left: `${Math.min(from, to)}%`, width: `${Math.abs(to - from)}%`, background: tint }} />
      <span>{worded ? formatNumber(p, value) : value.toFixed(p.decimals)}</span>
    </div>
  );
}

/** Numbers beside each other, each under its word. */
export function Fields({
  of,
  onSet,
}: {
  of: readonly { name: string; parameter: NumberParameter; value: number; label?: string; tint?: string }[];
  onSet: (name: string, value: number, gesture: string) => void;
}): React.JSX.Element {
  return (
    <Cells className="fields">
      {of.map(({ name, parameter, value, label, tint }) => (
        <div key={name}>
          <span>{label ?? parameter.label}</span>
          <Cell parameter={parameter} value={value} tint={tint} worded onChange={(v, g) => onSet(name, v, g)} />
        </div>
      ))}
    </Cells>
  );
}
