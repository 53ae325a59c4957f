import { useEffect, useRef, useState } from 'react';
import type { NumberParameter } from '@dyepot/core';
import { tell } from './notices.tsx';
import { readNumber } from './readNumber.ts';

export function formatNumber(p: Pick<NumberParameter, 'decimals' | 'unit' | 'min'>, value: number): string {
  const text = Math.abs(value).toFixed(p.decimals),
    zero = Number(text) === 0;
  const sign = zero ? '' : value < 0 ? '−' : p.min < 0 ? '+' : '';
  return `${sign}${text}${p.unit ? `${p.unit === '°' ? '' : ' '}${p.unit}` : ''}`;
}

interface Props {
  parameter: NumberParameter;
  value: number;
  /** `gesture` names one uninterrupted movement, so that it becomes one step of undo */
  onChange: (value: number, gesture: string) => void;
  onEnd?: () => void;
  /** while the control is held by pointer or key */
  onHold?: (held: boolean) => void;
  label?: string;
  /** shown and typed as another number (kelvin for mired, say) */
  as?: { unit: string; from: (value: number) => number; to: (shown: number) => number };
}
let gestures = 0;

/**
 * A number with a track. Drag (finer the further the pointer is from the track), arrows (Shift finer, Alt coarser),
 * type into the value, double click to reset.
 */
export function NumberControl({ parameter: p, value, onChange, onEnd, onHold, label, as }: Props): React.JSX.Element {
  const [typed, setTyped] = useState<string | null>(null);
  const drag = useRef<{ x: number; exact: number; gesture: string; moved: boolean } | null>(null);
  const track = useRef<HTMLDivElement>(null);
  const keys = useRef({ gesture: '', at: 0 });
  const clamp = (v: number): number => Math.min(p.max, Math.max(p.min, v));
  const tidy = (v: number, step: number): number => Number((Math.round(v / step) * step).toFixed(6));
  const share = (v: number): number => (v - p.min) / (p.max - p.min);
  const origin = share(clamp(p.default)),
    at = share(clamp(value)),
    name = label ?? p.label;

  const own = (v: number): string => (as ? String(Math.round(as.from(v))) : v.toFixed(p.decimals)),
    words = as ? `${Math.round(as.from(value))} ${as.unit}` : formatNumber(p, value);

  const commitTyped = (): void => {
    if (typed !== null && typed.trim() !== '' && typed !== own(value)) {
      const v = readNumber(typed, as?.unit ?? p.unit);
      if (v === null) tell(`${name}: “${typed.trim().slice(0, 40)}” is no number; it stays at ${words}`);
      else onChange(clamp(as ? as.to(v) : v), `typed-${++gestures}`);
    }
    setTyped(null);
    backTo.current = true;
    onEnd?.();
  };
  // after typing, the focus is where it was
  const backTo = useRef(false);
  useEffect(() => {
    if (typed !== null || !backTo.current) return;
    backTo.current = false;
    if (document.activeElement === document.body || document.activeElement === null) track.current?.focus();
  }, [typed]);
  return (
    <div className="number-control">
      <div className="number-line">
        <span>{name}</span>
        {typed === null ? (
          <button
            type="button"
            className="number-value"
            tabIndex={-1}
            title="Type a value (Enter)"
            aria-label={`${words}, type ${name}`}
            onClick={() => setTyped(own(value))}
          >
            {words}
          </button>
        ) : (
          <input
            className="number-typing"
            aria-label={`${name}, typed`}
            autoFocus
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            onFocus={(e) => e.target.select()}
            onBlur={commitTyped}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') commitTyped();
              if (e.key === 'Escape') {
                setTyped(null);
                backTo.current = true;
              }
            }}
          />
        )}
      </div>
      <div
        ref={track}
        className="number-track"
        role="slider"
        tabIndex={0}
        aria-label={name}
        aria-valuemin={p.min}
        aria-valuemax={p.max}
        aria-valuenow={value}
        aria-valuetext={words}
        onDoubleClick={() => {
          onChange(p.default, `reset-${++gestures}`);
          onEnd?.();
        }}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, exact: value, gesture: `drag-${++gestures}`, moved: false };
          onHold?.(true);
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d || !track.current) return;
          const box = track.current.getBoundingClientRect(),
            away = Math.max(0, Math.abs(e.clientY - (box.top + box.height / 2)) - 14);
          const moved = (((e.clientX - d.x) / box.width) * (p.max - p.min)) / (1 + away / 24);
          d.x = e.clientX;
          if (moved === 0) return;
          d.exact = clamp(d.exact + moved);
          d.moved = true;
          const next = tidy(d.exact, away > 0 ? p.step / 5 : p.step);
          if (next !== value) onChange(clamp(next), d.gesture);
        }}
        onPointerUp={() => {
          if (drag.current?.moved) onEnd?.();
          drag.current = null;
          onHold?.(false);
        }}
        onLostPointerCapture={() => onHold?.(false)}
        onBlur={() => onHold?.(false)}
        onKeyDown={(e) => {
          const way = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 1 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -1 : 0;
          if (way !== 0) {
            e.preventDefault();
            e.stopPropagation();
            onHold?.(true);
            // presses that follow each other are one movement
            keys.current = {
              gesture: e.timeStamp - keys.current.at < 900 && keys.current.gesture ? keys.current.gesture : `keys-${++gestures}`,
              at: e.timeStamp,
            };
            const step = p.step * (e.shiftKey ? 0.2 : e.altKey ? 10 : 1);
            onChange(clamp(tidy(value + way * step, Math.min(step, p.step))), keys.current.gesture);
          } else if (e.key === 'Home' || e.key === 'End') {
            e.preventDefault();
            onChange(e.key === 'Home' ? p.min : p.max, `key-${++gestures}`);
            onEnd?.();
          } else if (e.key === 'Enter') {
            e.preventDefault();
            setTyped(own(value));
          } else if (e.key === 'Delete' || e.key === 'Backspace') {
            e.preventDefault();
            e.stopPropagation();
            onChange(p.default, `reset-${++gestures}`);
            onEnd?.();
          }
        }}
        onKeyUp={() => {
          onEnd?.();
          onHold?.(false);
        }}
      >
        <i className="number-fill" style={{ left: `${Math.min(origin, at) * 100}%`, width: `${Math.abs(at - origin) * 100}%` }} />
        <i className="number-origin" style={{ left: `${origin * 100}%` }} />
        <i className="number-thumb" style={{ left: `${at * 100}%` }} />
      </div>
    </div>
  );
}
