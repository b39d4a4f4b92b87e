import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable';
import Box from '@mui/material/Box';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import type { Header } from '@tanstack/react-table';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../../../app/store.ts';
import { useCopy } from '../../../../parts/useCopy.ts';
import { columnsChosen } from '../../../../state/bench/benchSlice.ts';
import { plainColumns } from '../../../../state/bench/benchState.ts';
import { columnId } from '../../../../parts/documents/columns.ts';
import { FieldLifeDialog } from '../FieldLifeDialog.tsx';
import { marks, useFieldMark } from '../lineChanges.ts';
import { isNumeric, rowHeight } from './Cell.tsx';
import type { Across } from './useAcross.ts';
import { writtenPath } from './writtenPath.ts';

type ColumnHeader = Header<unknown, unknown>;

interface HeaderRowProps {
  readonly headers: readonly ColumnHeader[];
  /** Those in sight. */
  readonly shown: Across;
  readonly rows: readonly unknown[];
  /** Adds a line to the pipeline. */
  readonly onStage: (stage: string) => void;
}

/** The heads of the columns: dragged to another place, widened, and with a menu each. */
export function HeaderRow({ headers, shown, rows, onStage }: HeaderRowProps) {
  const dispatch = useAppDispatch();
  const [life, setLife] = useState<string | null>(null);
  const [menu, setMenu] = useState<{ anchor: HTMLElement; header: ColumnHeader } | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = headers.map(({ id }) => id);
  const drop = ({ active, over }: DragEndEvent) => {
    if (over === null || active.id === over.id) return;
    dispatch(columnsChosen({ order: arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))) }));
  };
  return (
    <>
      <DndContext accessibility={{ container: document.body }} sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={ids.slice(shown.from, shown.to)} strategy={horizontalListSortingStrategy}>
          <Box
            role="row"
            sx={{
              display: 'flex',
              position: 'sticky',
              top: 0,
              zIndex: 1,
              bgcolor: 'background.paper',
              borderBottom: 1,
              borderColor: 'divider',
              height: rowHeight,
            }}
          >
            <Box sx={{ width: shown.left, flex: 'none' }} />
            {headers.slice(shown.from, shown.to).map((header, at) => (
              <Head key={header.id} at={shown.from + at + 1} header={header} onMenu={(anchor) => setMenu({ anchor, header })} />
            ))}
          </Box>
        </SortableContext>
      </DndContext>
      {life && (
        <FieldLifeDialog
          path={writtenPath(life)}
          names={(JSON.parse(life) as (string | number)[]).filter((name) => typeof name === 'string')}
          onClose={() => setLife(null)}
        />
      )}
      <HeaderMenu onLife={setLife} menu={menu} ids={ids} rows={rows} onStage={onStage} onClose={() => setMenu(null)} />
    </>
  );
}

function Head({ at, header, onMenu }: { at: number; header: ColumnHeader; onMenu: (anchor: HTMLElement) => void }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id: header.id });
  const label = String(header.column.columnDef.header);
  const mark = useFieldMark()(JSON.parse(header.id) as (string | number)[]);
  return (
    <Box
      ref={setNodeRef}
      role="columnheader"
      aria-colindex={at}
      style={transform ? { transform: `translateX(${transform.x}px)` } : undefined}
      sx={{ width: header.getSize(), flex: 'none', position: 'relative', zIndex: isDragging ? 2 : 0, bgcolor: 'background.paper' }}
    >
      <Box
        component="button"
        type="button"
        {...attributes}
        {...listeners}
        role="button"
        title={`${label}${mark ? `, ${marks[mark].means}` : ''}: click for more, drag to move`}
        aria-description={mark && marks[mark].means}
        onClick={(event: React.MouseEvent<HTMLElement>) => onMenu(event.currentTarget)}
        sx={{
          all: 'unset',
          boxSizing: 'border-box',
          width: '100%',
          px: 1.25,
          cursor: 'pointer',
          fontSize: 11.5,
          fontWeight: 600,
          color: 'text.secondary',
          lineHeight: `${rowHeight}px`,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
          textAlign: isNumeric(header.column.columnDef.meta) ? 'right' : 'left',
          ...(mark && { color: 'secondary.main', '&::before': { content: `"${marks[mark].sign} "`, fontWeight: 800 } }),
          '&:hover': { color: 'text.primary' },
          '&:focus-visible': { outline: 'auto' },
        }}
      >
        {label}
      </Box>
      <Box
        onMouseDown={header.getResizeHandler()}
        onDoubleClick={() => header.column.resetSize()}
        sx={{
          position: 'absolute',
          right: 0,
          top: 7,
          bottom: 7,
          width: 5,
          cursor: 'col-resize',
          borderRight: '1px solid',
          borderColor: header.column.getIsResizing() ? 'text.primary' : 'divider',
          '&:hover': { borderColor: 'text.secondary' },
        }}
      />
    </Box>
  );
}

function HeaderMenu({
  onLife,
  menu,
  ids,
  rows,
  onStage,
  onClose,
}: {
  onLife: (column: string) => void;
  menu: { anchor: HTMLElement; header: ColumnHeader } | null;
  ids: readonly string[];
  rows: readonly unknown[];
  onStage: (stage: string) => void;
  onClose: () => void;
}) {
  const choices = useAppSelector(({ bench }) => bench.columns);
  const dispatch = useAppDispatch();
  const copy = useCopy();
  if (menu === null) return null;
  const { id } = menu.header;
  const names = JSON.parse(id) as (string | number)[];
  const at = ids.indexOf(id);
  const values = rows.map((row) => menu.header.column.accessorFn?.(row, 0));
  const isSpread = choices.spread.includes(id);
  const hasLists = !isSpread && values.some((value) => Array.isArray(value) && value.length > 0);
  // The innermost array that was spread to make this column, and the object that it is a field of.
  const lists = names.flatMap((name, i) => (typeof name === 'number' ? [columnId(names.slice(0, i))] : []));
  const list = isSpread ? id : lists.findLast((one) => choices.spread.includes(one));
  const object = names.length > 1 && typeof names[names.length - 1] === 'string' ? columnId(names.slice(0, -1)) : undefined;
  const path = writtenPath(id);
  const does = (work: () => void) => () => {
    work();
    onClose();
  };
  const choose = (change: Partial<typeof choices>) => does(() => dispatch(columnsChosen(change)));
  const move = (by: number) => {
    const order = [...ids];
    [order[at], order[at + by]] = [order[at + by]!, order[at]!];
    return choose({ order });
  };
  return (
    <Menu open anchorEl={menu.anchor} onClose={onClose}>
      <MenuItem onClick={does(() => onStage(`order by ${path}`))}>Order by it, asc</MenuItem>
      <MenuItem onClick={does(() => onStage(`order by ${path} desc`))}>Order by it, desc</MenuItem>
      <MenuItem onClick={does(() => onLife(id))}>Where it comes from</MenuItem>
      {hasLists && <MenuItem onClick={choose({ spread: [...choices.spread, id] })}>Spread its elements into columns</MenuItem>}
      {choices.folded.includes(id) && (
        <MenuItem onClick={choose({ folded: choices.folded.filter((one) => one !== id) })}>Spread its fields into columns</MenuItem>
      )}
      {list !== undefined && (
        <MenuItem onClick={choose({ spread: choices.spread.filter((one) => one !== list) })}>
          Put the elements of {writtenPath(list)} together
        </MenuItem>
      )}
      {object !== undefined && (
        <MenuItem onClick={choose({ folded: [...choices.folded, object] })}>Put the fields of {writtenPath(object)} together</MenuItem>
      )}
      {at > 0 && <MenuItem onClick={move(-1)}>Move left</MenuItem>}
      {at < ids.length - 1 && <MenuItem onClick={move(1)}>Move right</MenuItem>}
      <MenuItem onClick={choose({ hidden: [...choices.hidden, id] })} disabled={ids.length < 2}>
        Hide the column
      </MenuItem>
      {choices.hidden.length + choices.order.length + choices.spread.length + choices.folded.length > 0 && (
        <MenuItem onClick={choose(plainColumns)}>All columns as they come</MenuItem>
      )}
      <MenuItem
        onClick={does(() => copy(values.map((value) => (typeof value === 'string' ? value : (JSON.stringify(value) ?? ''))).join('\n')))}
      >
        Copy the column, a value a line
      </MenuItem>
      <MenuItem onClick={does(() => copy(JSON.stringify(values.map((value) => value ?? null))))}>Copy the column as JSON</MenuItem>
      <MenuItem onClick={does(() => copy(path))}>Copy its path, {path}</MenuItem>
    </Menu>
  );
}
