import { isFrameBound, number, type Mask, type MaskPart, type Mode, type Region } from '@dyepot/core';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Cell, Fields } from '../kit/Cell.tsx';
import { LazyMenu } from '../kit/LazyMenu.tsx';
import { Rove } from '../kit/Rove.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import { act, docOf, type ShowPlace } from '../bench/benchSlice.ts';
import type { Frame } from '../types.ts';
import { useHolding } from './useHolding.ts';
import { useSure } from './useFound.ts';
import { copiedPlace, copyPlace } from './copied.ts';
import { PartControls } from './PartControls.tsx';
import { modeWords, partFrom } from './begin.ts';
import { boundIn, boundStarts, partName, portableStarts, signs, startWords, type Start } from './parts.ts';

const opacity = number('Opacity', '%', 0, 100, 100, 1, 0),
  whole = {
    feather: number('Feather', '%', 0, 20, 0, 0.1, 1),
    grow: number('Grow', '%', -3, 3, 0, 0.1, 1),
    snap: number('Snap', '%', 0, 100, 0, 5, 0),
  },
  modes: readonly Mode[] = ['add', 'subtract', 'intersect'],
  addWords: Readonly<Record<Mode, string>> = { add: '+ add', subtract: '− take away', intersect: '∩ only inside' },
  shows: readonly (readonly [ShowPlace, string])[] = [
    ['off', 'not shown'],
    ['tint', 'tint'],
    ['grey', 'grey'],
    ['outline', 'outline'],
    ['held', 'while held'],
  ];

/** Where a step or a skein acts: its parts in order, the whole, and how it is shown. */
export function Where({
  id,
  frame,
  mask,
  signal,
  onSet,
}: {
  id: string;
  /** the lead */
  frame: Frame;
  mask: Mask;
  signal: ReadoutSignal;
  onSet: (mask: Mask | null, words: string, gesture: string) => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    side = useAppSelector((s) => s.bench.side),
    masks = useAppSelector((s) => docOf(s.bench).look.masks),
    part = useAppSelector((s) => s.bench.part),
    shown = useAppSelector((s) => s.bench.showPlace),
    tint = useAppSelector((s) => s.bench.placeTint),
    holding = useHolding(),
    [naming, setNaming] = useState<string | null>(null);
  const at = Math.min(part, mask.parts.length - 1),
    starts: readonly Start[] = side === 'frame' ? [...portableStarts, ...boundStarts] : portableStarts;
  const setPart = (i: number, change: Partial<MaskPart>, words: string, gesture: string): void =>
    onSet(
      { ...mask, parts: mask.parts.map((p, k) => (k === i ? ({ ...p, ...change } as MaskPart) : p)) },
      words,
      gesture && `part-${i}-${gesture}`,
    );
  const add = (mode: Mode, start: string): void => {
    const next = start.startsWith('named:') ? partFrom('named', mode, start.slice(6)) : partFrom(start as Start, mode);
    onSet({ ...mask, parts: [...mask.parts, next] }, `Where: ${addWords[mode]}`, '');
    dispatch(act.partChosen(mask.parts.length));
  };
  const copied = copiedPlace();
  const more = [
    { value: 'copy', words: 'Copy this place' },
    {
      value: 'paste',
      words: 'Put the copied place here',
      disabled: !copied || (side === 'look' && [copied.mask, ...copied.masks.map((m) => m.mask)].some(boundIn)),
    },
    { value: 'name', words: 'Give it a name…', disabled: boundIn(mask) && side === 'look' },
    { value: 'all', words: 'Everywhere again' },
  ];
  return (
    <section className="where" aria-label="Where" {...holding}>
      <ul>
        {mask.parts.map((p, i) => (
          <li key={i} className={i === at ? 'on' : ''}>
            <button
              type="button"
              className="where-sign"
              title={`${modeWords[p.mode]}; press for the next way`}
              aria-label={`${partName(p, masks)}: ${modeWords[p.mode]}`}
              onClick={() =>
                setPart(
                  i,
                  { mode: modes[(modes.indexOf(p.mode) + 1) % 3]! },
                  `Where: ${modeWords[modes[(modes.indexOf(p.mode) + 1) % 3]!]}`,
                  '',
                )
              }
            >
              {signs[p.mode]}
            </button>
            <button type="button" className="where-name" aria-pressed={i === at} onClick={() => dispatch(act.partChosen(i))}>
              {partName(p, masks)}
              {isFrameBound(p) && <small>this frame only</small>}
              {p.kind === 'found' && <Sure what={p.what} frame={frame} />}
            </button>
            <button
              type="button"
              className="where-sign"
              title="Turned over"
              aria-label={`${partName(p, masks)}, turned over`}
              aria-pressed={p.inverted}
              onClick={() => setPart(i, { inverted: !p.inverted }, 'Where: turned over', '')}
            >
              ◑
            </button>
            <Cell
              parameter={opacity}
              value={Math.round(100 * p.opacity)}
              worded
              onChange={(v, g) => setPart(i, { opacity: v / 100 }, 'Where: opacity', `opacity-${g}`)}
            />
            <button
              type="button"
              className="where-sign"
              title="Take this part out"
              aria-label={`Take ${partName(p, masks)} out`}
              onClick={() => {
                const parts = mask.parts.filter((_, k) => k !== i);
                onSet(parts.length > 0 ? { ...mask, parts } : null, 'Where: take a part out', '');
                dispatch(act.partChosen(Math.max(0, i - 1)));
              }}
            >
              <X size={12} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <Rove className="where-add" role="group" aria-label="Add to the place">
        {modes.map((mode) => (
          <LazyMenu
            key={mode}
            minW="170px"
            trigger={<button type="button">{addWords[mode]}</button>}
            items={[
              ...starts.map((s) => ({ value: s, words: startWords[s] })),
              ...masks.map((m) => ({ value: `named:${m.id}`, words: `in “${m.name}”` })),
            ]}
            onSelect={(value) => add(mode, value)}
          />
        ))}
        <LazyMenu
          minW="190px"
          trigger={
            <button type="button" aria-label="More for this place">
              …
            </button>
          }
          items={more}
          onSelect={(value) => {
            if (value === 'copy') copyPlace(mask, masks);
            if (value === 'paste' && copied) dispatch(act.placePut({ id, ...copied }));
            if (value === 'all') onSet(null, 'Everywhere', '');
            if (value === 'name') setNaming('');
          }}
        />
      </Rove>
      {naming !== null && (
        <form
          className="where-naming"
          onSubmit={(e) => {
            e.preventDefault();
            if (naming.trim()) dispatch(act.placeNamed(id, naming.trim().slice(0, 80)));
            setNaming(null);
          }}
        >
          <input
            aria-label="Name of the place"
            autoFocus
            maxLength={80}
            value={naming}
            onChange={(e) => setNaming(e.target.value)}
            onKeyDown={(e) => e.key === 'Escape' && setNaming(null)}
          />
          <button type="submit">Keep</button>
        </form>
      )}
      {mask.parts[at] && (
        <PartControls part={mask.parts[at]} signal={signal} onSet={(change, words, gesture) => setPart(at, change, words, gesture)} />
      )}
      <Fields
        of={[
          { name: 'feather', parameter: whole.feather, value: 100 * mask.feather },
          { name: 'grow', parameter: whole.grow, value: 100 * mask.grow },
          { name: 'snap', parameter: whole.snap, value: 100 * mask.snap },
        ]}
        onSet={(name, v, g) => onSet({ ...mask, [name]: v / 100 }, `Where: ${name}`, `${name}-${g}`)}
      />
      <label className="inline">
        <input
          type="checkbox"
          checked={mask.inverted}
          onChange={() => onSet({ ...mask, inverted: !mask.inverted }, 'Where: all turned over', '')}
        />{' '}
        everywhere but there
      </label>
      <Rove className="where-show" role="radiogroup" aria-label="How the place is shown">
        {shows.map(([value, words]) => (
          <button
            key={value}
            type="button"
            role="radio"
            aria-checked={shown === value}
            onClick={() => dispatch(act.placeShown({ showPlace: value }))}
          >
            {words}
          </button>
        ))}
      </Rove>
      {shown !== 'off' && shown !== 'grey' && (
        <label className="inline">
          its colour <input type="color" value={tint} onChange={(e) => dispatch(act.placeShown({ placeTint: e.target.value }))} />
        </label>
      )}
    </section>
  );
}

/** How sure what is found is, on the lead. */
function Sure({ what, frame }: { what: Region; frame: Frame }): React.JSX.Element {
  return <small>{useSure(frame, what)}</small>;
}
