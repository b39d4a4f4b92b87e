import Box from '@mui/material/Box';
import type { KeptRun } from '@zesty-sieve/contract';
import { codeFont } from '../../app/theme.ts';
import { GridHead, GridRow } from '../../parts/Grid.tsx';
import { bytes, count, duration } from '../../parts/numbers.ts';
import { yieldText } from '../../parts/yieldText.ts';
import { againstBaseline } from './figures.ts';

const columns = [
  { id: 'asked', head: 'asked', width: 'minmax(0, 1fr)' },
  { id: 'read', head: 'read', width: '92px', isFigure: true },
  { id: 'yield', head: 'yield', width: '96px', isFigure: true },
  { id: 'held', head: 'held', width: '74px', isFigure: true },
  { id: 'time', head: 'time', width: '78px', isFigure: true },
  { id: 'when', head: 'when', width: '96px' },
] as const;
/** Beside an opened run there is room for the most important columns alone. */
const narrow = [columns[0], { ...columns[1], width: '78px' }, { ...columns[4], width: '74px' }] as const;

/** Runs as rows: what was asked, what it read and held, how long it took. */
export function RunTable({ runs, chosen, onOpen }: { runs: readonly KeptRun[]; chosen: string | null; onOpen: (id: string) => void }) {
  const shown = chosen === null ? columns : narrow;
  return (
    <Box role="table" aria-label="Runs" sx={{ bgcolor: 'background.paper' }}>
      <GridHead columns={shown} isSticky />
      {runs.map((run) => {
        const { cost, at } = run;
        return (
          <GridRow
            key={run.id}
            columns={shown}
            aria-selected={run.id === chosen}
            onClick={() => onOpen(run.id)}
            sx={{ py: 0.9, fontSize: 12.5, ...(run.id === chosen && { bgcolor: (t) => t.roles.flowSoft }) }}
            cells={{
              asked: { sx: { minWidth: 0 }, shown: <Question run={run} /> },
              read: count(cost.documentsRead),
              yield: { sx: { color: 'text.secondary' }, shown: yieldText(cost) },
              held: cost.memoryBytes > 0 ? bytes(cost.memoryBytes) : '–',
              time: duration(cost.timeMs),
              when: { sx: { fontSize: 12, color: 'text.secondary' }, shown: whenText(new Date(at)) },
            }}
          />
        );
      })}
    </Box>
  );
}

/** The pipeline in one line, and what is to be said of the run. */
function Question({ run }: { readonly run: KeptRun }) {
  const { name, guard, times } = run;
  const pipeline = run.sql ?? run.pipeline;
  return (
    <>
      <Box
        component="button"
        type="button"
        sx={{
          all: 'unset',
          display: 'block',
          maxWidth: '100%',
          fontFamily: codeFont,
          fontVariantLigatures: 'none',
          fontSize: 12,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
          cursor: 'pointer',
          '&:focus-visible': { outline: 'auto' },
        }}
        title={pipeline}
      >
        {pipeline.trim().split('\n').join(' · ')}
      </Box>
      <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>
        {[
          name,
          times !== undefined && times > 1 && `asked ${count(times)} times`,
          run.baseline && 'baseline',
          againstBaseline(run),
          guard && <StoppedBy key="guard" guard={guard} />,
        ]
          .filter(Boolean)
          .map((part, i) => (
            <span key={i}>
              {i > 0 && ' · '}
              {part}
            </span>
          ))}
      </Box>
    </>
  );
}

/** The time of today's runs, the day of others. */
function whenText(at: Date): string {
  const isToday = at.toDateString() === new Date().toDateString();
  return isToday
    ? at.toLocaleTimeString('en-GB')
    : at.toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
}

const guardWords: Readonly<Record<string, string>> = {
  'guard-time': 'time',
  'guard-documents-read': 'documents read',
  'guard-memory': 'memory',
};

export function StoppedBy({ guard }: { guard: NonNullable<KeptRun['guard']> }) {
  return (
    <Box component="span" sx={{ color: 'error.main' }}>
      stopped on line {guard.line} by its guard on {guardWords[guard.kind] ?? guard.kind}
    </Box>
  );
}
