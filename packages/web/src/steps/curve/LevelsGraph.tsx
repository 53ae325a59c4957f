import { number } from '@dyepot/core';
import { area, max, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { useHold } from '../../kit/Handle.tsx';
import { greyOf } from '../greys.ts';
import { decodeSrgb } from '@dyepot/core';
import { trayWidth as W } from '../fitting.ts';
import type { Levels } from './levels.ts';

const top = 72,
  H = 114,
  code = (label: string, value: number): ReturnType<typeof number> => number(label, '', 0, 255, value, 1, 0),
  parameters = {
    blackIn: code('Black in', 0),
    mid: number('Mid', '', 0.2, 5, 1, 0.01, 2),
    whiteIn: code('White in', 255),
    blackOut: code('Black out', 0),
    whiteOut: code('White out', 255),
  },
  x = scaleLinear([0, 255], [8, W - 8]);

function Mark({
  name,
  at,
  y,
  fill,
  value,
  read,
  onSet,
}: {
  name: keyof Levels;
  at: number;
  y: number;
  fill: string;
  value: number;
  read: (place: number) => number;
  onSet: (name: keyof Levels, value: number, gesture: string) => void;
}): React.JSX.Element {
  const hold = useHold(`${parameters[name].label}, on the drawing`, {
    along: { name, parameter: parameters[name], value, at: read },
    onSet: (values, gesture) => onSet(name, values[name]!, gesture),
  });
  return (
    <g {...hold} className="handle along" transform={`translate(${at} ${y})`}>
      <rect x="-10" y="-2" width="20" height="18" fill="transparent" />
      <path d="M0 0 l6 9 h-12 z" fill={fill} stroke="#f1f0ef" />
    </g>
  );
}

/** Levels of a curve: black, mid and white under the picture's tones, and where black and white come out. */
export function LevelsGraph({
  levels,
  counts,
  onSet,
}: {
  levels: Levels;
  /** 256 counts of the channel's own codes */
  counts: Uint32Array | null;
  onSet: (name: keyof Levels, value: number, gesture: string) => void;
}): React.JSX.Element {
  const bars = counts ? Array.from(counts) : [],
    most = max(bars.slice(2, 254)) || 1,
    span = levels.whiteIn - levels.blackIn,
    /** the tone in that comes out halfway */
    half = levels.blackIn + span * 0.5 ** levels.mid,
    shown = (name: keyof Levels): number => (name === 'mid' ? Math.round(levels.mid * 100) / 100 : Math.round(levels[name]));
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Levels">
        <rect width={W} height={top} fill="#1f1f1f" />
        <path
          d={
            area<number>()
              .x((_, i) => x(i))
              .y0(top)
              .y1((v) => top - Math.min(1, v / most) * (top - 8))(bars) ?? ''
          }
          fill="#565452"
        />
        <path d={`M${x(levels.blackIn)},0V${top}M${x(levels.whiteIn)},0V${top}`} stroke="#a3a19e" strokeDasharray="2 3" />
        <Mark name="blackIn" at={x(levels.blackIn)} y={top} fill="#111" value={shown('blackIn')} read={x.invert} onSet={onSet} />
        <Mark
          name="mid"
          at={x(half)}
          y={top}
          fill="#8a8886"
          value={shown('mid')}
          read={(place) => Math.log(Math.min(0.97, Math.max(0.03, (x.invert(place) - levels.blackIn) / span))) / Math.log(0.5)}
          onSet={onSet}
        />
        <Mark name="whiteIn" at={x(levels.whiteIn)} y={top} fill="#f1f0ef" value={shown('whiteIn')} read={x.invert} onSet={onSet} />
        {Array.from({ length: 52 }, (_, i) => (
          <rect
            key={i}
            x={8 + (i * (W - 16)) / 52}
            y={top + 18}
            width={(W - 16) / 52 + 0.5}
            height="9"
            fill={greyOf(decodeSrgb((i + 0.5) / 52))}
          />
        ))}
        <Mark name="blackOut" at={x(levels.blackOut)} y={top + 28} fill="#111" value={shown('blackOut')} read={x.invert} onSet={onSet} />
        <Mark name="whiteOut" at={x(levels.whiteOut)} y={top + 28} fill="#f1f0ef" value={shown('whiteOut')} read={x.invert} onSet={onSet} />
      </svg>
      {(
        [
          ['blackIn', 'mid', 'whiteIn'],
          ['blackOut', 'whiteOut'],
        ] as const
      ).map((row) => (
        <Fields
          key={row[0]}
          of={row.map((name) => ({ name, parameter: parameters[name], value: shown(name) }))}
          onSet={(name, v, g) => onSet(name as keyof Levels, v, g)}
        />
      ))}
    </>
  );
}
