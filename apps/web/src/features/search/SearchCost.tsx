import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { QueryAnswer } from '@zesty-sieve/contract';
import { Approximate } from '../../parts/Approximate.tsx';
import { count, counted, duration, percent } from '../../parts/numbers.ts';
import { IndexKeys } from '../../parts/plan/IndexKeys.tsx';
import { indexesOf, kindText } from '../../parts/plan/indexNames.ts';
import { capital, inWorkOrder, roleOf } from '../../parts/plan/steps.ts';

/** What the search cost, and the index that would make it cheaper. */
export function SearchCost({ answer: { cost, plan, suggestions, approximate } }: { readonly answer: QueryAnswer }) {
  const { roles } = useTheme();
  const steps = inWorkOrder(plan).filter(({ timeMs }) => (timeMs ?? 0) > 0);
  const total = steps.reduce((sum, { timeMs }) => sum + (timeMs ?? 0), 0);
  const [suggestion] = suggestions;
  return (
    <Box component="footer" aria-label="What the search cost" sx={{ flex: 'none', minHeight: 62, px: 2.5, py: 1, display: 'flex', gap: 3, alignItems: 'center', borderTop: 1, borderColor: 'divider', bgcolor: 'background.paper' }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ fontSize: 15, fontWeight: 650 }}>
          Read {cost.indexEntriesRead > 0 && `${counted(cost.indexEntriesRead, 'index entry', 'index entries')} and `}
          {counted(cost.documentsRead, 'document')} to return {count(cost.rowsReturned)}.{approximate && <Approximate approximate={approximate} />}
        </Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
          {duration(cost.timeMs)}
          {suggestion && (
            <>
              {' '}
              · {kindText(indexesOf(suggestion))} on <IndexKeys indexes={indexesOf(suggestion)} /> would read about {count(suggestion.documentsRead)}
            </>
          )}
        </Box>
      </Box>
      <Box sx={{ width: 420, minWidth: 0 }}>
        <Box sx={{ display: 'flex', height: 12, borderRadius: 1, overflow: 'hidden' }}>
          {steps.map((step, i) => (
            <Box key={i} title={`${step.step}: ${duration(step.timeMs ?? 0)}`} sx={{ width: `${((step.timeMs ?? 0) / total) * 100}%`, bgcolor: roles[roleOf(step.step)], borderRight: i < steps.length - 1 ? `1px solid ${roles.surface}` : 0 }} />
          ))}
        </Box>
        <Box sx={{ fontSize: 12, mt: 0.5, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {[...steps].sort((a, b) => (b.timeMs ?? 0) - (a.timeMs ?? 0)).slice(0, 3).map((step) => `${capital(step.step)} ${percent((step.timeMs ?? 0) / total)}`).join(' · ')}
        </Box>
      </Box>
    </Box>
  );
} // prettier-ignore
