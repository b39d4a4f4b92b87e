import { useBench } from '../../../state/bench/useBench.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { lazy, Suspense, useState, type ReactNode } from 'react';
import type { Problem } from '@zesty-sieve/contract';
import type { Edit } from '@zesty-sieve/core/language';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { problemText } from '../../../api/problems.ts';
import { useAppSelector } from '../../../app/store.ts';
import { bytes, counted, duration } from '../../../parts/numbers.ts';
import { indexesOf } from '../../../parts/plan/indexNames.ts';
import { later } from '../../../parts/later.tsx';
import { Outdated } from '../../../parts/Outdated.tsx';
import { previewMs, type Answered } from '../../../state/bench/benchState.ts';
import type { IndexBuilder } from '../state/useBuild.ts';
import { DocumentList } from '../../../parts/documents/DocumentList.tsx';
import { OutputShape } from './OutputShape.tsx';
import { NoteList } from './NoteList.tsx';
import type { CellActions } from './table/CellMenu.tsx';
import { RowTable } from './table/RowTable.tsx';
import { usePlaceName } from '../sql/usePlaceName.ts';
import { useRows } from '../../../parts/documents/useRows.ts';

const OriginsDialog = later(async () => (await import('./OriginsDialog.tsx')).OriginsDialog);
/** The library that draws is large, and most runs are not drawn. */
const Chart = lazy(async () => ({ default: (await import('./chart/Chart.tsx')).Chart }));

interface OutputProps extends Omit<CellActions, 'onOrigins'> {
  readonly onRun: () => void;
  readonly onBuild: IndexBuilder['build'];
  /** Makes the edits that mend a line, in the text that was asked. */
  readonly onMend: (edits: readonly Edit[]) => void;
}

/** What comes out at the cursor's line: the rows, or why there are none. The last good rows stay, dimmed. */
export function Output({ onRun, onBuild, onMend, ...actions }: OutputProps) {
  const { whole, here } = useBench('whole', 'here');
  const slot = here.pending || here.answer || here.problem ? here : whole;
  const { answer, problem, pending } = slot;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', position: 'relative' }}>
      {pending && (
        <LinearProgress aria-label="Running" sx={{ position: 'absolute', inset: '0 0 auto 0', height: 2, zIndex: 2 }} color="secondary" />
      )}
      {problem && <ProblemNote problem={problem.problem} onBuild={onBuild} />}
      {answer ? (
        <Outdated isOutdated={problem !== null} sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
          <Rows key={answer.result.runId} answer={answer} onRun={onRun} onMend={onMend} {...actions} />
        </Outdated>
      ) : (
        !problem && <Waiting isRunning={pending !== null} />
      )}
    </Box>
  );
}

function Rows({ answer, onRun, onMend, ...actions }: { answer: Answered } & Omit<OutputProps, 'onBuild'>) {
  const view = useAppSelector(({ bench }) => bench.view);
  const rows = useRows(answer.result);
  const [behind, setBehind] = useState<unknown>();
  if (answer.result.rowsReturned === 0) return <NoRows answer={answer} onRun={onRun} />;
  return (
    <>
      <NoteList answer={answer} onMend={onMend} />
      {rows.problem && <Note tone="error">{rows.problem}</Note>}
      {view === 'documents' ? (
        <DocumentList {...rows} />
      ) : view === 'chart' ? (
        <Suspense>
          <Chart rows={rows.rows} of={answer.result.rowsReturned} more={rows.more} />
        </Suspense>
      ) : view === 'shape' ? (
        <OutputShape rows={rows.rows} of={answer.result.rowsReturned} />
      ) : (
        <RowTable {...rows} {...actions} onOrigins={setBehind} />
      )}
      {behind !== undefined && <OriginsDialog asked={answer.asked} row={behind} onClose={() => setBehind(undefined)} />}
    </>
  );
}

function Waiting({ isRunning }: { isRunning: boolean }) {
  const { error } = useCollectionsQuery();
  if (error !== undefined) return <Box sx={{ p: 3, color: 'error.main', fontSize: 13 }}>{problemText(error)}</Box>;
  return (
    <Box sx={{ p: 3, color: 'text.secondary', fontSize: 13 }}>
      {isRunning
        ? 'Reading …'
        : 'The documents that come out at the cursor’s line appear here. Begin with from and the name of a collection.'}
    </Box>
  );
}

function NoRows({ answer, onRun }: { answer: Answered; onRun: () => void }) {
  const { result } = answer;
  const empty = result.lines.find(({ rowsOut }) => rowsOut === 0);
  const called = usePlaceName();
  return (
    <Box sx={{ p: 3, fontSize: 13, display: 'flex', flexDirection: 'column', gap: 1.25, alignItems: 'flex-start' }}>
      <span>
        {empty === undefined || empty.line === result.lines[0]?.line
          ? 'No documents came out.'
          : `No rows come out: ${called(empty.line)} is the first that lets none through.`}
        {result.bounded && ` This looked at what ${previewMs} ms of work could read.`}
      </span>
      {result.bounded && (
        <Button variant="outlined" onClick={onRun}>
          Run on all documents
        </Button>
      )}
    </Box>
  );
}

function Note({ tone, children }: { tone: 'error' | 'plain'; children: ReactNode }) {
  return (
    <Box
      role={tone === 'error' ? 'alert' : undefined}
      sx={{
        px: 2,
        py: 1.25,
        fontSize: 12.5,
        borderBottom: 1,
        borderColor: 'divider',
        color: tone === 'error' ? 'error.main' : 'text.primary',
        bgcolor: (t) => t.roles.form,
      }}
    >
      {children}
    </Box>
  );
}

function ProblemNote({ problem, onBuild }: { problem: Problem; onBuild: IndexBuilder['build'] }) {
  const [first] = problem.suggestions ?? [];
  return (
    <Note tone="error">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Box sx={{ flex: 1 }}>{problem.detail ?? problem.title}</Box>
        {first && (
          <Button variant="outlined" color="info" onClick={() => onBuild(indexesOf(first))}>
            {first.beside ? 'Build the indexes' : 'Build the index'}
          </Button>
        )}
      </Box>
    </Note>
  );
}

/** The words over the output: after which line, and how many. */
export function OutputTitle() {
  const { whole, here } = useBench('whole', 'here');
  const called = usePlaceName();
  const answer = here.answer ?? (here.pending ? null : whole.answer);
  if (answer === null) return <Title main="Output" />;
  const { result, asked, sent } = answer;
  const line = asked.line ?? result.lines[result.lines.length - 1]?.line ?? 1;
  const shown = result.bounded ? `of ${previewMs} ms of work` : '';
  return (
    <Title
      main={result.lines.length === 0 ? 'Output' : `After ${called(line)}`}
      more={`${counted(result.rowsReturned, 'row')}${shown && ` ${shown}`} · ${bytes(sent.bytes)} in ${duration(sent.ms)}`}
      strong={result.bounded}
    />
  );
}

export function Title({ main, more, strong }: { main: string; more?: string; strong?: boolean }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, minWidth: 0 }}>
      <Box component="h2" sx={{ m: 0, fontSize: 13.5, fontWeight: 700, whiteSpace: 'nowrap' }}>
        {main}
      </Box>
      <Box
        sx={{
          fontSize: 12.5,
          color: strong ? 'secondary.main' : 'text.secondary',
          whiteSpace: 'nowrap',
          overflow: 'hidden',
          textOverflow: 'ellipsis',
        }}
      >
        {more}
      </Box>
    </Box>
  );
}
