import Box from '@mui/material/Box';
import type { CheckedStage } from '@zesty-sieve/core/language';
import { offeredFields } from '../form/fields.ts';

const shown = 12;

/** Which fields the line at the cursor has added, and which it has dropped. */
export function FieldChanges({ checked }: { checked: CheckedStage }) {
  const { before, after, placed } = checked;
  if (before.open || after.open || placed.stage === undefined || placed.stage.kind === 'from') return null;
  const paths = (tree: typeof before) => new Set(offeredFields(tree).map(({ path }) => path));
  const [were, are] = [paths(before), paths(after)];
  const added = [...are].filter((path) => !were.has(path));
  const dropped = [...were].filter((path) => !are.has(path));
  if (added.length === 0 && dropped.length === 0) return null;
  return (
    <Box
      role="note"
      aria-label="Fields of this line"
      sx={{ px: 2, py: 0.5, fontSize: 12, borderBottom: 1, borderColor: 'divider', bgcolor: (t) => t.roles.form, color: 'text.secondary' }}
    >
      {added.length > 0 && (
        <span>
          added <code>{listed(added)}</code>{' '}
        </span>
      )}
      {dropped.length > 0 && (
        <span>
          dropped <code>{listed(dropped)}</code>
        </span>
      )}
    </Box>
  );
}

function listed(paths: readonly string[]): string {
  return paths.slice(0, shown).join(', ') + (paths.length > shown ? ` and ${paths.length - shown} more` : '');
}
