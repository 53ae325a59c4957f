import { stepKinds, type Lane, type Look, type LookStep } from '@dyepot/core';
import { closestCenter, DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Menu } from '@chakra-ui/react';
import { MenuList } from '../kit/MenuList.tsx';
import { Copy, Ellipsis, Eye, EyeOff, Pencil, Trash2 } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { useAppDispatch } from '../store.ts';
import { Rove } from '../kit/Rove.tsx';
import { StepDrawing } from '../kit/StepDrawing.tsx';
import { act, nameOf } from './benchSlice.ts';
import { Palette } from './Palette.tsx';

interface ChipProps {
  step: LookStep;
  lane: Lane;
  index: number;
  count: number;
  selected: boolean;
}

const Chip = memo(function Chip({ step, lane, index, count, selected }: ChipProps): React.JSX.Element {
  const dispatch = useAppDispatch(),
    [naming, setNaming] = useState<string | null>(null);
  const { listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: step.id,
    disabled: lane === 'stock' || naming !== null,
  });
  const move = (to: number): void => {
    if (lane !== 'stock' && to >= 0 && to < count) dispatch(act.stepMoved({ lane, from: index, to }));
  };
  const face = useRef<HTMLDivElement>(null),
    back = useRef(false);
  const rename = (): void => {
    if (naming !== null && naming.trim() !== nameOf(step)) dispatch(act.stepRenamed({ id: step.id, name: naming.trim() }));
    leaveNaming();
  };
  const leaveNaming = (): void => {
    back.current = true;
    setNaming(null);
  };
  // after naming, the focus is on the step again
  useEffect(() => {
    if (naming !== null || !back.current) return;
    back.current = false;
    if (document.activeElement === document.body) face.current?.focus();
  }, [naming]);
  const out = (): void => {
    if (lane === 'stock') return;
    dispatch(act.stepRemoved(step.id));
    // the focus goes to what is selected now
    setTimeout(() => document.querySelector<HTMLElement>('.chip.selected .chip-face')?.focus(), 0);
  };
  return (
    <div
      ref={setNodeRef}
      className={`chip ${lane} ${selected ? 'selected' : ''} ${step.on ? '' : 'off'} ${isDragging ? 'dragging' : ''}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <div
        {...listeners}
        ref={face}
        role="button"
        tabIndex={-1}
        className="chip-face"
        aria-describedby="chip-keys"
        title={`${nameOf(step)}: Space switches, F2 renames, Alt with arrows moves, Control D duplicates, Delete takes out`}
        aria-pressed={selected}
        onClick={() => dispatch(act.stepSelected(step.id))}
        onDoubleClick={() => setNaming(nameOf(step))}
        onKeyDown={(e) => {
          if (naming !== null) return;
          const acts: Record<string, (() => void) | undefined> = {
            Enter: () => dispatch(act.stepSelected(step.id)),
            ' ': () => dispatch(act.stepSwitched(step.id)),
            Delete: out,
            Backspace: out,
            F2: () => setNaming(nameOf(step)),
            ...(e.altKey ? { ArrowLeft: () => move(index - 1), ArrowRight: () => move(index + 1) } : {}),
            ...(e.ctrlKey || e.metaKey ? { d: () => dispatch(act.stepDuplicated(step.id)) } : {}),
          };
          const run = acts[e.key];
          if (!run) return;
          e.preventDefault();
          e.stopPropagation();
          run();
        }}
      >
        <StepDrawing step={step} />
        {naming === null ? (
          <b title={nameOf(step)}>{nameOf(step)}</b>
        ) : (
          <input
            className="chip-naming"
            aria-label="Name of the step"
            autoFocus
            value={naming}
            onChange={(e) => setNaming(e.target.value)}
            onFocus={(e) => e.target.select()}
            onBlur={rename}
            onClick={(e) => e.stopPropagation()}
            onPointerDown={(e) => e.stopPropagation()}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') rename();
              if (e.key === 'Escape') leaveNaming();
            }}
          />
        )}
        <small>{step.on ? `${Math.round(step.strength * 100)} %` : 'off'}</small>
      </div>
      <button
        type="button"
        className="chip-eye"
        tabIndex={-1}
        title={step.on ? 'Switch off (Space)' : 'Switch on (Space)'}
        aria-label={step.on ? `Switch ${nameOf(step)} off` : `Switch ${nameOf(step)} on`}
        aria-pressed={!step.on}
        onClick={() => dispatch(act.stepSwitched(step.id))}
      >
        {step.on ? <Eye size={13} /> : <EyeOff size={13} />}
      </button>
      <Menu.Root
        lazyMount
        unmountOnExit
        onSelect={({ value }) => {
          if (value === 'rename') setTimeout(() => setNaming(nameOf(step)), 30);
          if (value === 'copy') dispatch(act.stepDuplicated(step.id));
          if (value === 'out') out();
        }}
      >
        <Menu.Trigger asChild>
          <button type="button" className="chip-more" tabIndex={-1} title="More" aria-label={`More for ${nameOf(step)}`}>
            <Ellipsis size={14} />
          </button>
        </Menu.Trigger>
        <MenuList minW="150px">
          <Menu.Item value="rename">
            <Pencil size={13} /> Rename
          </Menu.Item>
          {lane !== 'stock' && (
            <>
              <Menu.Item value="copy">
                <Copy size={13} /> Duplicate
              </Menu.Item>
              <Menu.Item value="out">
                <Trash2 size={13} /> Take out
              </Menu.Item>
            </>
          )}
        </MenuList>
      </Menu.Root>
    </div>
  );
});

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
    sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  return (
    <section className="lane" aria-label={`${title} lane`} style={{ minWidth: steps.length * leastChip + (lane === 'stock' ? 24 : 52) }}>
      <h2>
        {title} <small>{words}</small>
      </h2>
      <div className="lane-chips">
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={({ active, over }) => {
            if (!over || active.id === over.id || lane === 'stock') return;
            dispatch(
              act.stepMoved({ lane, from: steps.findIndex((s) => s.id === active.id), to: steps.findIndex((s) => s.id === over.id) }),
            );
          }}
        >
          <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
            {steps.map((s, i) => (
              <Chip key={s.id} step={s} lane={lane} index={i} count={steps.length} selected={s.id === selected} />
            ))}
          </SortableContext>
        </DndContext>
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
