import Box from '@mui/material/Box';
import Popover from '@mui/material/Popover';
import { getCoreRowModel, useReactTable } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { JsonView } from '../../../../parts/JsonView.tsx';
import type { Rows } from '../../../../parts/documents/useRows.ts';
import { Cell, isNumeric, rowHeight } from './Cell.tsx';
import { CellMenu, type CellActions, type CellMenuState } from './CellMenu.tsx';
import { HeaderRow } from './HeaderRow.tsx';
import { useAcross } from './useAcross.ts';
import { useColumnDefinitions } from './useColumnDefinitions.ts';
import { writtenPath } from './writtenPath.ts';

interface Opened {
  readonly anchor: HTMLElement;
  readonly value: unknown;
  readonly label: string;
}

/** Rows as a table. Only what is in sight is drawn; nested values open on a click. */
export function RowTable({ rows, more, isLoading, ...actions }: Rows & CellActions) {
  const [menu, setMenu] = useState<CellMenuState | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const [opened, setOpened] = useState<Opened | null>(null);
  const definitions = useColumnDefinitions(rows);
  const table = useReactTable({
    data: rows as unknown[],
    columns: definitions,
    getCoreRowModel: getCoreRowModel(),
    columnResizeMode: 'onChange',
  });
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastSeen = items[items.length - 1]?.index ?? 0;
  useEffect(() => {
    if (lastSeen >= rows.length - 30) more();
  }, [lastSeen, rows.length, more]);

  const width = table.getTotalSize();
  const tableRows = table.getRowModel().rows;
  const columns = table.getVisibleLeafColumns();
  const across = useAcross(columns, scroller);
  return (
    <Box
      ref={scroller}
      role="table"
      aria-label="Output"
      aria-rowcount={rows.length}
      aria-colcount={columns.length}
      tabIndex={0}
      sx={{ flex: 1, overflow: 'auto', minHeight: 0, bgcolor: 'background.paper' }}
    >
      <Box sx={{ minWidth: width, width: '100%' }}>
        <HeaderRow headers={table.getFlatHeaders()} shown={across} rows={rows} onStage={actions.onStage} />
        <Box sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map(({ index, start }) => (
            <Box
              key={index}
              role="row"
              aria-rowindex={index + 1}
              sx={{
                position: 'absolute',
                top: start,
                left: 0,
                right: 0,
                height: rowHeight,
                display: 'flex',
                borderBottom: 1,
                borderColor: 'divider',
                '&:hover': { bgcolor: (t) => t.roles.form },
              }}
            >
              <Box sx={{ width: across.left, flex: 'none' }} />
              {columns.slice(across.from, across.to).map((column, at) => {
                const value = tableRows[index]?.getValue(column.id);
                return (
                  <Cell
                    key={column.id}
                    at={across.from + at + 1}
                    value={value}
                    width={column.getSize()}
                    numeric={isNumeric(column.columnDef.meta)}
                    onOpen={(anchor) => setOpened({ anchor, value, label: String(column.columnDef.header) })}
                    onMenu={(x, y) => setMenu({ x, y, value, column: column.id, path: writtenPath(column.id), row: rows[index] })}
                  />
                );
              })}
            </Box>
          ))}
        </Box>
        {isLoading && <Box sx={{ p: 1.5, color: 'text.secondary', fontSize: 12 }}>More rows are on their way …</Box>}
      </Box>
      <CellMenu
        {...actions}
        state={menu}
        onClose={() => setMenu(null)}
        onOpen={(value) => scroller.current && setOpened({ anchor: scroller.current, value, label: 'The whole row' })}
      />
      <Popover
        open={opened !== null}
        anchorEl={opened?.anchor}
        onClose={() => setOpened(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ p: 1.75, maxWidth: 520, maxHeight: 420, overflow: 'auto' }}>
          <Box sx={{ fontSize: 12, fontWeight: 600, color: 'text.secondary', pb: 0.75 }}>{opened?.label}</Box>
          <JsonView value={opened?.value} open={3} />
        </Box>
      </Popover>
    </Box>
  );
}
