import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { IdleView } from '@zesty-sieve/contract';
import { Link } from 'react-router';
import { bytes, counted, duration } from '../../parts/numbers.ts';
import { ageText } from '../../parts/views/keeping.ts';

/** Kept views that nothing reads, with what they cost; what becomes of one is decided where it stands. */
export function IdleViews({ views }: { readonly views: readonly IdleView[] }) {
  return views.map(({ view, since, wasRead, runsSince, following, bytes: size }) => (
    <Box key={view} sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 12.5, py: 0.5 }}>
      <Box sx={{ flex: 1 }}>
        The view <b>{view}</b> is kept, and{' '}
        {wasRead ? `was read last ${ageText(Date.now() - Date.parse(since))} ago` : 'nothing has read it'}: {counted(runsSince, 'run')}{' '}
        since then read these documents another way. It takes {bytes(size)}
        {following !== null && ` and ${duration(following.meanUs / 1_000)} with each change`}.
      </Box>
      <Button component={Link} to={`/data/${encodeURIComponent(view)}`} variant="outlined" sx={{ borderColor: 'divider' }}>
        Look at {view}
      </Button>
    </Box>
  ));
}
