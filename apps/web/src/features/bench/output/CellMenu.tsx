import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useSnackbar } from 'notistack';
import type { CellActions } from './RowTable.tsx';

export interface CellMenuState {
  readonly x: number;
  readonly y: number;
  readonly value: unknown;
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
export function CellMenu({ state, onClose, onCondition, onTrace, onOpen }: CellMenuProps) {
  const { enqueueSnackbar } = useSnackbar();
  if (state === null) return null;
  const { value, path, row } = state;
  const plain = value === undefined || value === null || typeof value !== 'object';
  const literal = value === undefined ? undefined : JSON.stringify(value);
  const identity = (row as { id?: unknown } | null)?.id;
  const copy = (text: string) => void navigator.clipboard.writeText(text).then(() => enqueueSnackbar('Copied.'), () => enqueueSnackbar('The browser does not let this page copy.', { variant: 'error' })); // prettier-ignore
  const does = (work: () => void) => () => {
    work();
    onClose();
  };
  return (
    <Menu open onClose={onClose} anchorReference="anchorPosition" anchorPosition={{ top: state.y, left: state.x }}>
      <MenuItem onClick={does(() => copy(typeof value === 'string' ? value : (literal ?? '')))}>Copy the value</MenuItem>
      <MenuItem onClick={does(() => copy(path))}>Copy its path, {path}</MenuItem>
      {plain && (
        <MenuItem onClick={does(() => onCondition(literal === undefined ? `!${path}` : `${path} == ${literal}`))}>
          Keep only rows like this
        </MenuItem>
      )}
      {plain && (
        <MenuItem onClick={does(() => onCondition(literal === undefined ? path : `${path} != ${literal}`))}>Leave such rows out</MenuItem>
      )}
      <MenuItem onClick={does(() => onOpen(row))}>Open the whole row</MenuItem>
      <MenuItem onClick={does(() => copy(JSON.stringify(row, null, 2)))}>Copy the row as JSON</MenuItem>
      {(typeof identity === 'string' || typeof identity === 'number') && (
        <MenuItem onClick={does(() => onTrace(String(identity)))}>Trace this document</MenuItem>
      )}
    </Menu>
  );
}
