import { applyTable, inspectTable, type Rgb, type Table } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { line } from 'd3';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Sheet } from '../../kit/Sheet.tsx';

const side = 260,
  colours = ['#e0766b', '#7fb878', '#7b9fe0'] as const;
const css = (c: Rgb): string => `rgb(${c.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 255)).join(' ')})`;

/** The cube drawn as points where its colours come to lie, turned by dragging. */
function Cube({ table }: { table: Table }): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null),
    [turn, setTurn] = useState({ yaw: 0.7, pitch: 0.5 });
  const points = useMemo(() => {
    const n = 11,
      out: { at: Rgb; from: Rgb }[] = [];
    for (let b = 0; b < n; b++)
      for (let g = 0; g < n; g++)
        for (let r = 0; r < n; r++) {
          const from = [r, g, b].map(
            (v, c) => table.domainMin[c]! + ((table.domainMax[c]! - table.domainMin[c]!) * v) / (n - 1),
          ) as unknown as Rgb;
          out.push({ at: applyTable(table, from), from: [r, g, b].map((v) => v / (n - 1)) as unknown as Rgb });
        }
    return out;
  }, [table]);
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!,
      { yaw, pitch } = turn,
      c = Math.cos(yaw),
      s = Math.sin(yaw),
      u = Math.cos(pitch),
      v = Math.sin(pitch),
      k = 132;
    const place = ([r, g, b]: Rgb): [number, number, number] => {
      const x = r - 0.5,
        y = g - 0.5,
        z = b - 0.5,
        X = x * c + z * s,
        Z = -x * s + z * c;
      return [side + X * k * 2, side - (y * u - Z * v) * k * 2, y * v + Z * u];
    };
    context.clearRect(0, 0, side * 2, side * 2);
    context.strokeStyle = '#666';
    for (const [a, b] of [
      [
        [0, 0, 0],
        [1, 0, 0],
      ],
      [
        [0, 0, 0],
        [0, 1, 0],
      ],
      [
        [0, 0, 0],
        [0, 0, 1],
      ],
      [
        [1, 1, 1],
        [0, 1, 1],
      ],
      [
        [1, 1, 1],
        [1, 0, 1],
      ],
      [
        [1, 1, 1],
        [1, 1, 0],
      ],
      [
        [1, 0, 0],
        [1, 1, 0],
      ],
      [
        [1, 0, 0],
        [1, 0, 1],
      ],
      [
        [0, 1, 0],
        [1, 1, 0],
      ],
      [
        [0, 1, 0],
        [0, 1, 1],
      ],
      [
        [0, 0, 1],
        [1, 0, 1],
      ],
      [
        [0, 0, 1],
        [0, 1, 1],
      ],
    ] as [Rgb, Rgb][]) {
      const p = place(a),
        q = place(b);
      context.beginPath();
      context.moveTo(p[0], p[1]);
      context.lineTo(q[0], q[1]);
      context.stroke();
    }
    for (const p of points.map((o) => ({ ...o, p: place(o.at) })).sort((a, b) => a.p[2] - b.p[2])) {
      context.fillStyle = css(p.at);
      context.beginPath();
      context.arc(p.p[0], p.p[1], 5.5, 0, 7);
      context.fill();
    }
  }, [points, turn]);
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
/** One plane of the cube: red across, green up, at an amount of blue. */
function Slice({ table, blue }: { table: Table; blue: number }): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null),
    n = 96;
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!,
      image = context.createImageData(n, n);
    for (let y = 0; y < n; y++)
      for (let x = 0; x < n; x++) {
        const c = applyTable(
            table,
            [x / (n - 1), 1 - y / (n - 1), blue].map(
              (v, k) => table.domainMin[k]! + v * (table.domainMax[k]! - table.domainMin[k]!),
            ) as unknown as Rgb,
          ),
          o = (y * n + x) * 4;
        for (let k = 0; k < 3; k++) image.data[o + k] = c[k]! * 255;
        image.data[o + 3] = 255;
      }
    context.putImageData(image, 0, 0);
  }, [table, blue]);
  return <canvas ref={canvas} width={n} height={n} role="img" aria-label={`Slice at blue ${Math.round(blue * 100)} %`} />;
}

/** A table looked into: the cube, slices, the greys by channel, and what is wrong with it, in words. */
export function TableInspector({ table, onClose }: { table: Table; onClose: () => void }): React.JSX.Element {
  const report = useMemo(() => inspectTable(table), [table]),
    percent = (v: number): string => `${(v * 100).toFixed(1)} %`;
  return (
    <Sheet title={table.title || 'Table'} onClose={onClose}>
      <div className="inspector">
        <Cube table={table} />
        <div>
          <svg viewBox="0 0 200 130" role="img" aria-label="The greys through the table, by channel">
            <rect width="200" height="130" fill="#1f1f1f" rx="3" />
            <line x1="0" y1="130" x2="200" y2="0" stroke="#555" />
            {colours.map((colour, c) => (
              <path
                key={colour}
                d={
                  line<(typeof report.grey)[number]>()
                    .x((g) => g.at * 200)
                    .y((g) => 130 - Math.min(1.05, Math.max(-0.05, g.rgb[c]!)) * 130)(report.grey) ?? ''
                }
                stroke={colour}
                strokeWidth="1.6"
                fill="none"
                style={{ mixBlendMode: 'screen' }}
              />
            ))}
          </svg>
          <div className="slices">
            {[0, 0.33, 0.67, 1].map((b) => (
              <Slice key={b} table={table} blue={b} />
            ))}
          </div>
          <dl>
            <dt>size</dt>
            <dd>{table.kind === '3d' ? `${table.size}³` : table.size}</dd>
            <dt>clipped low</dt>
            <dd>{percent(report.clippedLow)}</dd>
            <dt>clipped high</dt>
            <dd>{percent(report.clippedHigh)}</dd>
            <dt>folded</dt>
            <dd>{percent(report.folded)}</dd>
          </dl>
        </div>
      </div>
      {report.warnings.length === 0 ? (
        <p className="purpose">Nothing speaks against it: the greys rise in every channel, nothing folds, nothing bands.</p>
      ) : (
        <ul className="warnings">
          {report.warnings.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      )}
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Close
        </Button>
      </div>
    </Sheet>
  );
}
