import { useBench } from '../../../state/bench/useBench.ts';
import Box from '@mui/material/Box';
import type { IndexSuggestion, PlanAnswer, PlanStep, RunCost } from '@zesty-sieve/contract';
import { veil } from '../../../app/theme.ts';
import { IndexKeys } from '../../../parts/plan/IndexKeys.tsx';
import { indexesOf, keysText, kindText } from '../../../parts/plan/indexNames.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { IndexBuilds } from '../../../parts/IndexBuilds.tsx';
import { count } from '../../../parts/numbers.ts';
import { HeadlineText } from '../../../parts/plan/HeadlineText.tsx';
import { RewriteList } from '../../../parts/plan/RewriteList.tsx';
import { Code, StepTable } from '../../../parts/plan/StepTable.tsx';
import { WayList, wayGrid } from '../../../parts/plan/WayList.tsx';
import { useGuards } from '../useGuards.ts';
import { jumpedTo } from '../../../state/bench/benchSlice.ts';
import type { IndexBuilder } from '../state/useBuild.ts';
import { BuildButton } from './BuildButton.tsx';
import { ComparisonView } from './ComparisonView.tsx';
import { DeepPage } from './DeepPage.tsx';
import { LoopText } from './LoopText.tsx';
import { PlanActions } from './PlanActions.tsx';
import { WhatIf } from './WhatIf.tsx';

interface PlanViewProps {
  readonly builder: IndexBuilder;
  /** Opens the pipeline that goes on after a row. */
  readonly onAfter: (row: unknown) => void;
}

/** The plan of the last run, or of one that a guard ended: its steps, the ways that were weighed, and what would help. */
export function PlanView({ builder, onAfter }: PlanViewProps) {
  const { whole, comparison, cursorLine } = useBench('whole', 'comparison', 'cursorLine');
  const isOfComparison = useAppSelector(({ bench }) => bench.comparison?.text === bench.text);
  const dispatch = useAppDispatch();
  const guards = useGuards();
  const stopped = whole.problem?.problem as (Partial<PlanAnswer> & { cost?: RunCost; detail?: string; title: string }) | undefined;
  const told = stopped?.plan ? (stopped as PlanAnswer & { cost: RunCost }) : whole.answer?.result;
  if (told === undefined) {
    return (
      <Box tabIndex={0} aria-label="Plan" sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: 'background.paper', pb: 3 }}>
        <Box sx={{ p: 2, color: 'text.secondary' }}>
          {stopped
            ? (stopped.detail ?? stopped.title)
            : 'Run the pipeline, and its plan stands here with what each step did. Until then, this is how it would be run.'}
        </Box>
        {stopped === undefined && <WhatIf builder={builder} beginsPlain />}
      </Box>
    );
  }
  const rows = stopped?.plan ? [] : (whole.answer?.result.documents ?? []);
  const show = ({ lines }: PlanStep) => dispatch(jumpedTo(lines[0]!));
  return (
    <Box tabIndex={0} aria-label="Plan" sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: 'background.paper', pb: 3 }}>
      {stopped?.plan && (
        <Box role="alert" sx={{ px: 2, py: 1, fontSize: 12.5, color: 'error.main', borderBottom: 1, borderColor: 'divider' }}>
          {stopped.detail} The steps show how far it came.
        </Box>
      )}
      {comparison !== null && isOfComparison && <ComparisonView comparison={comparison} />}
      <HeadlineText plan={told.plan} suggestions={told.suggestions} cost={told.cost} />
      <PlanActions told={told} />
      <StepTable plan={told.plan} memoryGuard={guards.memoryBytes} line={cursorLine} onStep={show} />
      <RewriteList rewrites={told.rewrites} />
      <WayList weighed={told.weighed} />
      {told.suggestions.map((suggestion) => (
        <SuggestionRow key={keysText(indexesOf(suggestion))} suggestion={suggestion} builder={builder} />
      ))}
      {builder.phase === 'building' && builder.collection !== undefined && <IndexBuilds collection={builder.collection} isAwaited />}
      <DeepPage plan={told.plan} lastRow={rows[rows.length - 1]} onAfter={onAfter} />
      <WhatIf builder={builder} />
      <LoopText />
    </Box>
  );
}

function SuggestionRow({ suggestion, builder }: { suggestion: IndexSuggestion; builder: IndexBuilder }) {
  return (
    <Box sx={{ ...wayGrid, gridTemplateColumns: 'minmax(0, 1fr) 110px auto', py: 1.25, bgcolor: (t) => veil(t.roles.index, 0.06) }}>
      <Box sx={{ minWidth: 0 }}>
        <Box component="b" sx={{ fontWeight: 650, color: (t) => t.roles.index }}>
          If you had
        </Box>{' '}
        {suggestion.kind !== undefined && `${kindText(indexesOf(suggestion))} on `}
        <IndexKeys indexes={indexesOf(suggestion)} />
        <Box sx={{ color: 'text.secondary', fontSize: 12 }}>
          {suggestion.reason}
          {suggestion.beside && '; of use together alone, for each alternative takes one'}
        </Box>
        {suggestion.savings.length > 1 && <Savings suggestion={suggestion} builder={builder} />}
      </Box>
      <Box sx={{ textAlign: 'right' }}>
        ≈ <b>{count(suggestion.documentsRead)}</b> reads
      </Box>
      <BuildButton variant="outlined" builder={builder} indexes={indexesOf(suggestion)} label="Build and run again" />
    </Box>
  );
}

const servedWords = { equality: 'equality', order: 'the order', range: 'the range', fields: 'all that is read' } as const;

/** What each key of an index that is not there would save. */
function Savings({ suggestion, builder }: Parameters<typeof SuggestionRow>[0]) {
  return (
    <Box component="ul" aria-label="What each key would save" sx={{ m: 0, mt: 0.5, pl: 2, fontSize: 12, color: 'text.secondary' }}>
      {suggestion.savings.map(({ serves, keys, documentsRead, rowsSorted }) => (
        <li key={keys.join()}>
          <Code>{keys.slice(serves === 'fields' ? suggestion.keys.length : keys.length - 1).join(', ')}</Code> for {servedWords[serves]}: ≈{' '}
          {count(documentsRead)} reads{rowsSorted > 0 && `, ${count(rowsSorted)} rows sorted`}
          {serves === 'fields' && (
            <>
              {' '}
              <BuildButton size="small" builder={builder} indexes={[{ keys }]} label="build with these too" sx={{ py: 0, minWidth: 0 }} />
            </>
          )}
        </li>
      ))}
    </Box>
  );
}
