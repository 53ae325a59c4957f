import { Columns2, RotateCw, SquareSplitHorizontal, SquareStack } from 'lucide-react';
import { useState } from 'react';
import { Rove } from '../kit/Rove.tsx';
import { useShortcut } from '../kit/useShortcut.ts';
import { zoomSteps, type ViewState } from './layout.ts';

const surrounds: ViewState['surround'][] = ['dark', 'mid', 'light'];

/** Zoom, comparison and surround, under the picture; with their keys. `befores` are what "before" can be. */
export function ViewTools({
  view,
  onView,
  befores,
  before,
  onBefore,
}: {
  view: ViewState;
  onView: (change: Partial<ViewState>) => void;
  befores: { value: string; words: string }[];
  before: string;
  onBefore: (value: string) => void;
}): React.JSX.Element {
  const [held, setHeld] = useState(false),
    { zoom, compare, across, surround, zones } = view,
    toggle = (way: 'wipe' | 'beside'): void => onView({ compare: compare === way ? 'off' : way });
  useShortcut(
    'o',
    (e) => {
      if (e.repeat) return;
      setHeld(true);
      onView({ compare: 'before' });
    },
    { keydown: true },
  );
  useShortcut(
    'o',
    () => {
      setHeld(false);
      onView({ compare: 'off' });
    },
    { keyup: true, keydown: false },
  );
  useShortcut('w', () => toggle('wipe'));
  useShortcut('shift+w', () => onView({ compare: 'wipe', across: !across }));
  useShortcut('b', () => toggle('beside'));
  useShortcut('z', () => onView({ zones: !zones }));
  useShortcut('1', () => onView({ zoom: 'fit' }));
  useShortcut('2', () => onView({ zoom: 1 }));
  useShortcut('3', () => onView({ zoom: 2 }));
  useShortcut('4', () => onView({ zoom: 'fill' }));
  return (
    <Rove className="table-tools" role="toolbar" aria-label="How the picture is shown">
      <div className="segmented" role="group" aria-label="Zoom">
        {(
          [
            ['fit', 'Fit', 1],
            ['fill', 'Fill', 4],
            [1, '100 %', 2],
            [2, '200 %', 3],
          ] as const
        ).map(([z, words, key]) => (
          <button key={words} type="button" title={`${words} (${key})`} aria-pressed={zoom === z} onClick={() => onView({ zoom: z })}>
            {words}
          </button>
        ))}
        <select
          aria-label="Other zooms"
          className={typeof zoom === 'number' && zoom !== 1 && zoom !== 2 ? 'worded' : ''}
          value={typeof zoom === 'number' && zoom !== 1 && zoom !== 2 ? 'other' : ''}
          onChange={(e) => onView({ zoom: Number(e.target.value) })}
        >
          <option value="" disabled hidden></option>
          <option value="other" disabled hidden>
            {typeof zoom === 'number' ? `${Math.round(zoom * 100)} %` : '…'}
          </option>
          {zoomSteps.map((z) => (
            <option key={z} value={z}>
              {z * 100} %
            </option>
          ))}
        </select>
      </div>
      <button
        type="button"
        className={`tool ${compare === 'wipe' ? 'on' : ''}`}
        aria-pressed={compare === 'wipe'}
        title="Wipe between before and after (W)"
        onClick={() => toggle('wipe')}
      >
        <SquareSplitHorizontal size={14} style={across ? { transform: 'rotate(90deg)' } : undefined} /> Wipe
      </button>
      {compare === 'wipe' && (
        <button
          type="button"
          className="tool"
          aria-label="Turn the wipe"
          title="Turn the wipe (Shift W)"
          onClick={() => onView({ across: !across })}
        >
          <RotateCw size={14} />
        </button>
      )}
      <button
        type="button"
        className={`tool ${compare === 'beside' ? 'on' : ''}`}
        aria-pressed={compare === 'beside'}
        title="Before and after beside each other (B)"
        onClick={() => toggle('beside')}
      >
        <Columns2 size={14} /> Beside
      </button>
      <div className="before-pair">
        <button
          type="button"
          className={`tool ${compare === 'before' || held ? 'on' : ''}`}
          title="Hold for before (O)"
          onPointerDown={() => onView({ compare: 'before' })}
          onPointerUp={() => onView({ compare: 'off' })}
          onPointerLeave={() => {
            if (compare === 'before' && !held) onView({ compare: 'off' });
          }}
          onKeyDown={(e) => {
            if (e.key === ' ') onView({ compare: 'before' });
          }}
          onKeyUp={() => onView({ compare: 'off' })}
        >
          Hold for before
        </button>
        <select
          className="before-what"
          aria-label="What before is"
          title="What before is"
          value={before}
          onChange={(e) => onBefore(e.target.value)}
        >
          {befores.map((b) => (
            <option key={b.value} value={b.value}>
              {b.words}
            </option>
          ))}
        </select>
      </div>
      <button
        type="button"
        className={`tool ${zones ? 'on' : ''}`}
        aria-pressed={zones}
        aria-label="Zones 0 to X over the picture"
        title="Zones 0 to X over the picture (Z)"
        onClick={() => onView({ zones: !zones })}
      >
        <SquareStack size={14} />
      </button>
      <div className="surrounds" role="group" aria-label="Surround">
        {surrounds.map((s) => (
          <button
            key={s}
            type="button"
            aria-label={`${s} surround`}
            title={`${s} surround`}
            aria-pressed={surround === s}
            className={`dot-${s}`}
            onClick={() => onView({ surround: s })}
          />
        ))}
      </div>
    </Rove>
  );
}
