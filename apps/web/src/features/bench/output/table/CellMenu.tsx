import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useAppDispatch, useAppSelector } from '../../../../app/store.ts';
import { useCopy } from '../../../../parts/useCopy.ts';
import { columnsChosen, draftedOn } from '../../../../state/bench/benchSlice.ts';

/** What the menus of the table can ask of the Bench. */
export interface CellActions {
  /** Adds a line to the pipeline. */
  readonly onStage: (stage: string) => void;
  readonly onTrace: (identity: string) => void;
  /** Shows the documents that a row comes from. */
  readonly onOrigins: (row: unknown) => void;
  /** Goes on from a row that was seen. */
  readonly onAfter: (row: unknown) => void;
}

export interface CellMenuState {
  readonly x: number;
  readonly y: number;
  readonly value: unknown;
  readonly column: string;
  /** The path of the cell as it is written. */
  readonly path: string;
  readonly row: unknown;
}

interface CellMenuProps extends CellActions {
  readonly state: CellMenuState | null;
  readonly onClose: () => void;
  readonly onOpen: (row: unknown) => void;
}

/** What can be done with a cell: copied, asked for, left out, opened, traced. */
export function CellMenu({ state, onClose, onStage, onTrace, onAfter, onOrigins, onOpen }: CellMenuProps) {
  const copy = useCopy();
  const dispatch = useAppDispatch();
  const { spread } = useAppSelector(({ bench }) => bench.columns);
  const drafted = useAppSelector(({ bench }) => bench.only);
  if (state === null) return null;
  const { value, path, row, column } = state;
  const plain = value === undefined || value === null || typeof value !== 'object';
  const literal = value === undefined ? undefined : JSON.stringify(value);
  const identity = (row as { id?: unknown } | null)?.id;
  const does = (work: () => void) => () => {
    work();
    onClose();
  };
  return (
    <Menu open onClose={onClose} anchorReference="anchorPosition" anchorPosition={{ top: state.y, left: state.x }}>
      <MenuItem onClick={does(() => copy(typeof value === 'string' ? value : (literal ?? '')))}>Copy the value</MenuItem>
      <MenuItem onClick={does(() => copy(path))}>Copy its path, {path}</MenuItem>
      {plain && (
        <MenuItem onClick={does(() => onStage(`where ${literal === undefined ? `!${path}` : `${path} == ${literal}`}`))}>
          Keep only rows like this
        </MenuItem>
      )}
      {plain && (
        <MenuItem onClick={does(() => onStage(`where ${literal === undefined ? path : `${path} != ${literal}`}`))}>
          Leave such rows out
        </MenuItem>
      )}
      {Array.isArray(value) && value.length > 0 && !spread.includes(column) && (
        <MenuItem onClick={does(() => dispatch(columnsChosen({ spread: [...spread, column] })))}>Spread its elements into columns</MenuItem>
      )}
      <MenuItem onClick={does(() => onOpen(row))}>Open the whole row</MenuItem>
      <MenuItem onClick={does(() => copy(JSON.stringify(row, null, 2)))}>Copy the row as JSON</MenuItem>
      <MenuItem onClick={does(() => onAfter(row))}>Rows after this one</MenuItem>
      <MenuItem onClick={does(() => onOrigins(row))}>Documents behind this row</MenuItem>
      {(typeof identity === 'string' || typeof identity === 'number') && (
        <MenuItem onClick={does(() => onTrace(String(identity)))}>Trace this document</MenuItem>
      )}
      {(typeof identity === 'string' || typeof identity === 'number') && (
        <MenuItem onClick={does(() => dispatch(draftedOn([...new Set([...drafted, identity])])))}>
          {drafted.length === 0 ? 'Draft on this document alone' : 'Draft on this document too'}
        </MenuItem>
      )}
    </Menu>
  );
}
