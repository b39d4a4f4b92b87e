import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { PlanStep } from '@zesty-sieve/contract';
import { usualSurface } from '@zesty-sieve/core/language';
import { useAppSelector } from '../../../app/store.ts';
import { count } from '../../../parts/numbers.ts';
import { inWorkOrder } from '../../../parts/plan/steps.ts';
import { Heading } from '../../../parts/plan/WayList.tsx';

/** Rows that are skipped before anyone would call it deep. */
const deep = 1_000;

/** Where many rows are put in order only to be skipped: how to go on after the last row seen instead. */
export function DeepPage({ plan, lastRow, onAfter }: { plan: PlanStep; lastRow: unknown; onAfter: (row: unknown) => void }) {
  const isOrdered = useAppSelector(({ bench }) =>
    usualSurface.parse(bench.text).stages.some(({ stage, off }) => stage?.kind === 'order' && !off),
  );
  const skipped = inWorkOrder(plan).find(({ step }) => step === 'offset')?.rowCount ?? 0;
  if (!isOrdered || skipped < deep) return null;
  return (
    <Box component="section" aria-label="A deep page">
      <Heading>A deep page</Heading>
      <Box sx={{ px: 2, fontSize: 12.5, color: 'text.secondary', display: 'flex', gap: 2, alignItems: 'center' }}>
        <Box sx={{ flex: 1 }}>
          {count(skipped)} rows are found and put in order only to be skipped, more with each page. A pipeline that goes on after the last
          row seen asks for what comes after that row’s keys instead: nothing is counted off, and no row comes twice when others are added.
        </Box>
        <Button
          variant="outlined"
          disabled={lastRow === undefined}
          onClick={() => onAfter(lastRow)}
          title={lastRow === undefined ? 'There is no row to go on after yet' : undefined}
        >
          Go on after the last row here
        </Button>
      </Box>
    </Box>
  );
}
