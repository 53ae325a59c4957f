import { histogramOf, stepKind, type ChoiceParameter, type CurvePoints } from '@dyepot/core';
import { useState } from 'react';
import { CurveEditor } from '../../kit/CurveEditor.tsx';
import { complain } from '../../kit/notices.tsx';
import { useCalmReadouts } from '../../view/readoutSignal.ts';
import type { FittingProps } from '../fitting.ts';
import { countedEnds, levelsOf, withLevels } from './levels.ts';
import { LevelsGraph } from './LevelsGraph.tsx';
import { Rove } from '../../kit/Rove.tsx';

const channels = [
    ['points', 'All', 'All'],
    ['red', 'Red', 'R'],
    ['green', 'Green', 'G'],
    ['blue', 'Blue', 'B'],
  ] as const,
  on = stepKind('curve')!.params['on'] as ChoiceParameter;

/** Point curves for all channels and each, as curves or as levels; ends fitted; points set from the picture. */
export function CurveControl({ params, signal, tools, onSet }: FittingProps): React.JSX.Element {
  const histogram = useCalmReadouts(signal)?.histogram ?? null,
    [asLevels, setAsLevels] = useState(false),
    { channel } = tools,
    counts = histogram && histogram[channel === 'points' ? 'luma' : (channel as 'red')],
    picking = tools.tool === 'point',
    points = params[channel] as CurvePoints;
  /** Black and white where the picture that comes to the curve begins and ends, on the channel's own light. */
  const fit = (): void =>
    void tools
      .incoming()
      .then((picture) => {
        if (!picture) return;
        const counted = histogramOf(picture.rgba),
          [low, high] = countedEnds(channel === 'points' ? counted.luma : counted[channel as 'red']);
        onSet(channel, withLevels(points, { blackIn: low, whiteIn: Math.max(low + 10, high) }), '');
      })
      .catch((e: unknown) => complain(e instanceof Error ? e.message : String(e)));
  const fitting = (
    <button type="button" className="tool" title="From where the picture that comes to the curve begins and ends" onClick={fit}>
      Fit ends
    </button>
  );
  return (
    <div className="curve-control">
      <div className="row">
        <Rove className="segmented" role="tablist" aria-label="Channel">
          {channels.map(([c, name, letter]) => (
            <button
              key={c}
              type="button"
              role="tab"
              aria-selected={c === channel}
              aria-label={name}
              title={name}
              onClick={() => tools.onChannel(c)}
            >
              {letter}
              {(params[c] as CurvePoints).length > 2 ? ' •' : ''}
            </button>
          ))}
        </Rove>
        <Rove className="segmented" role="tablist" aria-label="View">
          <button type="button" role="tab" aria-selected={!asLevels} onClick={() => setAsLevels(false)}>
            Curve
          </button>
          <button type="button" role="tab" aria-selected={asLevels} onClick={() => setAsLevels(true)}>
            Levels
          </button>
        </Rove>
      </div>
      {asLevels ? (
        <LevelsGraph
          levels={levelsOf(points)}
          counts={counts}
          onSet={(name, v, gesture) => onSet(channel, withLevels(points, { [name]: v }), `level-${gesture}`)}
        />
      ) : (
        <CurveEditor points={points} counts={counts} onChange={(p, gesture) => onSet(channel, p, gesture)} />
      )}
      {!asLevels && (
        <div className="row">
          <button
            type="button"
            className={`tool ${picking ? 'on' : ''}`}
            aria-pressed={picking}
            onClick={() => tools.onTool(picking ? 'off' : 'point')}
          >
            Point from the picture
          </button>
          {fitting}
        </div>
      )}
      {(asLevels || channel === 'points') && (
        <div className="row">
          {channel === 'points' && (
            <label className="inline">
              acts on{' '}
              <select aria-label="Acts on" value={params['on'] as string} onChange={(e) => onSet('on', e.target.value, '')}>
                {on.options.map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </select>
            </label>
          )}
          {asLevels && fitting}
        </div>
      )}
    </div>
  );
}
