import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { columnsChosen } from '../../../state/bench/benchSlice.ts';
import type { LineChange } from './lineChanges.ts';

const shown = 12;

/** Which fields the line at the cursor has added, changed and dropped. */
export function FieldsOfLine({ changes }: { changes: LineChange | undefined }) {
  const dispatch = useAppDispatch();
  const { addedFirst, order } = useAppSelector(({ bench }) => bench.columns);
  if (changes === undefined) return null;
  const parts = [
    { word: 'added', paths: changes.added },
    { word: 'changed', paths: changes.changed },
    { word: 'dropped', paths: changes.dropped },
  ].filter(({ paths }) => paths.length > 0);
  if (parts.length === 0) return null;
  return (
    <Box
      role="note"
      aria-label="Fields of this line"
      sx={{ px: 2, py: 0.5, fontSize: 12, borderBottom: 1, borderColor: 'divider', bgcolor: (t) => t.roles.form, color: 'text.secondary' }}
    >
      {parts.map(({ word, paths }) => (
        <span key={word}>
          {word} <code>{listed(paths)}</code>{' '}
        </span>
      ))}
      {changes.adds && changes.added.length > 0 && order.length === 0 && (
        <Button
          size="small"
          onClick={() => dispatch(columnsChosen({ addedFirst: !addedFirst }))}
          sx={{ py: 0, px: 0.75, minWidth: 0, fontSize: 12, fontWeight: 500 }}
        >
          {addedFirst ? 'columns in their own order' : 'added columns first'}
        </Button>
      )}
    </Box>
  );
}

function listed(paths: readonly string[]): string {
  return paths.slice(0, shown).join(', ') + (paths.length > shown ? ` and ${paths.length - shown} more` : '');
}
