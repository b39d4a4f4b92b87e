import Box from '@mui/material/Box';
import type { PlanAnswer } from '@zesty-sieve/contract';
import { Lines } from './StepTable.tsx';
import { capital } from './steps.ts';

/** What was done to the pipeline to give the same for less, with the lines that it is about. */
export function RewriteList({ rewrites }: { rewrites: PlanAnswer['rewrites'] }) {
  return rewrites.map(({ rule, detail, lines }, i) => (
    <Box
      key={i}
      sx={{ px: 2, py: 0.6, fontSize: 12.5, borderBottom: 1, borderColor: 'divider', display: 'flex', gap: 1, alignItems: 'baseline' }}
    >
      <Lines lines={lines} />
      <span>
        <b>{capital(rule)}</b>: {detail}
      </span>
    </Box>
  ));
}
