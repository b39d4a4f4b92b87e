import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import type { MaterializedInfo } from '@zesty-sieve/contract';
import { bytes, count, counted, duration } from '../../../parts/numbers.ts';
import { ageText, keepingOf, keepings, stateText } from '../../../parts/views/keeping.ts';
import { useRefresh } from './useRefresh.ts';

/** How the rows of a view stand: since when, how large, what it takes to make them, and what they have spared. */
export function ViewState({ name, view }: { readonly name: string; readonly view: MaterializedInfo }) {
  const { progress, problem, start, cancel } = useRefresh(name);
  const isMaking = progress !== undefined || view.state === 'refreshing';
  const every = typeof view.refresh === 'object' ? `, ${counted(view.refresh.everySeconds, 'second')} apart` : '';
  const facts: readonly (readonly [string, string])[] = [
    ['Rows', `${count(view.rows)}, ${bytes(view.bytes)}`],
    ['Made', view.refreshedAt === null ? 'not yet' : `${ageText(Date.now() - Date.parse(view.refreshedAt))} ago${view.refreshMs === null ? '' : `, in ${duration(view.refreshMs)}`}`],
    ['Kept', `${keepings[keepingOf(view.refresh)].replace('kept, and ', '')}${every}`],
    ['Changes', changesText(view)],
    ['Spared', view.saved === 0 ? 'nothing yet: no question has been answered by it unasked' : `${counted(view.saved, 'document')} that need not be read`],
    ['Used', usesText(view)],
    ['Read by', view.readers.length === 0 ? 'no other saved pipeline' : view.readers.join(', ')],
  ];
  return (
    <Box component="section" aria-label="How it stands">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, pb: 1 }}>
        <Box component="h3" data-testid="view-state" sx={{ m: 0, fontSize: 15, fontWeight: 700, color: (t) => (view.state === 'fresh' ? t.roles.ink : view.state === 'failed' ? t.palette.error.main : t.palette.secondary.main) }}>
          {stateText(view).replace(/^./, (first) => first.toUpperCase())}
        </Box>
        {isMaking ? <Button onClick={cancel}>Cancel</Button> : <Button variant="outlined" onClick={start}>Make it anew now</Button>}
        {progress !== undefined && <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>{progress.phase === 'computing' ? 'working out its rows' : `${counted(progress.rows, 'row')} stored`}</Box>}
      </Box>
      {isMaking && <LinearProgress aria-label="Making the rows anew" />}
      {(problem ?? view.failure?.message) !== undefined && (
        <Box role="alert" sx={{ py: 1, color: 'error.main', overflowWrap: 'anywhere' }}>
          {problem ?? view.failure?.message} {view.refreshedAt !== null && 'It has the rows that it had.'}
        </Box>
      )}
      <Box component="dl" sx={{ m: 0, mt: 1, display: 'grid', gridTemplateColumns: '90px 1fr', rowGap: 0.75, columnGap: 2, fontSize: 13 }}>
        {facts.map(([term, fact]) => (
          <Box key={term} sx={{ display: 'contents' }}>
            <Box component="dt" sx={{ color: 'text.secondary' }}>{term}</Box>
            <Box component="dd" sx={{ m: 0, overflowWrap: 'anywhere' }}>{fact}</Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
} // prettier-ignore

function usesText({ uses, lastUsedAt }: MaterializedInfo): string {
  if (uses === 0 || lastUsedAt === null) return 'by no question yet, by its name or unasked';
  return `by ${counted(uses, 'question')}, the last ${ageText(Date.now() - Date.parse(lastUsedAt))} ago`;
}

/** Whether its rows follow each change, and what that costs each. */
function changesText({ follows, following, refresh }: MaterializedInfo): string {
  if (follows !== 'each change') return follows;
  if (refresh !== 'on change') return 'could follow each change; they are made anew as is said above';
  if (following === null) return 'its rows follow each change of a document';
  return `its rows follow each change of a document: ${counted(following.changes, 'change')} so far, ${duration(following.meanUs / 1_000)} each`;
}
