import { number, ratios, type Geometry } from '@dyepot/core';
import { FlipHorizontal2, FlipVertical2, RotateCcw, RotateCw, Ruler } from 'lucide-react';
import { NumberControl } from '../kit/NumberControl.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { cropTo, ratioOf } from './CropOverlay.tsx';
import { groundAct, type GroundState } from './groundSlice.ts';
import type { PartProps } from './partProps.ts';

const straighten = number('Straighten', '°', -45, 45, 0, 0.1, 1),
  vertical = number('Verticals', '', -100, 100, 0, 1, 0),
  horizontal = number('Horizontals', '', -100, 100, 0, 1, 0);
/** What is drawn over the picture to right it: a level line, or two lines that should be upright or level. */
export type Lining = 'off' | 'level' | 'verticals' | 'horizontals';
export const liningWords: Record<Exclude<Lining, 'off'>, string> = {
  level: 'Draw along something that should be level or upright',
  verticals: 'Draw two lines that should be upright',
  horizontals: 'Draw two lines that should be level',
};

/** Crop, turns and angle. */
export function GeometryPart({ frame, ground, lining, onLining, set }: PartProps): React.JSX.Element {
  const dispatch = useAppDispatch(),
    guides = useAppSelector((s) => s.ground.guides),
    { geometry } = ground,
    turned = geometry.quarterTurns % 2 === 1,
    aspect = turned ? frame.height / frame.width : frame.width / frame.height,
    upright = geometry.crop.width * aspect < geometry.crop.height;
  const to = (words: string, gesture: string, change: Partial<Geometry>): void =>
    set(words, gesture, { geometry: { ...geometry, ...change } });
  const turn = (by: 1 | 3): void => {
    const { x, y, width, height } = geometry.crop;
    to('Quarter turn', '', {
      quarterTurns: ((geometry.quarterTurns + by) % 4) as 0,
      crop: by === 1 ? { x: 1 - y - height, y: x, width: height, height: width } : { x: y, y: 1 - x - width, width: height, height: width },
    });
  };
  const own = !(ratios as readonly string[]).includes(geometry.ratio),
    setRatio = (ratio: string, share = ratioOf(ratio, upright)): void =>
      to(`Ratio ${ratio}`, '', { ratio, crop: cropTo(share, geometry.crop, aspect) });
  return (
    <>
      <div className="row">
        <label className="inline">
          ratio{' '}
          <select
            aria-label="Ratio"
            value={own ? 'own' : geometry.ratio}
            onChange={(e) => setRatio(e.target.value === 'own' ? '5:3' : e.target.value)}
          >
            {ratios.map((r) => (
              <option key={r}>{r}</option>
            ))}
            <option value="own">own…</option>
          </select>
        </label>
        {own && (
          <input
            className="own-ratio"
            aria-label="Own ratio, as width:height"
            key={geometry.ratio}
            defaultValue={geometry.ratio}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') e.currentTarget.blur();
            }}
            onBlur={(e) => {
              const m = /^\s*(\d+(?:\.\d+)?)\s*[:x×/]\s*(\d+(?:\.\d+)?)\s*$/.exec(e.target.value),
                share = m ? Number(m[1]) / Number(m[2]) : 0;
              if (m && share >= 0.1 && share <= 10) setRatio(`${Number(m[1])}:${Number(m[2])}`, share);
              else e.target.value = geometry.ratio;
            }}
          />
        )}
        <button
          type="button"
          className="tool"
          disabled={geometry.ratio === 'free'}
          onClick={() => to('Ratio the other way up', '', { crop: cropTo(ratioOf(geometry.ratio, !upright), geometry.crop, aspect) })}
        >
          other way up
        </button>
        <label className="inline">
          guides{' '}
          <select
            aria-label="Guides"
            value={guides}
            onChange={(e) => dispatch(groundAct.set({ guides: e.target.value as GroundState['guides'] }))}
          >
            {['none', 'thirds', 'diagonals', 'golden'].map((g) => (
              <option key={g}>{g}</option>
            ))}
          </select>
        </label>
      </div>
      <div className="row">
        <button type="button" className="tool" aria-label="Turn left" title="Turn left" onClick={() => turn(3)}>
          <RotateCcw size={14} />
        </button>
        <button type="button" className="tool" aria-label="Turn right" title="Turn right" onClick={() => turn(1)}>
          <RotateCw size={14} />
        </button>
        <button
          type="button"
          className="tool"
          aria-label="Flip left to right"
          title="Flip left to right"
          aria-pressed={geometry.flipX}
          onClick={() =>
            to('Flip', '', { flipX: !geometry.flipX, crop: { ...geometry.crop, x: 1 - geometry.crop.x - geometry.crop.width } })
          }
        >
          <FlipHorizontal2 size={14} />
        </button>
        <button
          type="button"
          className="tool"
          aria-label="Flip top to bottom"
          title="Flip top to bottom"
          aria-pressed={geometry.flipY}
          onClick={() =>
            to('Flip', '', { flipY: !geometry.flipY, crop: { ...geometry.crop, y: 1 - geometry.crop.y - geometry.crop.height } })
          }
        >
          <FlipVertical2 size={14} />
        </button>
      </div>
      <div className="row" role="group" aria-label="Right by drawing">
        {(
          [
            ['level', 'Draw a level line'],
            ['verticals', 'Two uprights'],
            ['horizontals', 'Two levels'],
          ] as const
        ).map(([way, words]) => (
          <button
            key={way}
            type="button"
            className={`tool ${lining === way ? 'on' : ''}`}
            aria-pressed={lining === way}
            title={liningWords[way]}
            onClick={() => onLining(lining === way ? 'off' : way)}
          >
            <Ruler
              size={14}
              style={
                way === 'verticals' ? { transform: 'rotate(45deg)' } : way === 'horizontals' ? { transform: 'rotate(-45deg)' } : undefined
              }
            />{' '}
            {words}
          </button>
        ))}
      </div>
      {lining !== 'off' && <p className="purpose">{liningWords[lining]}.</p>}
      <NumberControl
        parameter={straighten}
        value={geometry.straighten}
        onChange={(v, g) => to(`Straighten ${v.toFixed(1)}°`, `straighten-${g}`, { straighten: v })}
      />
      <NumberControl
        parameter={vertical}
        value={geometry.vertical}
        onChange={(v, g) => to(`Verticals ${Math.round(v)}`, `vertical-${g}`, { vertical: v })}
      />
      <NumberControl
        parameter={horizontal}
        value={geometry.horizontal}
        onChange={(v, g) => to(`Horizontals ${Math.round(v)}`, `horizontal-${g}`, { horizontal: v })}
      />
    </>
  );
}
