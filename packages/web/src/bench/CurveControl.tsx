import { histogramOf, number, type CurvePoints } from '@dyepot/core';
import { useState } from 'react';
import { complain } from '../kit/notices.tsx';
import { CurveEditor } from '../kit/CurveEditor.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import type { Incoming } from './incoming.ts';
import { useReadouts, type ReadoutSignal } from '../view/readoutSignal.ts';

const channels = [
  ['points', 'All'],
  ['red', 'Red'],
  ['green', 'Green'],
  ['blue', 'Blue'],
] as const;
const code = (label: string, value: number): ReturnType<typeof number> => number(label, '', 0, 255, value, 1, 0);
const levels = {
  blackIn: code('Black in', 0),
  mid: number('Mid', '', 0.2, 5, 1, 0.01, 2),
  whiteIn: code('White in', 255),
  blackOut: code('Black out', 0),
  whiteOut: code('White out', 255),
};

/** Black, mid and white of a curve: its ends, and the power that its middle point stands for. */
export function levelsOf(points: CurvePoints): { blackIn: number; whiteIn: number; blackOut: number; whiteOut: number; mid: number } {
  const first = points[0]!,
    last = points[points.length - 1]!,
    middle = points.length > 2 ? points[Math.floor(points.length / 2)]! : null,
    t = middle ? (middle[0] - first[0]) / (last[0] - first[0]) : 0.5,
    v = middle ? (middle[1] - first[1]) / (last[1] - first[1] || 1) : 0.5;
  return {
    blackIn: first[0] * 255,
    whiteIn: last[0] * 255,
    blackOut: first[1] * 255,
    whiteOut: last[1] * 255,
    mid: Math.min(5, Math.max(0.2, Math.log(Math.min(0.99, Math.max(0.01, t))) / Math.log(Math.min(0.99, Math.max(0.01, v))))),
  };
}
/** The curve of black, mid and white: three points, the middle one where a power of 1/mid goes through. */
export function curveOf({ blackIn, whiteIn, blackOut, whiteOut, mid }: ReturnType<typeof levelsOf>): CurvePoints {
  const low = Math.min(blackIn, whiteIn - 5) / 255,
    high = Math.max(whiteIn, blackIn + 5) / 255,
    a: readonly [number, number] = [low, blackOut / 255],
    b: readonly [number, number] = [high, whiteOut / 255],
    tidy = (v: number): number => Math.round(v * 10000) / 10000;
  const middle: readonly [number, number] = [tidy((low + high) / 2), tidy(a[1] + (b[1] - a[1]) * 0.5 ** (1 / mid))];
  return Math.abs(mid - 1) < 0.005
    ? [
        [tidy(a[0]), tidy(a[1])],
        [tidy(b[0]), tidy(b[1])],
      ]
    : [[tidy(a[0]), tidy(a[1])], middle, [tidy(b[0]), tidy(b[1])]];
}
/** Where 256 counts begin and end, leaving a thousandth at each side. */
function ends(counts: Uint32Array): [number, number] {
  const total = counts.reduce((a, b) => a + b, 0) / 1000,
    find = (from: number, way: 1 | -1): number => {
      let sum = 0,
        i = from;
      while (i >= 0 && i < 256 && (sum += counts[i]!) < total) i += way;
      return Math.min(255, Math.max(0, i));
    };
  return [find(0, 1), find(255, -1)];
}

/** Point curves for all channels and each, as curves or as levels; ends fitted; points set from the picture. */
export function CurveControl({
  params,
  signal,
  incoming,
  picking,
  onPicking,
  channel,
  onChannel,
  onSet,
}: {
  params: Record<string, unknown>;
  signal: ReadoutSignal;
  incoming: () => Promise<Incoming | null>;
  picking: boolean;
  onPicking: (on: boolean) => void;
  channel: string;
  onChannel: (c: string) => void;
  onSet: (name: string, value: CurvePoints | string, gesture: string) => void;
}): React.JSX.Element {
  const histogram = useReadouts(signal)?.histogram ?? null,
    [asLevels, setAsLevels] = useState(false),
    points = params[channel] as CurvePoints,
    own = levelsOf(points),
    level = (name: keyof typeof levels): React.JSX.Element => (
      <NumberControl
        key={name}
        parameter={levels[name]}
        value={name === 'mid' ? Math.round(own.mid * 100) / 100 : Math.round(own[name])}
        onChange={(v, g) => onSet(channel, curveOf({ ...own, [name]: v }), `level-${g}`)}
      />
    );
  /** Black and white where the picture that comes to the curve begins and ends, on the channel's own light. */
  const fit = (): void =>
    void incoming()
      .then((picture) => {
        if (!picture) return;
        const counted = histogramOf(picture.rgba),
          [low, high] = ends(channel === 'points' ? counted.luma : counted[channel as 'red']);
        onSet(channel, curveOf({ ...own, blackIn: low, whiteIn: Math.max(low + 10, high) }), '');
      })
      .catch((e: unknown) => complain(e instanceof Error ? e.message : String(e)));
  return (
    <div className="curve-control">
      <div className="row">
        <div className="segmented" role="tablist" aria-label="Channel">
          {channels.map(([c, name]) => (
            <button key={c} type="button" role="tab" aria-selected={c === channel} onClick={() => onChannel(c)}>
              {name}
            </button>
          ))}
        </div>
        <div className="segmented" role="tablist" aria-label="View">
          <button type="button" role="tab" aria-selected={!asLevels} onClick={() => setAsLevels(false)}>
            Curve
          </button>
          <button type="button" role="tab" aria-selected={asLevels} onClick={() => setAsLevels(true)}>
            Levels
          </button>
        </div>
      </div>
      {asLevels ? (
        <>{(['blackIn', 'mid', 'whiteIn', 'blackOut', 'whiteOut'] as const).map(level)}</>
      ) : (
        <CurveEditor points={points} histogram={histogram} onChange={(p, gesture) => onSet(channel, p, gesture)} />
      )}
      <div className="row">
        <button type="button" className={`tool ${picking ? 'on' : ''}`} aria-pressed={picking} onClick={() => onPicking(!picking)}>
          Point from the picture
        </button>
        <button type="button" className="tool" title="From where the picture that comes to the curve begins and ends" onClick={fit}>
          Fit ends
        </button>
      </div>
      {channel === 'points' && (
        <label className="inline curve-on">
          acts on{' '}
          <select aria-label="Acts on" value={params['on'] as string} onChange={(e) => onSet('on', e.target.value, '')}>
            <option value="channels">red, green and blue alike</option>
            <option value="luminance">luminance, colour kept</option>
            <option value="lightness">OKLab lightness</option>
          </select>
        </label>
      )}
    </div>
  );
}
