import { useBench, useIsOutdated } from '../../state/bench/useBench.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useTheme } from '@mui/material/styles';
import type { QueryAnswer } from '@zesty-sieve/contract';
import { usualSurface } from '@zesty-sieve/core/language';
import { useAppDispatch } from '../../app/store.ts';
import { Approximate } from '../../parts/Approximate.tsx';
import { bytes, count, counted, duration, percent } from '../../parts/numbers.ts';
import { IndexKeys } from '../../parts/plan/IndexKeys.tsx';
import { indexesOf, kindText } from '../../parts/plan/indexNames.ts';
import { ReadViews } from '../../parts/views/ReadViews.tsx';
import { Outdated } from '../../parts/Outdated.tsx';
import { capital, inWorkOrder, roleOf } from '../../parts/plan/steps.ts';
import { usePlaceName } from './sql/usePlaceName.ts';
import { viewed } from '../../state/bench/benchSlice.ts';
import { previewMs } from '../../state/bench/benchState.ts';
import { yieldText } from '../../parts/yieldText.ts';

/** What the run cost: a sentence led by the yield, the steps' time as one bar, and what would help most. */
export function CostStrip() {
  const { whole, view, changedSince } = useBench('whole', 'view', 'changedSince');
  const isOutdated = useIsOutdated();
  const dispatch = useAppDispatch();
  const { answer } = whole;
  return (
    <Box
      component="footer"
      aria-label="What the run cost"
      sx={{
        flex: 'none',
        minHeight: 70,
        borderTop: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        display: 'flex',
        alignItems: 'center',
        gap: 3,
        px: 2.25,
        py: 1,
      }}
    >
      {answer === null ? (
        <Box sx={{ color: 'text.secondary', flex: 1 }}>
          {whole.problem?.problem.detail ??
            'What a run costs is told here: documents read for rows returned, time, memory, and what would make it cheaper.'}
        </Box>
      ) : (
        <>
          <Outdated isOutdated={isOutdated} sx={{ flex: 1, minWidth: 0 }}>
            <Sentence result={answer.result} text={answer.asked.text} />
            {changedSince !== null && readsFrom(answer.asked.text, changedSince) && (
              <Box sx={{ fontSize: 12, color: 'secondary.main' }}>{changedSince} has changed since this run. Ctrl Enter runs again.</Box>
            )}
          </Outdated>
          <Outdated isOutdated={isOutdated} sx={{ flex: 1, minWidth: 0 }}>
            <TimeBar result={answer.result} />
          </Outdated>
        </>
      )}
      <Button variant="outlined" onClick={() => dispatch(viewed(view === 'plan' ? 'table' : 'plan'))} sx={{ borderColor: 'divider' }}>
        {view === 'plan' ? 'Output' : 'Plan'} · P
      </Button>
    </Box>
  );
}

function readsFrom(text: string, collection: string): boolean {
  return new RegExp(`\\b(?:from|join)\\s+${collection}\\b`).test(text);
}

function Sentence({ result, text }: { result: QueryAnswer; text: string }) {
  const called = usePlaceName();
  const { cost, bounded, lines } = result;
  const conditions = new Set(usualSurface.parse(text).stages.flatMap(({ stage, line }) => (stage?.kind === 'where' ? [line] : [])));
  const worst = lines.slice(1).reduce<{ line: number; dropped: number } | null>((most, { line, rowsOut }, i) => {
    const dropped = lines[i]!.rowsOut === 0 || !conditions.has(line) ? 0 : 1 - rowsOut / lines[i]!.rowsOut;
    return dropped > (most?.dropped ?? 0.5) ? { line, dropped } : most;
  }, null);
  const details = [
    duration(cost.timeMs),
    `${cost.memoryBytes > 0 ? bytes(cost.memoryBytes) : 'nothing'} held in memory`,
    cost.indexEntriesRead > 0 ? `${counted(cost.indexEntriesRead, 'index entry', 'index entries')} read` : 'no index entries read',
    ...(worst ? [`${called(worst.line)} dropped ${percent(worst.dropped)} of what reached it`] : []),
  ];
  return (
    <>
      <Box data-testid="cost-sentence" sx={{ fontSize: 15, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
        <b>
          Read {counted(cost.documentsRead, 'document')} to return {count(cost.rowsReturned)}
        </b>
        : {yieldText(cost)}.{result.approximate !== null && <Approximate approximate={result.approximate} />}
        <ReadViews sources={result.sources} />
      </Box>
      <Box
        sx={{
          fontSize: 12,
          color: bounded ? 'secondary.main' : 'text.secondary',
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
        }}
        title={details.join(' · ')}
      >
        {bounded ? `A run of ${previewMs} ms, while you type: not everything was read. Ctrl Enter runs on all.` : details.join(' · ')}
      </Box>
    </>
  );
}

function TimeBar({ result }: { result: QueryAnswer }) {
  const { roles } = useTheme();
  const steps = inWorkOrder(result.plan).filter(({ timeMs }) => (timeMs ?? 0) > 0);
  const total = steps.reduce((sum, { timeMs }) => sum + (timeMs ?? 0), 0);
  const longest = steps.reduce<(typeof steps)[number] | undefined>(
    (most, step) => ((step.timeMs ?? 0) > (most?.timeMs ?? 0) ? step : most),
    undefined,
  );
  const [suggestion] = result.suggestions;
  return (
    <>
      <Box
        role="img"
        aria-label={steps.map(({ step, timeMs }) => `${step} ${duration(timeMs ?? 0)}`).join(', ')}
        sx={{ display: 'flex', height: 13, borderRadius: 0.5, overflow: 'hidden', bgcolor: 'divider' }}
      >
        {steps.map((step, i) => (
          <Box
            key={i}
            title={`${capital(step.step)}: ${duration(step.timeMs ?? 0)}`}
            sx={{
              width: `${((step.timeMs ?? 0) / total) * 100}%`,
              bgcolor: roles[roleOf(step.step)],
              borderRight: i < steps.length - 1 ? `1px solid ${roles.surface}` : 0,
            }}
          />
        ))}
      </Box>
      <Box sx={{ fontSize: 12, pt: 0.6, color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
        {longest && (
          <>
            <Box component="b" sx={{ color: roleOf(longest.step) === 'other' ? roles.ink : roles[roleOf(longest.step)] }}>
              {capital(longest.step)}
            </Box>{' '}
            took {percent((longest.timeMs ?? 0) / total)}
          </>
        )}
        {suggestion && (
          <>
            {' '}
            · {kindText(indexesOf(suggestion))} on <IndexKeys indexes={indexesOf(suggestion)} /> would read about{' '}
            {count(suggestion.documentsRead)}
          </>
        )}
      </Box>
    </>
  );
}
