import { stepKinds, type Lane, type Look, type LookStep } from '@dyepot/core';
import { memo, useLayoutEffect, useMemo, useRef } from 'react';
import { Rove } from '../kit/Rove.tsx';
import { useFetched } from '../kit/useFetched.ts';
import { useAppDispatch } from '../store.ts';
import { act } from './benchSlice.ts';
import { Chip } from './Chip.tsx';
import { Palette } from './Palette.tsx';

/** What lets chips be dragged. Until it is there keys and menus move them. */
const loadSorting = (): Promise<typeof import('./Sorting.tsx')> => import('./Sorting.tsx');

/** What a chip takes at least, with the gap beside it. */
const leastChip = 83;

const LaneStrip = memo(function LaneStrip({
  lane,
  title,
  words,
  steps,
  selected,
}: {
  lane: Lane;
  title: string;
  words: string;
  steps: LookStep[];
  selected: string;
}): React.JSX.Element {
  const order = steps.map((s) => s.id).join(' '),
    ids = useMemo(() => order.split(' '), [order]);
  const dispatch = useAppDispatch(),
    [sorting, fetchSorting] = useFetched(loadSorting),
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
  return (
    <section className="lane" aria-label={`${title} lane`} style={{ minWidth: steps.length * leastChip + (lane === 'stock' ? 24 : 52) }}>
      <h2>
        {title} <small>{words}</small>
      </h2>
      <div className="lane-chips" onPointerEnter={fetchSorting}>
        {sorting && lane !== 'stock' ? (
          <sorting.SortableLane ids={ids} onMove={(from, to) => dispatch(act.stepMoved({ lane, from, to }))}>
            {steps.map((s, i) => (
              <sorting.SortableChip key={s.id} step={s} lane={lane} index={i} count={steps.length} selected={s.id === selected} />
            ))}
          </sorting.SortableLane>
        ) : (
          steps.map((s, i) => <Chip key={s.id} step={s} lane={lane} index={i} count={steps.length} selected={s.id === selected} />)
        )}
        {lane !== 'stock' && (
          <Palette lane={lane} kinds={stepKinds.filter((k) => k.lane === lane)} onAdd={(kind) => dispatch(act.stepAdded(kind))} />
        )}
      </div>
    </section>
  );
});

/** The three lanes as one strip, in the order light travels. */
export function Chain({ look, selected }: { look: Look; selected: string }): React.JSX.Element {
  const stock = useMemo(() => [look.stock], [look.stock]);
  return (
    <Rove className="chain" role="group" aria-label="Chain" of=".chip-face, .lane-add" ways="line">
      <span id="chip-keys" hidden>
        Arrows go from step to step. Enter selects, Space switches off and on, F2 renames, Alt with an arrow moves, Control D duplicates,
        Delete takes out.
      </span>
      <LaneStrip lane="scene" title="Scene" words="the light itself" steps={look.scene} selected={selected} />
      <LaneStrip lane="stock" title="Stock" words="light to picture" steps={stock} selected={selected} />
      <LaneStrip lane="print" title="Print" words="finishing" steps={look.print} selected={selected} />
    </Rove>
  );
}
