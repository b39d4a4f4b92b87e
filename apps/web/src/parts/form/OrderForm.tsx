import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import {
  parseOrderKeyText,
  readOrderKeys,
  writeOrderKeys,
  type CheckedStage,
  type OrderKey,
  type OrderRow,
} from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { offeredFields } from './fields.ts';
import { AddButton, frame, RemoveButton, Typed, Word } from './parts.tsx';

export function OrderForm({ checked, keys, onText }: { checked: CheckedStage; keys: readonly OrderKey[]; onText: (text: string) => void }) {
  return (
    <Box sx={frame}>
      <Word word="order by">the first key decides, the next one ties</Word>
      <OrderKeys checked={checked} keys={readOrderKeys(keys)} onKeys={(rows) => onText(`order by ${writeOrderKeys(rows)}`)} />
    </Box>
  );
}

/** The keys of an order as rows, which are dragged into the order in which they count. */
export function OrderKeys({
  checked,
  keys: rows,
  onKeys,
}: {
  checked: CheckedStage;
  keys: readonly OrderRow[];
  onKeys: (rows: readonly OrderRow[]) => void;
}) {
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const write = (next: readonly OrderRow[]) => {
    if (writeOrderKeys(next) !== undefined) onKeys(next);
  };
  const drop = ({ active, over }: DragEndEvent) => {
    if (over !== null && over.id !== active.id) write(arrayMove([...rows], Number(active.id) - 1, Number(over.id) - 1));
  };
  return (
    <>
      <DndContext accessibility={{ container: document.body }} sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={rows.map((_, i) => i + 1)} strategy={verticalListSortingStrategy}>
          {rows.map((row, i) => (
            <KeyLine
              key={i}
              id={i + 1}
              row={row}
              onChange={(next) => write(rows.map((old, k) => (k === i ? next : old)))}
              onRemove={rows.length > 1 ? () => write(rows.filter((_, k) => k !== i)) : undefined}
            />
          ))}
        </SortableContext>
      </DndContext>
      <datalist id="order-fields">
        {fields.map(({ path }) => (
          <option key={path} value={path} />
        ))}
      </datalist>
      <AddButton
        onClick={() =>
          write([
            ...rows,
            { text: fields.find(({ path }) => !rows.some(({ text }) => text === path))?.path ?? '@.id', direction: 'asc', nulls: 'last' },
          ])
        }
      >
        + key
      </AddButton>
    </>
  );
}

function KeyLine({
  id,
  row,
  onChange,
  onRemove,
}: {
  id: number;
  row: OrderRow;
  onChange: (row: OrderRow) => void;
  onRemove: (() => void) | undefined;
}) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return (
    <Box
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}
    >
      <Box
        {...attributes}
        {...listeners}
        aria-label={`Drag key ${id}`}
        sx={{ cursor: 'grab', color: 'text.disabled', mx: '-4px', touchAction: 'none' }}
      >
        <DragIndicatorIcon sx={{ fontSize: 16, display: 'block' }} />
      </Box>
      <Typed
        label="Key"
        value={row.text}
        list="order-fields"
        isSound={(text) => 'key' in parseOrderKeyText(text)}
        onChange={(text) => onChange({ ...row, text })}
      />
      <ToggleButtonGroup
        value={row.direction}
        onChange={(_event, direction: 'asc' | 'desc' | null) => direction && onChange({ ...row, direction })}
        aria-label="Direction"
      >
        <ToggleButton value="asc" title="The least first">
          asc
        </ToggleButton>
        <ToggleButton value="desc" title="The greatest first">
          desc
        </ToggleButton>
      </ToggleButtonGroup>
      <ToggleButtonGroup
        value={row.nulls}
        onChange={(_event, nulls: 'first' | 'last' | null) => nulls && onChange({ ...row, nulls })}
        aria-label="Where missing values go"
      >
        <ToggleButton value="first">nulls first</ToggleButton>
        <ToggleButton value="last">last</ToggleButton>
      </ToggleButtonGroup>
      {onRemove && <RemoveButton label="Remove the key" onClick={onRemove} />}
    </Box>
  );
}
