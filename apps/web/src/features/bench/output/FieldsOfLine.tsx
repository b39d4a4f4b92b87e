import Box from '@mui/material/Box';
import type { FieldChanges } from '@zesty-sieve/core/language';

const shown = 12;

/** Which fields the line at the cursor has added, changed and dropped. */
export function FieldsOfLine({ changes }: { changes: FieldChanges | undefined }) {
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
    </Box>
  );
}

function listed(paths: readonly string[]): string {
  return paths.slice(0, shown).join(', ') + (paths.length > shown ? ` and ${paths.length - shown} more` : '');
}
