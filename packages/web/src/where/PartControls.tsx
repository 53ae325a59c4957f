import { number, type MaskPart, type ToneRange } from '@dyepot/core';
import { lazy, Suspense } from 'react';
import { Fields } from '../kit/Cell.tsx';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { act } from '../bench/benchSlice.ts';

const ToneGraph = lazy(() => import('./ToneGraph.tsx').then((m) => ({ default: m.ToneGraph })));
const percent = (label: string, min: number, max: number, value: number, step = 1): ReturnType<typeof number> =>
  number(label, '%', min, max, value, step, step < 1 ? 1 : 0);
const numbers = {
  middle: percent('Middle', 5, 95, 50),
  feather: percent('Feather', 0, 100, 60),
  turn: number('Turn', '°', -180, 180, 0, 1, 0),
  reach: number('Reach', '', 0.005, 0.5, 0.08, 0.005, 3),
  softness: percent('Softness', 0, 100, 50),
  from: percent('Begins', 0, 100, 30),
  to: percent('Whole at', 0, 100, 70),
  size: percent('Size', 0.1, 30, 4, 0.1),
  brushFeather: percent('Feather', 0, 100, 60),
  flow: percent('Flow', 1, 100, 80),
  edge: percent('Feather of all', 0, 20, 1, 0.1),
};
type Set = (change: Partial<MaskPart>, words: string, gesture: string) => void;

/** What a part of a place is made of. Its shape itself is pulled on the picture. */
export function PartControls({ part, signal, onSet }: { part: MaskPart; signal: ReadoutSignal; onSet: Set }): React.JSX.Element | null {
  const dispatch = useAppDispatch(),
    brush = useAppSelector((s) => s.bench.brush);
  const cell = (
    name: string,
    parameter: ReturnType<typeof number>,
    value: number,
  ): { name: string; parameter: typeof parameter; value: number } => ({ name, parameter, value });
  switch (part.kind) {
    case 'tone':
      return (
        <Suspense fallback={<div className="fitting-waiting" />}>
          <ToneGraph
            mask={part}
            signal={signal}
            onSet={({ kind: _, ...range }: ToneRange, words, gesture) => onSet(range, words, gesture)}
          />
        </Suspense>
      );
    case 'gradient':
      return (
        <Fields
          of={[cell('middle', numbers.middle, 100 * part.middle)]}
          onSet={(_, v, g) => onSet({ middle: v / 100 }, 'Gradient: middle', g)}
        />
      );
    case 'radial':
      return (
        <Fields
          of={[cell('feather', numbers.feather, 100 * part.feather), cell('turn', numbers.turn, part.turn)]}
          onSet={(name, v, g) => onSet(name === 'turn' ? { turn: v } : { feather: v / 100 }, `Pool: ${name}`, `${name}-${g}`)}
        />
      );
    case 'colour':
      return (
        <>
          <p className="hint">
            {part.picks.length === 0
              ? 'Click colours on the picture.'
              : `${part.picks.length} picked. Click more on the picture; Alt takes the nearest away.`}
          </p>
          <Fields
            of={[cell('reach', numbers.reach, part.reach), cell('softness', numbers.softness, 100 * part.softness)]}
            onSet={(name, v, g) => onSet(name === 'reach' ? { reach: v } : { softness: v / 100 }, `Colours: ${name}`, `${name}-${g}`)}
          />
        </>
      );
    case 'haze':
      return (
        <Fields
          of={[cell('from', numbers.from, 100 * part.from), cell('to', numbers.to, 100 * part.to)]}
          onSet={(name, v, g) =>
            onSet(
              name === 'from' ? { from: v / 100, to: Math.max(part.to, v / 100) } : { to: v / 100, from: Math.min(part.from, v / 100) },
              `Distance: ${name === 'from' ? 'begins' : 'whole at'}`,
              `${name}-${g}`,
            )
          }
        />
      );
    case 'brush':
      return (
        <>
          <Fields
            of={[
              cell('size', numbers.size, 100 * brush.size),
              cell('feather', numbers.brushFeather, 100 * brush.feather),
              cell('flow', numbers.flow, 100 * brush.flow),
            ]}
            onSet={(name, v) => dispatch(act.brushSet({ [name]: v / 100 }))}
          />
          <label className="inline">
            <input type="checkbox" checked={brush.erase} onChange={(e) => dispatch(act.brushSet({ erase: e.target.checked }))} /> erase (E;
            Alt while painting)
          </label>
          <p className="hint">
            Paint on the picture. , and . change the size, Shift with them the feather; Shift-click paints a straight line; Escape gives a
            stroke up.
          </p>
        </>
      );
    case 'outline':
      return (
        <>
          <p className="hint">Click points round it. Drag a point; Alt-drag changes its feather; Delete takes the one in hand away.</p>
          {part.points.length > 0 && (
            <Fields
              of={[cell('edge', numbers.edge, 100 * (part.points[0]?.[2] ?? 0.01))]}
              onSet={(_, v, g) => onSet({ points: part.points.map(([x, y]) => [x, y, v / 100] as const) }, 'Outline: feather', g)}
            />
          )}
        </>
      );
    case 'figure':
      return (
        <p className="hint">
          {part.width === 1
            ? 'Drag a box round the thing, close about it.'
            : 'Drag a box again for another. What is wrong of it, a brush takes away or adds.'}
        </p>
      );
    default:
      return null;
  }
}
