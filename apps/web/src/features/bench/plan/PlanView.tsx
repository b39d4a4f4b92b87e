import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Fragment, type ReactNode } from 'react';
import type { IndexSuggestion, PlanStep, QueryAnswer, WeighedWay } from '@zesty-sieve/contract';
import { codeFont, veil } from '../../../app/theme.ts';
import { useAppSelector } from '../../../app/store.ts';
import { bytes, count, counted, duration, percent } from '../../../parts/numbers.ts';
import { ComparisonView } from './ComparisonView.tsx';
import { capital, inWorkOrder, linesText, roleOf } from './steps.ts';

interface PlanViewProps {
  readonly onBuild: (keys: readonly string[]) => void;
  readonly isBuilding: boolean;
}

/** The plan of the last run: its steps in the order of the work, the ways that were weighed, and what would help. */
export function PlanView({ onBuild, isBuilding }: PlanViewProps) {
  const { whole, comparison, text } = useAppSelector(({ bench }) => bench);
  if (whole.answer === null) {
    return (
      <Box sx={{ p: 3, color: 'text.secondary' }}>
        {whole.problem ? (whole.problem.problem.detail ?? whole.problem.problem.title) : 'Run the pipeline, and its plan stands here.'}
      </Box>
    );
  }
  const { result } = whole.answer;
  return (
    <Box tabIndex={0} aria-label="Plan" sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: 'background.paper', pb: 3 }}>
      {comparison !== null && comparison.text === text && <ComparisonView comparison={comparison} />}
      <Steps result={result} />
      {result.rewrites.map(({ rule, detail, lines }, i) => (
        <Box
          key={i}
          sx={{ px: 2, py: 0.6, fontSize: 12.5, borderBottom: 1, borderColor: 'divider', display: 'flex', gap: 1, alignItems: 'baseline' }}
        >
          <Lines lines={lines} />
          <span>
            <b>{capital(rule)}</b>: {detail}
          </span>
        </Box>
      ))}
      {byLines(result.weighed).map((ways) => (
        <Fragment key={ways[0].lines.join()}>
          <Heading>
            Ways weighed for {ways[0].lines.length === 1 ? 'line' : 'lines'} {linesText(ways[0].lines)}
          </Heading>
          {ways.map((way, i) => (
            <WayRow key={i} way={way} />
          ))}
        </Fragment>
      ))}
      {result.suggestions.map((suggestion) => (
        <SuggestionRow key={suggestion.keys.join()} suggestion={suggestion} onBuild={onBuild} isBuilding={isBuilding} />
      ))}
    </Box>
  );
}

/** Ways are told together where they are for the same lines. */
function byLines(weighed: readonly WeighedWay[]): WeighedWay[][] {
  const groups = new Map<string, WeighedWay[]>();
  for (const way of weighed) groups.set(way.lines.join(), [...(groups.get(way.lines.join()) ?? []), way]);
  return [...groups.values()];
}

const grid = {
  display: 'grid',
  gridTemplateColumns: '52px minmax(0, 1fr) 64px 68px 84px',
  columnGap: 1.25,
  alignItems: 'center',
  px: 2,
  fontSize: 13,
} as const;

function Steps({ result }: { result: QueryAnswer }) {
  const steps = inWorkOrder(result.plan);
  const longest = Math.max(...steps.map(({ timeMs }) => timeMs ?? 0), 0.001);
  return (
    <Box role="table" aria-label="Steps">
      <Box
        role="row"
        sx={{ ...grid, height: 28, borderBottom: 1, borderColor: 'divider', fontSize: 11.5, fontWeight: 600, color: 'text.secondary' }}
      >
        <span role="columnheader">lines</span>
        <span role="columnheader">step</span>
        <Box role="columnheader" sx={{ textAlign: 'right' }}>
          rows out
        </Box>
        <Box role="columnheader" sx={{ textAlign: 'right' }}>
          expected
        </Box>
        <span role="columnheader">time</span>
      </Box>
      {steps.map((step, i) => (
        <StepRow key={i} step={step} longest={longest} />
      ))}
    </Box>
  );
}

function StepRow({ step, longest }: { step: PlanStep; longest: number }) {
  const role = roleOf(step.step);
  const far = step.rows !== null && Math.max(step.rows, step.estimatedRows) > 10 * Math.max(1, Math.min(step.rows, step.estimatedRows));
  return (
    <Box role="row" sx={{ ...grid, py: 1, borderBottom: 1, borderColor: 'divider', '&:hover': { bgcolor: (t) => t.roles.form } }}>
      <Box role="cell">
        <Lines lines={step.lines} />
      </Box>
      <Box role="cell" sx={{ minWidth: 0 }}>
        <Box sx={{ fontSize: 13 }}>
          <Box component="b" sx={{ color: (t) => (role === 'other' ? t.roles.ink : t.roles[role]), fontWeight: 650 }}>
            {capital(step.step)}
          </Box>{' '}
          {step.index !== undefined && <Code>{step.keys?.join(', ') ?? step.index}</Code>}
        </Box>
        <Box sx={{ fontSize: 11.5, color: 'text.secondary', overflowWrap: 'anywhere' }}>{figures(step)}</Box>
        {(step.conditions?.length ?? 0) > 1 && <TestedConditions step={step} />}
      </Box>
      <Box role="cell" sx={{ textAlign: 'right', fontWeight: 650 }}>
        {step.rows === null ? '–' : count(step.rows)}
      </Box>
      <Box
        role="cell"
        sx={{ textAlign: 'right', color: far ? 'secondary.main' : 'text.primary' }}
        title={far ? 'Ten times away from what came' : undefined}
      >
        {count(step.estimatedRows)}
        {far && <Box sx={{ fontSize: 10.5 }}>far off</Box>}
      </Box>
      <Box role="cell">
        {step.timeMs !== null && (
          <>
            <Box
              sx={{ height: 8, borderRadius: 0.5, minWidth: 2, width: `${(step.timeMs / longest) * 100}%`, bgcolor: (t) => t.roles[role] }}
            />
            <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>{duration(step.timeMs)}</Box>
          </>
        )}
      </Box>
    </Box>
  );
}

/** The conditions in the order in which they are tested, each with how many documents came to it. */
function TestedConditions({ step }: { step: PlanStep }) {
  return (
    <Box component="ol" aria-label="Conditions as they are tested" sx={{ m: 0, mt: 0.5, pl: 2, fontSize: 11.5, color: 'text.secondary' }}>
      {step.conditions?.map(({ condition, lookedAt }) => (
        <li key={condition}>
          <Code>{condition}</Code> {lookedAt !== null && `looked at ${count(lookedAt)}`}
        </li>
      ))}
    </Box>
  );
}

/** What a step did, in words. */
function figures(step: PlanStep): string {
  const parts: string[] = [];
  if (step.documentsRead) parts.push(`read ${counted(step.documentsRead, 'document')}`);
  if (step.indexEntriesRead) parts.push(`${counted(step.indexEntriesRead, 'index entry', 'index entries')}`);
  if (step.documentsRead && step.rows !== null && step.rows < step.documentsRead)
    parts.push(`kept ${percent(step.rows / step.documentsRead)}`);
  if (step.memoryBytes) parts.push(`held ${bytes(step.memoryBytes)}`);
  if (step.matches) {
    const { none, one, several } = step.matches;
    parts.push(`${count(one)} rows met one partner, ${count(none)} none, ${count(several)} several`);
  }
  return [step.detail, parts.join(', ')].filter((part) => part !== '').join(' · ');
}

export function Lines({ lines }: { lines: readonly number[] }) {
  return (
    <Box
      component="span"
      sx={{
        px: 0.75,
        py: 0.25,
        borderRadius: 0.75,
        fontFamily: codeFont,
        fontSize: 11,
        color: 'secondary.main',
        bgcolor: (t) => veil(t.roles.flowSoft, 0.55),
        whiteSpace: 'nowrap',
      }}
    >
      {linesText(lines)}
    </Box>
  );
}

export function Code({ children }: { children: ReactNode }) {
  return (
    <Box component="code" sx={{ fontSize: 12 }}>
      {children}
    </Box>
  );
}

function Heading({ children }: { children: ReactNode }) {
  return (
    <Box component="h3" sx={{ m: 0, px: 2, pt: 2, pb: 0.75, fontSize: 13, fontWeight: 700 }}>
      {children}
    </Box>
  );
}

const wayGrid = {
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) 130px',
  columnGap: 1.5,
  px: 2,
  py: 0.9,
  alignItems: 'center',
  borderBottom: 1,
  borderColor: 'divider',
  fontSize: 12.5,
} as const;

function WayRow({ way }: { way: WeighedWay }) {
  const useless = way.documentsRead === undefined;
  return (
    <Box sx={wayGrid}>
      <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
        <Box
          component="b"
          sx={{ fontWeight: 650, color: (t) => (useless ? t.roles.softInk : way.way === 'full scan' ? t.roles.scan : t.roles.index) }}
        >
          {useless ? 'Index' : capital(way.way)}
        </Box>{' '}
        {way.keys && <Code>{way.keys.join(', ')}</Code>}{' '}
        <Box component="span" sx={{ color: 'text.secondary', fontSize: 12 }}>
          {way.chosen ? 'chosen: ' : useless ? 'of no use: ' : ''}
          {way.reason}
        </Box>
      </Box>
      <Box sx={{ textAlign: 'right', fontWeight: way.chosen ? 650 : 400 }}>
        {way.documentsRead === undefined ? '–' : `${count(way.documentsRead)} reads`}
      </Box>
    </Box>
  );
}

function SuggestionRow({ suggestion, onBuild, isBuilding }: { suggestion: IndexSuggestion } & PlanViewProps) {
  return (
    <Box sx={{ ...wayGrid, gridTemplateColumns: 'minmax(0, 1fr) 110px auto', py: 1.25, bgcolor: (t) => veil(t.roles.index, 0.06) }}>
      <Box sx={{ minWidth: 0 }}>
        <Box component="b" sx={{ fontWeight: 650, color: (t) => t.roles.index }}>
          If you had
        </Box>{' '}
        <Code>{suggestion.keys.join(', ')}</Code>
        <Box sx={{ color: 'text.secondary', fontSize: 12 }}>{suggestion.reason}</Box>
      </Box>
      <Box sx={{ textAlign: 'right' }}>
        ≈ <b>{count(suggestion.documentsRead)}</b> reads
      </Box>
      <Button variant="outlined" color="info" disabled={isBuilding} onClick={() => onBuild(suggestion.keys)}>
        {isBuilding ? 'Building …' : 'Build and run again'}
      </Button>
    </Box>
  );
}
