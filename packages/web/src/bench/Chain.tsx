import { stepKinds, type Lane, type Look, type LookStep } from '@dyepot/core';
import { closestCenter, DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Menu, Portal } from '@chakra-ui/react';
import { Copy, Ellipsis, Eye, EyeOff, Pencil, Trash2 } from 'lucide-react';
import { memo, useMemo, useState } from 'react';
import { useAppDispatch } from '../store.ts';
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
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: step.id,
    disabled: lane === 'stock' || naming !== null,
  });
  const move = (to: number): void => {
    if (lane !== 'stock' && to >= 0 && to < count) dispatch(act.stepMoved({ lane, from: index, to }));
  };
  const rename = (): void => {
    if (naming !== null) dispatch(act.stepRenamed({ id: step.id, name: naming.trim() }));
    setNaming(null);
  };
  return (
    <div
      ref={setNodeRef}
      className={`chip ${lane} ${selected ? 'selected' : ''} ${step.on ? '' : 'off'} ${isDragging ? 'dragging' : ''}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <div
        {...attributes}
        {...listeners}
        aria-disabled={undefined}
        role="button"
        tabIndex={0}
        className="chip-face"
        aria-pressed={selected}
        aria-label={`${nameOf(step)}, ${step.on ? `${Math.round(step.strength * 100)} %` : 'off'}`}
        onClick={() => dispatch(act.stepSelected(step.id))}
        onDoubleClick={() => setNaming(nameOf(step))}
        onKeyDown={(e) => {
          if (naming !== null) return;
          if (e.key === 'Enter' || e.key === ' ') {
            e.preventDefault();
            dispatch(act.stepSelected(step.id));
          } else if (e.key === 'Delete' || e.key === 'Backspace') {
            e.preventDefault();
            dispatch(act.stepRemoved(step.id));
          } else if (e.altKey && e.key === 'ArrowLeft') {
            e.preventDefault();
            move(index - 1);
          } else if (e.altKey && e.key === 'ArrowRight') {
            e.preventDefault();
            move(index + 1);
          } else if (e.key === 'F2') {
            e.preventDefault();
            setNaming(nameOf(step));
          }
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
              if (e.key === 'Escape') setNaming(null);
            }}
          />
        )}
        <small>{step.on ? `${Math.round(step.strength * 100)} %` : 'off'}</small>
      </div>
      <button
        type="button"
        className="chip-eye"
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
          if (value === 'remove') dispatch(act.stepRemoved(step.id));
        }}
      >
        <Menu.Trigger asChild>
          <button type="button" className="chip-more" aria-label={`More for ${nameOf(step)}`}>
            <Ellipsis size={14} />
          </button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <Menu.Content minW="150px" fontSize="13px">
              <Menu.Item value="rename">
                <Pencil size={13} /> Rename
              </Menu.Item>
              {lane !== 'stock' && (
                <>
                  <Menu.Item value="copy">
                    <Copy size={13} /> Duplicate
                  </Menu.Item>
                  <Menu.Item value="remove">
                    <Trash2 size={13} /> Remove
                  </Menu.Item>
                </>
              )}
            </Menu.Content>
          </Menu.Positioner>
        </Portal>
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
      <h3>
        {title} <small>{words}</small>
      </h3>
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
    <div className="chain" aria-label="Chain">
      <LaneStrip lane="scene" title="Scene" words="the light itself" steps={look.scene} selected={selected} />
      <LaneStrip lane="stock" title="Stock" words="light to picture" steps={stock} selected={selected} />
      <LaneStrip lane="print" title="Print" words="finishing" steps={look.print} selected={selected} />
    </div>
  );
}
