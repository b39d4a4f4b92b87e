import Box from '@mui/material/Box';
import Popover from '@mui/material/Popover';
import { createColumnHelper, flexRender, getCoreRowModel, useReactTable } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { codeFont } from '../../../app/theme.ts';
import { pathText } from '@zesty-sieve/core/language';
import { CellMenu, type CellMenuState } from './CellMenu.tsx';
import { columnsOf, shortText, valueAt } from './columns.ts';
import { JsonView } from './JsonView.tsx';
import type { Rows } from './useRows.ts';

const rowHeight = 31;
const helper = createColumnHelper<unknown>();

interface Opened {
  readonly anchor: HTMLElement;
  readonly value: unknown;
  readonly label: string;
}

/** Rows as a table. Only what is in sight is drawn; nested values open on a click. */
export interface CellActions {
  readonly onCondition: (condition: string) => void;
  readonly onTrace: (identity: string) => void;
}

export function RowTable({ rows, more, isLoading, onCondition, onTrace }: Rows & CellActions) {
  const [menu, setMenu] = useState<CellMenuState | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const [opened, setOpened] = useState<Opened | null>(null);
  const columns = useMemo(() => columnsOf(rows.slice(0, 200)), [rows]);
  const definitions = useMemo(
    () =>
      columns.map(({ id, names }) => {
        const sample = rows.slice(0, 40).map((row) => valueAt(row, names));
        const longest = Math.max(names.join('.').length * 0.95, ...sample.map((value) => shortText(value).length));
        return helper.accessor((row) => valueAt(row, names), {
          id,
          header: names.join('.'),
          size: Math.round(Math.min(320, Math.max(64, longest * 7.4 + 26))),
          meta: {
            numeric:
              sample.every((value) => value === undefined || value === null || typeof value === 'number') &&
              sample.some((value) => typeof value === 'number'),
          },
        });
      }),
    // The widths are those that fitted the first page.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [columns.map(({ id }) => id).join()],
  );
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
  return (
    <Box
      ref={scroller}
      role="table"
      aria-label="Output"
      aria-rowcount={rows.length}
      tabIndex={0}
      sx={{ flex: 1, overflow: 'auto', minHeight: 0, bgcolor: 'background.paper' }}
    >
      <Box sx={{ minWidth: width, width: '100%' }}>
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
          {table.getFlatHeaders().map((header) => (
            <Box
              key={header.id}
              role="columnheader"
              sx={{
                width: header.getSize(),
                flex: 'none',
                position: 'relative',
                px: 1.25,
                fontSize: 11.5,
                fontWeight: 600,
                color: 'text.secondary',
                lineHeight: `${rowHeight}px`,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                whiteSpace: 'nowrap',
                textAlign: isNumeric(header.column.columnDef.meta) ? 'right' : 'left',
              }}
              title={String(header.column.columnDef.header)}
            >
              {flexRender(header.column.columnDef.header, header.getContext())}
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
          ))}
        </Box>
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
              {tableRows[index]?.getVisibleCells().map((cell) => (
                <Cell
                  key={cell.id}
                  value={cell.getValue()}
                  width={cell.column.getSize()}
                  numeric={isNumeric(cell.column.columnDef.meta)}
                  onOpen={(anchor) => setOpened({ anchor, value: cell.getValue(), label: String(cell.column.columnDef.header) })}
                  onMenu={(x, y) =>
                    setMenu({ x, y, value: cell.getValue(), path: pathText(JSON.parse(cell.column.id) as string[]), row: rows[index] })
                  }
                />
              ))}
            </Box>
          ))}
        </Box>
        {isLoading && <Box sx={{ p: 1.5, color: 'text.secondary', fontSize: 12 }}>More rows are on their way …</Box>}
      </Box>
      <CellMenu
        state={menu}
        onClose={() => setMenu(null)}
        onCondition={onCondition}
        onTrace={onTrace}
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

function isNumeric(meta: unknown): boolean {
  return (meta as { numeric?: boolean } | undefined)?.numeric === true;
}

const cellStyle = {
  flex: 'none',
  px: 1.25,
  fontFamily: codeFont,
  fontVariantLigatures: 'none',
  fontSize: 12,
  lineHeight: `${rowHeight - 1}px`,
  overflow: 'hidden',
  textOverflow: 'ellipsis',
  whiteSpace: 'nowrap',
} as const;

function Cell({
  value,
  width,
  numeric,
  onOpen,
  onMenu,
}: {
  value: unknown;
  width: number;
  numeric: boolean;
  onOpen: (anchor: HTMLElement) => void;
  onMenu: (x: number, y: number) => void;
}) {
  const nested = typeof value === 'object' && value !== null;
  const text = shortText(value);
  const opens = nested || text.length > 40;
  const faint = nested || value === null;
  return (
    <Box
      role="cell"
      onContextMenu={(event: React.MouseEvent) => {
        event.preventDefault();
        onMenu(event.clientX, event.clientY);
      }}
      {...(opens && {
        component: 'button',
        type: 'button',
        title: 'Open the whole value',
        onClick: (event: React.MouseEvent<HTMLElement>) => onOpen(event.currentTarget),
      })}
      sx={{
        ...(opens && {
          all: 'unset',
          boxSizing: 'border-box',
          cursor: 'pointer',
          '&:hover': { textDecoration: 'underline dotted' },
          '&:focus-visible': { outline: 'auto' },
        }),
        ...cellStyle,
        width,
        textAlign: numeric ? 'right' : 'left',
        color: faint ? 'text.secondary' : 'text.primary',
      }}
    >
      {text}
    </Box>
  );
}
