import Box from '@mui/material/Box';
import type { KeptRun } from '@zesty-sieve/contract';
import { codeFont } from '../../app/theme.ts';
import { bytes, count, duration } from '../../parts/numbers.ts';
import { yieldText } from '../../parts/yieldText.ts';
import { againstBaseline } from './figures.ts';

/** Beside an opened run there is room for the most important columns alone. */
const columns = { wide: 'minmax(0, 1fr) 92px 96px 74px 78px 96px', narrow: 'minmax(0, 1fr) 78px 74px' };
const grid = {
  display: 'grid',
  columnGap: 1.5,
  px: 2.5,
  alignItems: 'center',
  borderBottom: 1,
  borderColor: 'divider',
} as const;

/** Runs as rows: what was asked, what it read and held, how long it took. */
export function RunTable({ runs, chosen, onOpen }: { runs: readonly KeptRun[]; chosen: string | null; onOpen: (id: string) => void }) {
  const isNarrow = chosen !== null;
  const gridTemplateColumns = isNarrow ? columns.narrow : columns.wide;
  return (
    <Box role="table" aria-label="Runs" sx={{ bgcolor: 'background.paper' }}>
      <Box
        role="row"
        sx={{
          ...grid,
          gridTemplateColumns,
          height: 30,
          fontSize: 11.5,
          fontWeight: 600,
          color: 'text.secondary',
          position: 'sticky',
          top: 0,
          bgcolor: 'background.paper',
          zIndex: 1,
        }}
      >
        <span role="columnheader">asked</span>
        <Box role="columnheader" sx={{ textAlign: 'right' }}>
          read
        </Box>
        {!isNarrow && (
          <>
            <Box role="columnheader" sx={{ textAlign: 'right' }}>
              yield
            </Box>
            <Box role="columnheader" sx={{ textAlign: 'right' }}>
              held
            </Box>
          </>
        )}
        <Box role="columnheader" sx={{ textAlign: 'right' }}>
          time
        </Box>
        {!isNarrow && <span role="columnheader">when</span>}
      </Box>
      {runs.map((run) => (
        <RunRow key={run.id} run={run} isChosen={run.id === chosen} isNarrow={isNarrow} onOpen={() => onOpen(run.id)} />
      ))}
    </Box>
  );
}

function RunRow({ run, isChosen, isNarrow, onOpen }: { run: KeptRun; isChosen: boolean; isNarrow: boolean; onOpen: () => void }) {
  const { pipeline, name, cost, guard, at, times } = run;
  const lines = pipeline.trim().split('\n');
  return (
    <Box
      role="row"
      aria-selected={isChosen}
      onClick={onOpen}
      sx={{
        ...grid,
        gridTemplateColumns: isNarrow ? columns.narrow : columns.wide,
        py: 0.9,
        fontSize: 12.5,
        cursor: 'pointer',
        ...(isChosen && { bgcolor: (t) => t.roles.flowSoft }),
        '&:hover': { bgcolor: (t) => t.roles.form },
      }}
    >
      <Box role="cell" sx={{ minWidth: 0 }}>
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
          {lines.join(' · ')}
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
      </Box>
      <Box role="cell" sx={{ textAlign: 'right' }}>
        {count(cost.documentsRead)}
      </Box>
      {!isNarrow && (
        <>
          <Box role="cell" sx={{ textAlign: 'right', color: 'text.secondary' }}>
            {yieldText(cost)}
          </Box>
          <Box role="cell" sx={{ textAlign: 'right' }}>
            {cost.memoryBytes > 0 ? bytes(cost.memoryBytes) : '–'}
          </Box>
        </>
      )}
      <Box role="cell" sx={{ textAlign: 'right' }}>
        {duration(cost.timeMs)}
      </Box>
      {!isNarrow && (
        <Box role="cell" sx={{ fontSize: 12, color: 'text.secondary' }}>
          {whenText(new Date(at))}
        </Box>
      )}
    </Box>
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
