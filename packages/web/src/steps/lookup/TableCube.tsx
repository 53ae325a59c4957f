import { fateOf, throughDomain, type Rgb, type Table } from '@dyepot/core';
import { useEffect, useMemo, useRef, useState } from 'react';

const side = 300,
  n = 13,
  corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i): Rgb => [i & 1, (i >> 1) & 1, i >> 2]);
/** Edges of the cube: pairs of corners that differ in one channel. */
const edges = corners.flatMap((a, i) =>
  corners.slice(i + 1).flatMap((b) => (a.filter((v, c) => v !== b[c]).length === 1 ? [[a, b] as const] : [])),
);
const css = (c: Rgb): string => `rgb(${c.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 255)).join(' ')})`;

/** What is marked of a cube's colours. */
export type Marked = 'none' | 'clips' | 'folds';

/** The cube drawn as points where its colours come to lie, turned by dragging; those that clip or fold stand out when asked for. */
export function TableCube({ table, marked }: { table: Table; marked: Marked }): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null),
    [turn, setTurn] = useState({ yaw: 0.7, pitch: 0.5 });
  const points = useMemo(
    () =>
      Array.from({ length: n ** 3 }, (_, i) => {
        const from = [i % n, Math.floor(i / n) % n, Math.floor(i / n / n)].map((v) => v / (n - 1)) as unknown as Rgb;
        return { at: throughDomain(table, from), ...fateOf(table, from) };
      }),
    [table],
  );
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!,
      [c, s, u, v] = [Math.cos(turn.yaw), Math.sin(turn.yaw), Math.cos(turn.pitch), Math.sin(turn.pitch)],
      scale = side * 1.04;
    const place = ([r, g, b]: Rgb): [number, number, number] => {
      const [x, y, z] = [r - 0.5, g - 0.5, b - 0.5],
        [across, deep] = [x * c + z * s, -x * s + z * c];
      return [side + across * scale, side - (y * u - deep * v) * scale, y * v + deep * u];
    };
    context.clearRect(0, 0, side * 2, side * 2);
    context.strokeStyle = '#666';
    for (const [a, b] of edges) {
      const [p, q] = [place(a), place(b)];
      context.beginPath();
      context.moveTo(p[0], p[1]);
      context.lineTo(q[0], q[1]);
      context.stroke();
    }
    for (const { at, clips, folds, p } of points.map((o) => ({ ...o, p: place(o.at) })).sort((a, b) => a.p[2] - b.p[2])) {
      const chosen = marked === 'clips' ? clips : marked === 'folds' ? folds : true;
      context.globalAlpha = chosen ? 1 : 0.13;
      context.fillStyle = css(at);
      context.beginPath();
      context.arc(p[0], p[1], marked !== 'none' && chosen ? 7 : 5.5, 0, 7);
      context.fill();
      if (marked !== 'none' && chosen) {
        context.strokeStyle = '#fff';
        context.stroke();
      }
    }
    context.globalAlpha = 1;
  }, [points, turn, marked]);
  return (
    <canvas
      ref={canvas}
      width={side * 2}
      height={side * 2}
      className="table-cube"
      tabIndex={0}
      role="img"
      aria-label="The cube of the table; drag or use the arrows to turn it"
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (e.buttons === 1)
          setTurn({ yaw: turn.yaw + e.movementX * 0.01, pitch: Math.max(-1.5, Math.min(1.5, turn.pitch + e.movementY * 0.01)) });
      }}
      onKeyDown={(e) => {
        const way = { ArrowLeft: [-0.1, 0], ArrowRight: [0.1, 0], ArrowUp: [0, -0.1], ArrowDown: [0, 0.1] }[e.key];
        if (way) {
          e.preventDefault();
          setTurn({ yaw: turn.yaw + way[0]!, pitch: turn.pitch + way[1]! });
        }
      }}
    />
  );
}
