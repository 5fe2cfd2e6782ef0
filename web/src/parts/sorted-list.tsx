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
import { Box, ButtonBase, IconButton } from '@mui/material';
import { GripVertical } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';
import { colors } from '../theme';
import { cutShort } from './line';

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
  /** Whether its values are shown. */
  readonly open: boolean;
  /** What stands after its name while it is folded. */
  readonly brief: string;
  readonly on: boolean;
  /** Its switch and its menu. */
  readonly tools: ReactNode;
  /** What is said of it, open or folded. */
  readonly said?: ReactNode;
  readonly children: ReactNode;
  onToggle(): void;
}

/** One card of such a list: a line of its grip, its name and its tools; its values under it while it is open. */
export function SortedCard(props: CardProps) {
  const {
    id,
    name,
    label = name,
    selected,
    accent,
    open,
    brief,
    on,
    tools,
    said,
    children,
    onToggle,
  } = props;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    if (selected) card.current?.scrollIntoView({ block: 'nearest' });
  }, [selected, open]);
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
      style={{ transform: Transforms.Translate.toString(transform), transition }}
      sx={{
        px: 1,
        pb: open ? 0.75 : 0,
        borderRadius: 2,
        flex: 'none',
        position: 'relative',
        zIndex: isDragging ? 2 : 'auto',
        bgcolor: selected ? colors.raised : colors.panel,
        boxShadow: selected ? `inset 3px 0 0 ${accent}` : 'none',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.25, minHeight: 34 }}>
        <IconButton
          size="small"
          {...attributes}
          {...listeners}
          aria-label={`Drag ${name} to another place`}
          sx={{ ml: -0.75, px: 0.625, color: colors.faint, cursor: 'grab', touchAction: 'none' }}
        >
          <GripVertical size={15} />
        </IconButton>
        <ButtonBase
          aria-label={`${[name, !open && brief].filter(Boolean).join(' ')}: its values`}
          aria-expanded={open}
          title={open ? '' : brief}
          onClick={onToggle}
          sx={{
            ...{ flex: 1, minWidth: 0, alignSelf: 'stretch', justifyContent: 'flex-start', gap: 1, mr: 0.5 },
            borderRadius: 1,
            opacity: on ? 1 : 0.55,
          }}
        >
          <Box sx={{ fontWeight: 600, fontSize: 14, flex: 'none' }}>{name}</Box>{' '}
          {!open && (
            <Box sx={{ ...cutShort, textAlign: 'right', fontSize: 12.5, color: colors.quiet }}>{brief}</Box>
          )}
        </ButtonBase>
        {tools}
      </Box>
      {open && children}
      {said}
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
