import Box, { type BoxProps } from '@mui/material/Box';
import type { SxProps, Theme } from '@mui/material/styles';
import visuallyHidden from '@mui/utils/visuallyHidden';
import { isValidElement, type ReactNode } from 'react';

export interface GridColumn<Id extends string = string> {
  readonly id: Id;
  readonly head: string;
  /** As a track of a CSS grid. */
  readonly width: string;
  /** Figures stand at the end, so that they can be compared. */
  readonly isFigure?: boolean;
  /** The head is there for those who hear it alone. */
  readonly isHeadHidden?: boolean;
}

/** What stands in a cell, perhaps with how it looks and its title. */
export type GridCell = ReactNode | { readonly shown: ReactNode; readonly sx?: SxProps<Theme>; readonly title?: string | undefined };

/** Distances of a table: between columns and before the first, in units of the theme. */
export interface GridLook {
  readonly gap: number;
  readonly indent: number;
}
const usualLook: GridLook = { gap: 1.5, indent: 2.5 };

const tracks = (columns: readonly GridColumn[], { gap, indent }: GridLook) =>
  ({
    display: 'grid',
    gridTemplateColumns: columns.map(({ width }) => width).join(' '),
    columnGap: gap,
    px: indent,
    alignItems: 'center',
    borderBottom: 1,
    borderColor: 'divider',
  }) as const;

interface GridHeadProps {
  readonly columns: readonly GridColumn[];
  readonly look?: GridLook;
  /** Whether it stays in sight while rows are scrolled under it. */
  readonly isSticky?: boolean;
}

/** The heads of the columns of a table (`role="table"`), whose rows are `GridRow`s of the same columns. */
export function GridHead({ columns, look = usualLook, isSticky = false }: GridHeadProps) {
  return (
    <Box
      role="row"
      sx={{
        ...tracks(columns, look),
        height: 30,
        fontSize: 11.5,
        fontWeight: 600,
        color: 'text.secondary',
        ...(isSticky && { position: 'sticky', top: 0, zIndex: 1, bgcolor: 'background.paper' }),
      }}
    >
      {columns.map(({ id, head, isFigure, isHeadHidden }) => (
        // A head that is only heard is placed in it: it would make the page wider from outside of what scrolls.
        <Box key={id} role="columnheader" sx={{ position: 'relative', ...(isFigure && { textAlign: 'right' }) }}>
          {isHeadHidden ? <span style={visuallyHidden}>{head}</span> : head}
        </Box>
      ))}
    </Box>
  );
}

interface GridRowProps<Id extends string> extends Omit<BoxProps, 'role' | 'children'> {
  readonly columns: readonly GridColumn<Id>[];
  /** By column; those of columns that are not shown are left out. */
  readonly cells: Readonly<Record<Id, GridCell>>;
  readonly look?: GridLook;
}

/** A row of a table. With `onClick`, one of its cells holds a button, by which it can be reached without a pointer. */
export function GridRow<Id extends string>({ columns, cells, look = usualLook, sx, onClick, ...others }: GridRowProps<Id>) {
  return (
    <Box
      {...others}
      role="row"
      onClick={onClick}
      sx={styles(tracks(columns, look), onClick !== undefined && { cursor: 'pointer', '&:hover': { bgcolor: (t) => t.roles.form } }, sx)}
    >
      {columns.map(({ id, isFigure }) => {
        const cell = cells[id];
        const { shown, sx: own, title } = isDressed(cell) ? cell : { shown: cell };
        return (
          <Box key={id} role="cell" title={title} sx={styles(isFigure === true && { textAlign: 'right' }, own)}>
            {shown}
          </Box>
        );
      })}
    </Box>
  );
}

/** Styles of which the later win. */
function styles(...given: readonly (SxProps<Theme> | false | undefined)[]): SxProps<Theme> {
  return given.filter((one) => one !== false && one !== undefined).flat() as SxProps<Theme>;
}

function isDressed(cell: GridCell): cell is Exclude<GridCell, ReactNode> {
  return typeof cell === 'object' && cell !== null && !isValidElement(cell) && 'shown' in cell;
}
