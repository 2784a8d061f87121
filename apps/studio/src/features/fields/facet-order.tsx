'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import clsx from 'clsx';

/** The facets as they stand on the page, to be dragged into another order; with the keyboard: Space, arrows, Space. */
export function FacetOrder({
  facets,
  onOrder,
}: {
  facets: { name: string; label: string }[];
  onOrder: (names: string[]) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const names = facets.map(({ name }) => name);
  const onEnd = ({ active, over }: DragEndEvent): void => {
    if (over === null || active.id === over.id) return;
    onOrder(arrayMove(names, names.indexOf(String(active.id)), names.indexOf(String(over.id))));
  };
  if (facets.length < 2) return null;
  return (
    <div className="flex min-w-0 items-center gap-2">
      <span className="shrink-0 text-soft">Facets on the page:</span>
      <DndContext id="facet-order" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onEnd}>
        <SortableContext items={names} strategy={horizontalListSortingStrategy}>
          <ol className="flex min-w-0 flex-wrap gap-1">
            {facets.map(({ name, label }) => (
              <Chip key={name} name={name} label={label} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </div>
  );
}

function Chip({ name, label }: { name: string; label: string }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: name });
  return (
    <li ref={setNodeRef} style={{ transform: CSS.Translate.toString(transform), transition }}>
      <button
        type="button"
        {...attributes}
        {...listeners}
        title="Drag, or press Space and use the arrows, to move it"
        className={clsx(
          'min-h-6 cursor-grab touch-none rounded border px-2 text-[13px]',
          isDragging ? 'border-agave bg-agave-tint' : 'border-line bg-raised hover:border-field-line',
        )}
      >
        {label}
      </button>
    </li>
  );
}
