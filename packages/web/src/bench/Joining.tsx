import { blendNames, blends, wholeRange, type Blend, type LookStep, type ToneRange } from '@dyepot/core';
import { lazy, Suspense } from 'react';
import { useAppDispatch } from '../store.ts';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import { act } from './benchSlice.ts';

const ToneGraph = lazy(() => import('./ToneGraph.tsx').then((m) => ({ default: m.ToneGraph })));
/** A range to begin with: the darker half. */
const darks: ToneRange = { ...wholeRange, toEv: -1 };

/** Where a step acts and how it is joined with what came to it. */
export function Joining({ step, signal }: { step: LookStep; signal: ReadoutSignal }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    set = (change: Partial<Pick<LookStep, 'mask' | 'blend'>>, words: string, gesture: string): void => {
      dispatch(act.joiningSet({ id: step.id, change, words, gesture: gesture && `${step.id}-${gesture}` }));
    };
  // one stop for Tab: the choices hold up and down, so left and right go from one to the other
  const walk = (e: React.KeyboardEvent<HTMLSelectElement>): void => {
    if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
    e.preventDefault();
    const all = [...e.currentTarget.closest('.joining')!.querySelectorAll('select')];
    all[e.key === 'ArrowRight' ? all.length - 1 : 0]!.focus();
  };
  return (
    <div className="joining">
      <label className="inline choice">
        where{' '}
        <select
          aria-label="Where it acts"
          onKeyDown={walk}
          value={step.mask ? 'tone' : 'all'}
          onChange={(e) =>
            set({ mask: e.target.value === 'tone' ? darks : null }, e.target.value === 'tone' ? 'In some tones' : 'Everywhere', '')
          }
        >
          <option value="all">everywhere</option>
          <option value="tone">in some tones</option>
        </select>
      </label>
      <label className="inline choice">
        as{' '}
        <select
          aria-label="How it is joined"
          tabIndex={-1}
          onKeyDown={walk}
          value={step.blend ?? 'normal'}
          onChange={(e) => set({ blend: e.target.value as Blend }, `Joined: ${blendNames[e.target.value as Blend]}`, '')}
        >
          {blends.map((b) => (
            <option key={b} value={b}>
              {blendNames[b]}
            </option>
          ))}
        </select>
      </label>
      {step.mask && (
        <Suspense fallback={<div className="fitting-waiting" />}>
          <ToneGraph mask={step.mask} signal={signal} onSet={(mask, words, gesture) => set({ mask }, words, gesture)} />
        </Suspense>
      )}
    </div>
  );
}
