import Box from '@mui/material/Box';
import { useSearchParams } from 'react-router';
import { RunComparison } from './RunComparison.tsx';
import { RunDetail } from './RunDetail.tsx';
import { RunHistory } from './RunHistory.tsx';

/** What was asked before and what it cost; one run opened, or two side by side. The address holds which. */
export function RunsScreen() {
  const [search, setSearch] = useSearchParams();
  const change = (changes: Record<string, string | null>) =>
    setSearch((before) => {
      const next = new URLSearchParams(before);
      for (const [key, value] of Object.entries(changes)) {
        if (value === null || value === '') next.delete(key);
        else next.set(key, value);
      }
      return next;
    });
  const run = search.get('run');
  const against = search.get('against');
  return (
    <Box sx={{ flex: 1, minWidth: 0, display: 'flex' }}>
      {run !== null && against !== null ? (
        <RunComparison first={against} second={run} onClose={() => change({ against: null })} />
      ) : (
        <>
          <RunHistory search={search} chosen={run} onChange={change} />
          {run !== null && (
            <RunDetail key={run} id={run} onClose={() => change({ run: null })} onCompare={(other) => change({ against: other })} />
          )}
        </>
      )}
    </Box>
  );
}
