import Box from '@mui/material/Box';
import type { IndexSuggestion, PlanStep, RunCost } from '@zesty-sieve/contract';
import { headlineOf } from './headline.ts';

/** The plan in short: what costs most, and what would change it. */
export function HeadlineText({ plan, suggestions, cost }: { plan: PlanStep; suggestions: readonly IndexSuggestion[]; cost?: RunCost }) {
  const { costs, change } = headlineOf(plan, suggestions, cost);
  return (
    <Box aria-label="In short" role="note" sx={{ px: 2, py: 1.25, fontSize: 13.5, borderBottom: 1, borderColor: 'divider' }}>
      <b>{costs}</b>{' '}
      <Box component="span" sx={{ color: 'text.secondary' }}>
        {change}
      </Box>
    </Box>
  );
}
