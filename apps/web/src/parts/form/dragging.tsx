import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import Box from '@mui/material/Box';
import type { FormPlace } from '@zesty-sieve/core/language';
import type { ReactNode } from 'react';

/** Where conditions can be dragged; the whole form is inside. */
export function DragArea({ children, onMove }: { children: ReactNode; onMove: (from: FormPlace, group: FormPlace, at: number) => void }) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }), useSensor(KeyboardSensor));
  const drop = ({ active, over }: DragEndEvent) => {
    const from = active.data.current as { place: FormPlace } | undefined;
    const to = over?.data.current as { group: FormPlace; at: number } | undefined;
    if (from !== undefined && to !== undefined) onMove(from.place, to.group, to.at);
  };
  return (
    <DndContext accessibility={{ container: document.body }} sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
      {children}
    </DndContext>
  );
}

/** A condition with the handle by which it is dragged. */
export function Movable({ place, children }: { place: FormPlace; children: ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id: `item-${place.join('.')}`, data: { place } });
  return (
    <Box
      ref={setNodeRef}
      sx={{ display: 'flex', alignItems: 'flex-start', gap: 0.25, ...(isDragging && { position: 'relative', zIndex: 3, opacity: 0.75 }) }}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
    >
      <Box
        {...listeners}
        {...attributes}
        aria-label="Drag the condition"
        sx={{ cursor: 'grab', color: 'text.disabled', pt: '5px', ml: '-6px', touchAction: 'none' }}
      >
        <DragIndicatorIcon sx={{ fontSize: 16, display: 'block' }} />
      </Box>
      {children}
    </Box>
  );
}

/** The gap between two conditions, into which a third can be dropped. */
export function DropGap({ group, at }: { group: FormPlace; at: number }) {
  const { setNodeRef, isOver, active } = useDroppable({ id: `gap-${group.join('.')}-${at}`, data: { group, at } });
  return (
    <Box
      ref={setNodeRef}
      data-drop={`${group.join('.')}:${at}`}
      sx={{ height: 6, borderRadius: 1, bgcolor: (t) => (isOver && active ? t.roles.flow : 'transparent') }}
    />
  );
}
