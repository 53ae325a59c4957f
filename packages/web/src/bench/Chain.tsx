import { stepKinds, type Lane, type Look, type LookStep, type Skein } from '@dyepot/core';
import { memo, useLayoutEffect, useMemo, useRef } from 'react';
import { Rove } from '../kit/Rove.tsx';
import { useFetched } from '../kit/useFetched.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import { act } from './benchSlice.ts';
import { Chip } from './Chip.tsx';
import { Palette } from './Palette.tsx';

/** What lets chips be dragged. Until it is there keys and menus move them. */
const loadSorting = (): Promise<typeof import('./Sorting.tsx')> => import('./Sorting.tsx');

/** Whether a chip has a menu, a sheet or its name open, which would be gone if it were made anew. */
const chipOpen = (): boolean =>
  document.querySelector('.chip [aria-expanded=true], .chip [data-open], .chip[data-open], .chip-naming') !== null;

/** What a chip takes at least, with the gap beside it. */
const leastChip = 83;

const LaneStrip = memo(function LaneStrip({
  lane,
  title,
  words,
  steps,
  skeins,
  selected,
}: {
  lane: Lane;
  title: string;
  words: string;
  steps: LookStep[];
  skeins: Skein[];
  selected: string;
}): React.JSX.Element {
  const order = steps.map((s) => s.id).join(' '),
    ids = useMemo(() => order.split(' '), [order]);
  const dispatch = useAppDispatch(),
    [sorting, fetchSorting] = useFetched(loadSorting, chipOpen),
    focused = useRef<string | null>(null),
    swapped = sorting !== null;
  // chips are made anew when they can be dragged: the one that had the focus has it again
  const before = useRef(swapped);
  if (swapped && !before.current) focused.current = document.activeElement?.closest<HTMLElement>('[data-step]')?.dataset['step'] ?? null;
  before.current = swapped;
  useLayoutEffect(() => {
    if (focused.current !== null) document.querySelector<HTMLElement>(`[data-step="${focused.current}"] .chip-face`)?.focus();
    focused.current = null;
  }, [swapped]);
  /** Chips in order, those of a skein in a bracket of their own. */
  const together = (chip: (s: LookStep, i: number) => React.ReactNode): React.ReactNode[] => {
    const out: React.ReactNode[] = [];
    for (let i = 0; i < steps.length;) {
      const skein = skeins.find((k) => k.id === steps[i]!.skein);
      let end = i + 1;
      while (skein && end < steps.length && steps[end]!.skein === skein.id) end++;
      const from = i,
        chips = steps.slice(i, end).map((s, k) => chip(s, from + k));
      if (skein)
        out.push(
          <div
            key={skein.id}
            className={`skein ${skein.on ? '' : 'off'} ${skein.id === selected ? 'selected' : ''}`}
            style={{ flexGrow: end - from }}
          >
            <button
              type="button"
              className="skein-name"
              aria-pressed={skein.id === selected}
              onClick={() => dispatch(act.stepSelected(skein.id))}
            >
              {skein.name || 'Together'} {skein.on ? `${Math.round(skein.strength * 100)} %` : 'off'}
            </button>
            {chips}
          </div>,
        );
      else out.push(...chips);
      i = end;
    }
    return out;
  };
  return (
    <section className="lane" aria-label={`${title} lane`} style={{ minWidth: steps.length * leastChip + (lane === 'stock' ? 24 : 52) }}>
      <h2>
        {title} <small>{words}</small>
      </h2>
      <div className="lane-chips" onPointerEnter={fetchSorting}>
        {sorting && lane !== 'stock' ? (
          <sorting.SortableLane ids={ids} onMove={(from, to) => dispatch(act.stepMoved({ lane, from, to }))}>
            {together((s, i) => (
              <sorting.SortableChip
                key={s.id}
                step={s}
                lane={lane}
                index={i}
                count={steps.length}
                before={steps[i - 1]}
                selected={s.id === selected}
              />
            ))}
          </sorting.SortableLane>
        ) : (
          together((s, i) => (
            <Chip key={s.id} step={s} lane={lane} index={i} count={steps.length} before={steps[i - 1]} selected={s.id === selected} />
          ))
        )}
        {lane !== 'stock' && (
          <Palette lane={lane} kinds={stepKinds.filter((k) => k.lane === lane)} onAdd={(kind) => dispatch(act.stepAdded(kind))} />
        )}
      </div>
    </section>
  );
});

/** The three lanes as one strip, in the order light travels. */
export function Chain({
  look,
  selected,
  side,
  frame,
}: {
  look: Look;
  selected: string;
  side: 'look' | 'frame';
  frame: Frame;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    stock = useMemo(() => [look.stock], [look.stock]),
    mine = useAppSelector((s) => {
      const own = s.bench.owns[frame.id]?.look;
      return own ? own.scene.length + own.print.length : 0;
    });
  return (
    <Rove className="chain" role="group" aria-label="Chain" of=".chip-face, .lane-add, .chain-sides [role=tab], .skein-name" ways="line">
      <span id="chip-keys" hidden>
        Arrows go from step to step. Enter selects, Space switches off and on, F2 renames, Alt with an arrow moves, Control D duplicates,
        Delete takes out.
      </span>
      <div className="chain-sides" role="tablist" aria-label="Whose steps">
        <button type="button" role="tab" aria-selected={side === 'look'} onClick={() => dispatch(act.sideChosen('look'))}>
          Look <small>every frame</small>
        </button>
        <button type="button" role="tab" aria-selected={side === 'frame'} onClick={() => dispatch(act.sideChosen('frame'))}>
          This frame{mine > 0 ? ` · ${mine}` : ''} <small>{frame.name}</small>
        </button>
      </div>
      <LaneStrip lane="scene" title="Scene" words="the light itself" steps={look.scene} skeins={look.skeins} selected={selected} />
      {side === 'look' && (
        <LaneStrip lane="stock" title="Stock" words="light to picture" steps={stock} skeins={look.skeins} selected={selected} />
      )}
      <LaneStrip lane="print" title="Print" words="finishing" steps={look.print} skeins={look.skeins} selected={selected} />
    </Rove>
  );
}
