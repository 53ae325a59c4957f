import { blendNames, blends, type Blend, type LookStep } from '@dyepot/core';
import { lazy, Suspense } from 'react';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import { boundStarts, placeWords, portableStarts, startWords, type Start } from '../where/parts.ts';
import { act, docOf } from './benchSlice.ts';

const loadWhere = (): Promise<typeof import('../where/Where.tsx')> => import('../where/Where.tsx'),
  Where = lazy(() => loadWhere().then((m) => ({ default: m.Where })));

/** Where a step acts and how it is joined with what came to it. */
export function Joining({ step, frame, signal }: { step: LookStep; frame: Frame; signal: ReadoutSignal }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    side = useAppSelector((s) => s.bench.side),
    masks = useAppSelector((s) => docOf(s.bench).look.masks),
    set = (change: Partial<Pick<LookStep, 'mask' | 'blend'>>, words: string, gesture: string): void => {
      dispatch(act.joiningSet({ id: step.id, change, words, gesture: gesture && `${step.id}-${gesture}` }));
    };
  // one stop for Tab: the choices hold up and down, so left and right go from one to the other
  const walk = (e: React.KeyboardEvent<HTMLSelectElement>): void => {
    if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
    e.preventDefault();
    const all = [...e.currentTarget.closest('.joining')!.querySelectorAll<HTMLSelectElement>(':scope > label > select')];
    all[e.key === 'ArrowRight' ? all.length - 1 : 0]!.focus();
  };
  const starts: readonly Start[] = side === 'frame' ? [...portableStarts, ...boundStarts] : portableStarts;
  return (
    <div className="joining">
      <label className="inline choice">
        where{' '}
        <select
          aria-label="Where it acts"
          onKeyDown={walk}
          value={step.mask ? 'own' : 'all'}
          onChange={(e) => {
            const { value } = e.target;
            if (value === 'all') set({ mask: null }, 'Everywhere', '');
            else if (value !== 'own')
              void import('../where/begin.ts').then(({ beginPlace }) => {
                set({ mask: beginPlace(value as Start) }, startWords[value as Start], '');
                dispatch(act.partChosen(0));
              });
          }}
        >
          <option value="all">everywhere</option>
          {step.mask && <option value="own">{placeWords(step.mask, masks)}</option>}
          {!step.mask &&
            starts.map((s) => (
              <option key={s} value={s}>
                {startWords[s]}
              </option>
            ))}
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
          <Where
            frame={frame}
            id={step.id}
            mask={step.mask}
            signal={signal}
            onSet={(mask, words, gesture) => set({ mask }, words, gesture)}
          />
        </Suspense>
      )}
    </div>
  );
}
