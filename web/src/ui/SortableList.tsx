import {
  type Announcements,
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";

interface Entry {
  id: string;
}

interface SortableListProps<T extends Entry> {
  /** What the list is called, and one entry of it: “Steps”, “step”. */
  label: string;
  one: string;
  entries: readonly T[];
  nameOf: (entry: T) => string;
  onMove: (from: number, to: number) => void;
  /** Draws an entry; `handle` is what it is dragged by. */
  children: (entry: T, index: number, handle: ReactNode) => ReactNode;
}

/** Pixels that the pointer must move before a press becomes a drag. */
const DRAG_FROM = 4;

function SortableEntry({
  id,
  name,
  children,
}: {
  id: string;
  name: string;
  children: (handle: ReactNode) => ReactNode;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging, isOver } = useSortable({
    id,
  });
  const handle = (
    <button
      type="button"
      {...attributes}
      {...listeners}
      aria-label={`Drag ${name}`}
      title="Drag; or press Space, then the arrow keys"
      className="-ml-1 inline-flex size-6 shrink-0 cursor-grab touch-none items-center justify-center rounded text-ink3 hover:bg-sunk hover:text-ink"
    >
      <GripVertical size={13} />
    </button>
  );
  return (
    <li
      ref={setNodeRef}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
      className={isDragging ? "relative z-10 opacity-80" : isOver ? "shadow-[0_-2px_0_var(--verd)]" : ""}
    >
      {children(handle)}
    </li>
  );
}

/** A list sorted by mouse handles or by keyboard; moves are announced. */
export function SortableList<T extends Entry>(props: SortableListProps<T>) {
  const { label, one, entries, nameOf, onMove, children } = props;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const at = (id: unknown) => entries.findIndex((entry) => entry.id === id);
  const named = (id: unknown) => {
    const entry = entries[at(id)];
    return `${one} ${entry ? nameOf(entry) : ""}`;
  };
  const announcements: Announcements = {
    onDragStart: ({ active }) =>
      `Picked up ${named(active.id)}. It is number ${at(active.id) + 1} of ${entries.length}.`,
    onDragOver: ({ active, over }) =>
      over ? `${named(active.id)} is over number ${at(over.id) + 1} of ${entries.length}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over
        ? `${named(active.id)} is number ${at(over.id) + 1} now.`
        : `${named(active.id)} stays where it was.`,
    onDragCancel: ({ active }) => `${named(active.id)} stays where it was.`,
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{ announcements }}
      onDragEnd={({ active, over }) => over && active.id !== over.id && onMove(at(active.id), at(over.id))}
    >
      <SortableContext items={entries.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ol className="space-y-2" aria-label={label}>
          {entries.map((entry, index) => (
            <SortableEntry key={entry.id} id={entry.id} name={named(entry.id)}>
              {(handle) => children(entry, index, entries.length > 1 ? handle : null)}
            </SortableEntry>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}
