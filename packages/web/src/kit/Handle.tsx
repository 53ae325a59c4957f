import type { NumberParameter } from '@dyepot/core';
import { useRef } from 'react';
import { formatNumber } from './NumberControl.tsx';

/** A number that a handle stands for along one way of its drawing; `at` reads it off a place in the drawing's own units. */
export interface Axis {
  name: string;
  parameter: NumberParameter;
  value: number;
  at: (place: number) => number;
}
type Set = (values: Record<string, number>, gesture: string) => void;
let gestures = 0;

const limited = ({ min, max }: NumberParameter, v: number): number => Math.min(max, Math.max(min, v));
const rounded = (p: NumberParameter, v: number, fine: boolean): number => {
  const step = fine ? p.step / 5 : p.step;
  return Number(limited(p, Math.round(v / step) * step).toFixed(6));
};
/** A pointer's place in a drawing's own units. */
export function placeIn(svg: SVGSVGElement, e: { clientX: number; clientY: number }): { x: number; y: number } {
  const at = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
  return { x: at.x, y: at.y };
}

/** What the pointer and the keys do with one or two numbers of a drawing: spread on the element that is held. */
export function useHold(
  label: string,
  { along, up, onSet }: { along?: Axis | undefined; up?: Axis | undefined; onSet: Set },
): React.SVGProps<SVGGElement> {
  const held = useRef<{ x: number; y: number; along: number; up: number; gesture: string } | null>(null),
    keys = useRef({ gesture: '', at: 0 }),
    axes = [along, up].filter((a) => a !== undefined),
    reset = (): void => onSet(Object.fromEntries(axes.map((a) => [a.name, a.parameter.default])), `hold-${++gestures}`);
  return {
    role: 'slider',
    tabIndex: 0,
    'aria-label': label,
    'aria-valuenow': axes[0]?.value,
    'aria-valuetext': axes.map((a) => formatNumber(a.parameter, a.value)).join(', '),
    onPointerDown: (e) => {
      if (e.button !== 0) return;
      e.stopPropagation();
      e.currentTarget.setPointerCapture(e.pointerId);
      const at = placeIn(e.currentTarget.ownerSVGElement!, e);
      held.current = { ...at, along: along?.value ?? 0, up: up?.value ?? 0, gesture: `hold-${++gestures}` };
    },
    onPointerMove: (e) => {
      const h = held.current;
      if (!h) return;
      const at = placeIn(e.currentTarget.ownerSVGElement!, e),
        values: Record<string, number> = {},
        fine = e.shiftKey;
      const move = (axis: Axis, way: 'x' | 'y', from: 'along' | 'up'): void => {
        h[from] = limited(axis.parameter, h[from] + (axis.at(at[way]) - axis.at(h[way])) * (fine ? 0.2 : 1));
        values[axis.name] = rounded(axis.parameter, h[from], fine);
      };
      if (along) move(along, 'x', 'along');
      if (up) move(up, 'y', 'up');
      Object.assign(h, at);
      if (axes.some((a) => values[a.name] !== a.value)) onSet(values, h.gesture);
    },
    onPointerUp: () => {
      held.current = null;
    },
    onDoubleClick: (e) => {
      e.stopPropagation();
      reset();
    },
    onKeyDown: (e) => {
      const sideways = { ArrowLeft: -1, ArrowRight: 1 }[e.key],
        upward = { ArrowDown: -1, ArrowUp: 1 }[e.key],
        axis = sideways ? (along ?? up) : upward ? (up ?? along) : undefined;
      if (axis) {
        e.preventDefault();
        e.stopPropagation();
        const follows = e.timeStamp - keys.current.at < 900 && keys.current.gesture !== '',
          step = axis.parameter.step * (e.altKey ? 10 : e.shiftKey ? 0.2 : 1);
        keys.current = { gesture: follows ? keys.current.gesture : `hold-keys-${++gestures}`, at: e.timeStamp };
        onSet({ [axis.name]: rounded(axis.parameter, axis.value + (sideways ?? upward)! * step, e.shiftKey) }, keys.current.gesture);
      } else if (e.key === 'Delete' || e.key === 'Backspace') {
        e.preventDefault();
        e.stopPropagation();
        reset();
      }
    },
  };
}

/** A round handle on a drawing. */
export function Handle({
  x,
  y,
  label,
  fill = '#2b2b2b',
  ...hold
}: {
  x: number;
  y: number;
  label: string;
  fill?: string;
  along?: Axis;
  up?: Axis;
  onSet: Set;
}): React.JSX.Element {
  const on = useHold(label, hold);
  return (
    <g {...on} className={`handle ${hold.along ? (hold.up ? 'both' : 'along') : 'up'}`} transform={`translate(${x} ${y})`}>
      <circle r="12" fill="transparent" />
      <circle r="6" fill={fill} stroke="#f1f0ef" strokeWidth="1.6" />
    </g>
  );
}
