import { closestCenter, DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { useMemo } from 'react';
import { Chip, type ChipProps, type Grip } from './Chip.tsx';

/** Chips that the pointer drags along their lane. */
export function SortableLane({
  ids,
  onMove,
  children,
}: {
  ids: string[];
  onMove: (from: number, to: number) => void;
  children: React.ReactNode;
}): React.JSX.Element {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{ container: document.getElementById('menus') ?? document.body }}
      onDragEnd={({ active, over }) => {
        if (over && active.id !== over.id) onMove(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
      }}
    >
      <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}
export function SortableChip(props: ChipProps): React.JSX.Element {
  const { listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: props.step.id }),
    moved = CSS.Translate.toString(transform);
  const grip = useMemo<Grip>(
    () => ({ ref: setNodeRef, listeners: listeners as Grip['listeners'], style: { transform: moved, transition }, dragging: isDragging }),
    [setNodeRef, listeners, moved, transition, isDragging],
  );
  return <Chip {...props} grip={grip} />;
}
