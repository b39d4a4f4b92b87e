import Box from '@mui/material/Box';
import type { IndexInfo } from '@zesty-sieve/contract';
import { useIndexSummaryQuery } from '../../api/indexes.ts';
import { problemText } from '../../api/problems.ts';
import { viewOfKind } from './kinds/registry.ts';

/** What an index knows of its values, as its kind tells it. */
export function IndexValues({ collection, index }: { collection: string; index: IndexInfo }) {
  const { data, error } = useIndexSummaryQuery({ collection, name: index.name });
  const { Summary } = viewOfKind(index.kind);
  return (
    <Box
      role="region"
      aria-label={`Values of ${index.name}`}
      sx={{ px: 2.5, py: 1.25, bgcolor: (t) => t.roles.form, borderBottom: 1, borderColor: 'divider', fontSize: 12.5 }}
    >
      {error !== undefined && <Box sx={{ color: 'error.main' }}>{problemText(error)}</Box>}
      {data && <Summary collection={collection} index={index} summary={data} />}
    </Box>
  );
}
