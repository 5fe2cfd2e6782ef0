import {
  type Announcements,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS as Transforms } from '@dnd-kit/utilities';
import { Box, IconButton } from '@mui/material';
import { GripVertical } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';
import { colors } from '../theme';

/** A list whose elements are put in another place by their grips, by pointer or keys. */
export function SortedList({
  ids,
  nameOf,
  onShift,
  children,
}: {
  readonly ids: readonly string[];
  /** What an element is called, for who hears the list. */
  readonly nameOf: (id: string) => string;
  /** An element goes so many places on, or back. */
  readonly onShift: (id: string, by: number) => void;
  readonly children: ReactNode;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const by = over ? ids.indexOf(String(over.id)) - ids.indexOf(String(active.id)) : 0;
    if (by !== 0) onShift(String(active.id), by);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{ announcements: announced(ids, nameOf), screenReaderInstructions: INSTRUCTIONS }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

const INSTRUCTIONS = {
  draggable: 'Space lifts it, the arrow keys move it, Space puts it down, Escape puts it back.',
};

/** What is said while an element is moved by keys. */
function announced(ids: readonly string[], nameOf: (id: string) => string): Announcements {
  const place = (id: string | number) => `place ${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  const name = ({ id }: { id: string | number }) => nameOf(String(id));
  return {
    onDragStart: ({ active }) => `${name(active)} is lifted from ${place(active.id)}.`,
    onDragOver: ({ active, over }) =>
      over ? `${name(active)} is at ${place(over.id)}.` : `${name(active)} is beside the list.`,
    onDragEnd: ({ active, over }) =>
      over ? `${name(active)} is put down at ${place(over.id)}.` : `${name(active)} is where it was.`,
    onDragCancel: ({ active }) => `${name(active)} is where it was.`,
  };
}

interface CardProps {
  readonly id: string;
  readonly name: string;
  /** What the card is called, where its name alone does not tell. */
  readonly label?: string;
  readonly selected: boolean;
  /** Colour of the selected card's edge. */
  readonly accent: string;
  /** The card's head after its grip. */
  readonly head: ReactNode;
  readonly children: ReactNode;
  onSelect?(): void;
  onFocus?(): void;
  onPress?(): void;
}

/** One card of such a list: its grip and head on a line, what it says below. */
export function SortedCard(props: CardProps) {
  const { id, name, label = name, selected, accent, head, children, onSelect, onFocus, onPress } = props;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    if (selected) card.current?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  return (
    <Box
      ref={(element: HTMLElement | null) => {
        setNodeRef(element);
        card.current = element;
      }}
      role="group"
      aria-label={label}
      tabIndex={-1}
      data-card={id}
      onClick={onSelect}
      onFocus={onFocus}
      onPointerDown={onPress}
      style={{ transform: Transforms.Translate.toString(transform), transition }}
      sx={{
        p: 1.25,
        pt: 0.5,
        borderRadius: 2,
        flex: 'none',
        position: 'relative',
        zIndex: isDragging ? 2 : 'auto',
        bgcolor: selected ? colors.raised : colors.panel,
        boxShadow: selected ? `inset 3px 0 0 ${accent}` : 'none',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.25 }}>
        <IconButton
          size="small"
          {...attributes}
          {...listeners}
          aria-label={`Drag ${name} to another place`}
          sx={{ ml: -1, color: colors.faint, cursor: 'grab', touchAction: 'none' }}
        >
          <GripVertical size={15} />
        </IconButton>
        {head}
      </Box>
      {children}
    </Box>
  );
}

/** Goes to the card of an element once it is drawn: where one that had the focus was taken away. */
export const focusCard = (id: string | null): void =>
  void requestAnimationFrame(() =>
    document
      .querySelector<HTMLElement>(`[data-card="${CSS.escape(id ?? '')}"]`)
      ?.focus({ preventScroll: true }),
  );
