import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import { useAppDispatch } from '../../../app/store.ts';
import { codeFont, veil } from '../../../app/theme.ts';
import { count, counted, duration } from '../../../parts/numbers.ts';
import { compared, type Comparison } from '../state/benchSlice.ts';

/** Before and after an index was built, measured in turn on the same question. */
export function ComparisonView({ comparison }: { comparison: Comparison }) {
  const dispatch = useAppDispatch();
  const { keys, measurement } = comparison;
  const { without, with: using, rowsReturned, sameSet, sameOrder } = measurement;
  const times = without.timesMs.length;
  const verdict = sameOrder ? 'the same rows in the same order' : sameSet ? 'the same rows, ordered differently' : 'the rows differ';
  return (
    <Box
      component="section"
      aria-label="Before and after"
      sx={{ px: 2, pt: 1.5, pb: 1.75, borderBottom: 1, borderColor: 'divider', bgcolor: (t) => veil(t.roles.index, 0.045) }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Box component="h3" sx={{ m: 0, fontSize: 13, fontWeight: 700 }}>
          With the index, against without
        </Box>
        <Box component="code" sx={{ fontSize: 12, fontFamily: codeFont, color: (t) => t.roles.index }}>
          {keys.join(', ')}
        </Box>
        <Box sx={{ flex: 1 }} />
        <IconButton size="small" aria-label="Close the comparison" onClick={() => dispatch(compared(null))} sx={{ p: 0.25 }}>
          <CloseIcon sx={{ fontSize: 16 }} />
        </IconButton>
      </Box>
      <Box sx={{ fontSize: 12, color: sameSet ? 'text.secondary' : 'error.main', pb: 1 }}>
        {counted(rowsReturned, 'row')}: {verdict}
      </Box>
      <Pair label="documents read" before={without.documentsRead} after={using.documentsRead} show={count} />
      <Pair
        label={`time, median of ${times}`}
        before={without.medianMs}
        after={using.medianMs}
        show={duration}
        title={`Without: ${spread(without.timesMs)}. With: ${spread(using.timesMs)}.`}
      />
    </Box>
  );
}

function spread(times: readonly number[]): string {
  return `${duration(Math.min(...times))} to ${duration(Math.max(...times))}`;
}

function Pair({
  label,
  before,
  after,
  show,
  title,
}: {
  label: string;
  before: number;
  after: number;
  show: (value: number) => string;
  title?: string;
}) {
  const most = Math.max(before, after, 0.001);
  return (
    <Box
      title={title}
      sx={{ display: 'grid', gridTemplateColumns: '128px minmax(0, 1fr) 150px', alignItems: 'center', columnGap: 1.5, py: 0.4 }}
    >
      <Box sx={{ fontSize: 12.5 }}>{label}</Box>
      <Box>
        <Box
          sx={{ height: 7, borderRadius: 0.5, bgcolor: (t) => t.roles.quiet, width: `${(before / most) * 100}%`, minWidth: 2, mb: 0.4 }}
        />
        <Box sx={{ height: 7, borderRadius: 0.5, bgcolor: (t) => t.roles.index, width: `${(after / most) * 100}%`, minWidth: 2 }} />
      </Box>
      <Box sx={{ fontSize: 12.5, whiteSpace: 'nowrap' }}>
        {show(before)} → <b>{show(after)}</b>
      </Box>
    </Box>
  );
}
