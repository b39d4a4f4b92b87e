import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import { useEffect, useRef } from 'react';
import { useAppDispatch } from '../../../app/store.ts';
import { veil } from '../../../app/theme.ts';
import { IndexKeys } from '../../../parts/plan/IndexKeys.tsx';
import { FigurePair } from '../../../parts/FigurePair.tsx';
import { count, counted, duration } from '../../../parts/numbers.ts';
import { compared } from '../../../state/bench/benchSlice.ts';
import type { Comparison } from '../../../state/bench/benchState.ts';

/** Before and after an index was built, measured in turn on the same question. */
export function ComparisonView({ comparison }: { comparison: Comparison }) {
  const dispatch = useAppDispatch();
  const { indexes, measurement } = comparison;
  const { without, with: using, rowsReturned, sameSet, sameOrder } = measurement;
  const times = without.timesMs.length;
  const section = useRef<HTMLElement>(null);
  // What was asked for by a button further down stands at the top of the plan.
  useEffect(() => {
    // What scrolling gives back, a promise by now, is no way to end it.
    void section.current?.scrollIntoView({ block: 'nearest' });
  }, [comparison]);
  const verdict = sameOrder ? 'the same rows in the same order' : sameSet ? 'the same rows, ordered differently' : 'the rows differ';
  return (
    <Box
      component="section"
      ref={section}
      aria-label="Before and after"
      sx={{ px: 2, pt: 1.5, pb: 1.75, borderBottom: 1, borderColor: 'divider', bgcolor: (t) => veil(t.roles.index, 0.045) }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Box component="h3" sx={{ m: 0, fontSize: 13, fontWeight: 700 }}>
          With the {indexes.length === 1 ? 'index' : 'indexes'}, against without
        </Box>
        <Box sx={{ fontSize: 12 }}>
          <IndexKeys indexes={indexes.map((keys) => ({ keys }))} />
        </Box>
        <Box sx={{ flex: 1 }} />
        <IconButton size="small" aria-label="Close the comparison" onClick={() => dispatch(compared(null))} sx={{ p: 0.25 }}>
          <CloseIcon sx={{ fontSize: 16 }} />
        </IconButton>
      </Box>
      <Box sx={{ fontSize: 12, color: sameSet ? 'text.secondary' : 'error.main', pb: 1 }}>
        {counted(rowsReturned, 'row')}: {verdict}
      </Box>
      <FigurePair label="documents read" before={without.documentsRead} after={using.documentsRead} show={count} />
      <FigurePair label={`time, median of ${times}`} before={without.medianMs} after={using.medianMs} show={duration} />
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        in turn; without {spread(without.timesMs)}, with {spread(using.timesMs)}
      </Box>
    </Box>
  );
}

function spread(times: readonly number[]): string {
  return `${duration(Math.min(...times))} to ${duration(Math.max(...times))}`;
}
