import { secondText } from '../../parts/dates.ts';
import ArrowBackIcon from '@mui/icons-material/ArrowBack';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { KeptRunDetail, PairAnswer } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useCompareMutation } from '../../api/asking.ts';
import { problemText } from '../../api/problems.ts';
import { useMeasurePairMutation, useRunQuery } from '../../api/runs.ts';
import { DiffView } from '../../parts/DiffView.tsx';
import { FigurePair } from '../../parts/FigurePair.tsx';
import { bytes, count, duration } from '../../parts/numbers.ts';
import { RowDifferences } from '../../parts/RowDifferences.tsx';
import { RewriteList } from '../../parts/plan/RewriteList.tsx';
import { StepTable } from '../../parts/plan/StepTable.tsx';
import { indexesText } from './figures.ts';
import { PipelineText } from './RunDetail.tsx';
import { StoppedBy } from './RunTable.tsx';

const timesEach = 9;
const names = ['the first', 'the second'] as const;

/** Two runs side by side: text, costs, plan; and both asked again, for their rows and for their times in turn. */
export function RunComparison({ first, second, onClose }: { first: string; second: string; onClose: () => void }) {
  const one = useRunQuery(first);
  const other = useRunQuery(second);
  const error = one.error ?? other.error;
  return (
    <Box component="section" aria-label="Two runs" sx={{ flex: 1, minWidth: 0, overflow: 'auto', bgcolor: 'background.paper' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, px: 2, py: 1, borderBottom: 1, borderColor: 'divider' }}>
        <Button startIcon={<ArrowBackIcon />} onClick={onClose}>
          All runs
        </Button>
        <Box component="h2" sx={{ m: 0, fontSize: 15, fontWeight: 700 }}>
          Two runs compared
        </Box>
      </Box>
      {error !== undefined && (
        <Box role="alert" sx={{ p: 2, color: 'error.main' }}>
          {problemText(error)}
        </Box>
      )}
      {one.data && other.data && <Pair first={one.data} second={other.data} />}
    </Box>
  );
}

const half = { minWidth: 0, borderRight: 1, borderColor: 'divider' } as const;

function Pair({ first, second }: { first: KeptRunDetail; second: KeptRunDetail }) {
  const isSame = first.pipeline.trim() === second.pipeline.trim();
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)' }}>
        <Box sx={{ ...half, py: 1.25 }}>
          <Box sx={{ px: 2 }}>
            <FigurePair label="documents read" before={first.cost.documentsRead} after={second.cost.documentsRead} show={count} />
            <FigurePair label="index entries" before={first.cost.indexEntriesRead} after={second.cost.indexEntriesRead} show={count} />
            <FigurePair label="rows returned" before={first.cost.rowsReturned} after={second.cost.rowsReturned} show={count} />
            <FigurePair label="held in memory" before={first.cost.memoryBytes} after={second.cost.memoryBytes} show={bytes} />
            <FigurePair label="time, one run each" before={first.cost.timeMs} after={second.cost.timeMs} show={duration} />
          </Box>
          <AskedAgain first={first} second={second} />
        </Box>
        <Box sx={{ minWidth: 0, py: 1.25 }}>
          <Box sx={{ px: 2, pb: 0.75, fontSize: 13, fontWeight: 700 }}>{isSame ? 'The same text' : 'What differs in the text'}</Box>
          {!isSame && <DiffView before={first.pipeline.trim()} after={second.pipeline.trim()} />}
          <Box sx={{ px: 2, pt: 1, fontSize: 12.5, color: 'text.secondary' }}>{indexesText(first.indexSet, second.indexSet)}</Box>
        </Box>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)', borderTop: 1, borderColor: 'divider' }}>
        {[first, second].map((run, i) => (
          <Box key={run.id} sx={half} role="group" aria-label={i === 0 ? 'The first run' : 'The second run'}>
            <Box sx={{ px: 2, pt: 1, fontSize: 12, color: 'text.secondary' }}>
              {i === 0 ? 'first' : 'second'}, {secondText(run.at)}
              {run.baseline && ', baseline'} {run.guard && <StoppedBy guard={run.guard} />}
            </Box>
            <PipelineText run={run} />
            <StepTable plan={run.plan} />
            <RewriteList rewrites={run.rewrites} />
          </Box>
        ))}
      </Box>
    </>
  );
}

/** Both questions asked again now: whether their rows are the same, and how long each takes, in turn. */
function AskedAgain({ first, second }: { first: KeptRunDetail; second: KeptRunDetail }) {
  const [compare, comparing] = useCompareMutation();
  const [measure, measuring] = useMeasurePairMutation();
  const sides = [first, second].map(({ pipeline, parameters }) => ({ pipeline, parameters: parameters ?? {} }));
  const [problem, setProblem] = useState<string | null>(null);
  const ask = async () => {
    setProblem(null);
    try {
      await compare({ first: sides[0]!, second: sides[1]! }).unwrap();
      await measure({ first: sides[0]!, second: sides[1]!, times: timesEach }).unwrap();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  const isBusy = comparing.isLoading || measuring.isLoading;
  return (
    <Box component="section" aria-label="Both asked again" sx={{ px: 2, pt: 1 }}>
      <Button variant="outlined" disabled={isBusy} onClick={() => void ask()}>
        {isBusy ? 'Asking both …' : 'Ask both again'}
      </Button>
      {problem !== null && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 12.5, pt: 0.75 }}>
          {problem}
        </Box>
      )}
      {comparing.data && (
        <Box sx={{ fontSize: 12.5, py: 0.75 }}>
          <RowDifferences comparison={comparing.data} names={names} />
        </Box>
      )}
      {measuring.data && <Timed pair={measuring.data} />}
    </Box>
  );
}

function Timed({ pair: { first, second } }: { pair: PairAnswer }) {
  const spread = (times: readonly number[]) => `${duration(Math.min(...times))} to ${duration(Math.max(...times))}`;
  return (
    <>
      <FigurePair label={`time, median of ${first.timesMs.length}`} before={first.medianMs} after={second.medianMs} show={duration} />
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        In turn, on what is stored now. The first took {spread(first.timesMs)}, the second {spread(second.timesMs)}.
      </Box>
    </>
  );
}
