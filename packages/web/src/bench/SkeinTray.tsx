import { number, type Skein } from '@dyepot/core';
import { lazy, Suspense } from 'react';
import { NumberControl } from '../kit/NumberControl.tsx';
import { useAppDispatch } from '../store.ts';
import type { Frame } from '../types.ts';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import { portableStarts, startWords, boundStarts, type Start } from '../where/parts.ts';
import { useAppSelector } from '../store.ts';
import { act } from './benchSlice.ts';

const loadWhere = (): Promise<typeof import('../where/Where.tsx')> => import('../where/Where.tsx'),
  Where = lazy(() => loadWhere().then((m) => ({ default: m.Where }))),
  strength = number('Strength', '%', 0, 200, 100, 1, 0);

/** A skein's own controls: its name, switch, strength, and where its steps act together. */
function Controls({ skein, frame, signal }: { skein: Skein; frame: Frame; signal: ReadoutSignal }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    side = useAppSelector((s) => s.bench.side),
    set = (change: Partial<Omit<Skein, 'id'>>, words: string, gesture = ''): void => {
      dispatch(act.skeinSet({ id: skein.id, change, words, gesture: gesture && `${skein.id}-${gesture}` }));
    };
  return (
    <div className="tray-step">
      <header>
        <h2>{skein.name || 'Together'}</h2>
        <small>skein</small>
        <button type="button" className="text-button" onClick={() => dispatch(act.skeinUndone(skein.id))}>
          Let go
        </button>
      </header>
      <p className="purpose">Its steps act together: under one place, at one strength, with one switch.</p>
      <label className="inline choice">
        name{' '}
        <input
          aria-label="Name of the skein"
          maxLength={80}
          defaultValue={skein.name}
          onBlur={(e) => e.target.value.trim() !== skein.name && set({ name: e.target.value.trim() }, 'Rename')}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </label>
      <label className="inline">
        <input type="checkbox" checked={skein.on} onChange={() => set({ on: !skein.on }, 'Skein on or off')} /> on
      </label>
      <label className="inline choice">
        where{' '}
        <select
          aria-label="Where the skein acts"
          value={skein.mask ? 'own' : 'all'}
          onChange={(e) => {
            const { value } = e.target;
            if (value === 'all') set({ mask: null }, 'Everywhere');
            else if (value !== 'own')
              void import('../where/begin.ts').then(({ beginPlace }) =>
                set({ mask: beginPlace(value as Start) }, startWords[value as Start]),
              );
          }}
        >
          <option value="all">everywhere</option>
          {skein.mask && <option value="own">in a place of its own</option>}
          {!skein.mask &&
            (side === 'frame' ? [...portableStarts, ...boundStarts] : portableStarts).map((s) => (
              <option key={s} value={s}>
                {startWords[s]}
              </option>
            ))}
        </select>
      </label>
      {skein.mask && (
        <Suspense fallback={<div className="fitting-waiting" />}>
          <Where
            frame={frame}
            id={skein.id}
            mask={skein.mask}
            signal={signal}
            onSet={(mask, words, gesture) => set({ mask }, words, gesture)}
          />
        </Suspense>
      )}
      <div className="tray-strength">
        <NumberControl
          parameter={strength}
          value={Math.round(skein.strength * 1000) / 10}
          onChange={(v, g) => set({ strength: v / 100 }, 'Skein: strength', `strength-${g}`)}
        />
      </div>
    </div>
  );
}

/** A skein's own controls; without one, what a frame's own steps are. */
export function SkeinTray({ skein, ...rest }: { skein: Skein | undefined; frame: Frame; signal: ReadoutSignal }): React.JSX.Element {
  return skein ? <Controls skein={skein} {...rest} /> : <FrameHint />;
}
/** What a frame's own steps are, while there is none in hand. */
const FrameHint = (): React.JSX.Element => (
  <div className="tray-step">
    <h2>This frame</h2>
    <p className="purpose">
      Steps put here act on this frame alone, on top of whatever look it wears: a gradient over this sky, a brush over this face. They stay
      when the look changes.
    </p>
  </div>
);
