import Box from '@mui/material/Box';
import type { PlanStep } from '@zesty-sieve/contract';
import type { ReactNode } from 'react';
import { codeFont, veil } from '../../app/theme.ts';
import { GridHead, GridRow } from '../Grid.tsx';
import { bytes, count, counted, duration, percent } from '../numbers.ts';
import { capital, linesText, placedInWorkOrder, roleOf } from './steps.ts';

const columns = [
  { id: 'lines', head: 'lines', width: '60px' },
  { id: 'step', head: 'step', width: 'minmax(0, 1fr)' },
  { id: 'rows', head: 'rows out', width: '64px', isFigure: true },
  { id: 'expected', head: 'expected', width: '68px', isFigure: true },
  { id: 'time', head: 'time', width: '84px' },
] as const;
const look = { gap: 1.25, indent: 2 };

/** Long conditions are cut; the whole stands in the title. */
const fewLines = { display: '-webkit-box', WebkitLineClamp: 3, WebkitBoxOrient: 'vertical', overflow: 'hidden' } as const;

interface StepTableProps {
  readonly plan: PlanStep;
  /** Bytes that the run may hold, to set what was held against. */
  readonly memoryGuard?: number;
  /** The line at the cursor, whose steps are marked; and what choosing a step does. */
  readonly line?: number;
  readonly onStep?: (step: PlanStep) => void;
}

/** The steps of a plan in the order of the work, each with the lines that it works for. */
export function StepTable({ plan, memoryGuard, line, onStep }: StepTableProps) {
  const steps = placedInWorkOrder(plan);
  const longest = Math.max(...steps.map(({ step }) => step.timeMs ?? 0), 0.001);
  return (
    <Box role="table" aria-label="Steps">
      <GridHead columns={columns} look={look} />
      {steps.map(({ step, branch }, i) => (
        <StepRow
          key={i}
          step={step}
          branch={branch}
          longest={longest}
          memoryGuard={memoryGuard}
          isHere={line !== undefined && step.lines.includes(line)}
          onStep={onStep}
        />
      ))}
    </Box>
  );
}

function StepRow({
  step,
  branch,
  longest,
  memoryGuard,
  isHere,
  onStep,
}: {
  step: PlanStep;
  branch: number;
  longest: number;
  isHere: boolean;
} & Pick<StepTableProps, 'memoryGuard' | 'onStep'>) {
  const role = roleOf(step.step);
  const far = step.misestimated;
  return (
    <GridRow
      columns={columns}
      look={look}
      aria-current={isHere ? 'step' : undefined}
      onClick={onStep && (() => onStep(step))}
      sx={{
        py: 1,
        fontSize: 13,
        ...(isHere && { bgcolor: (t) => veil(t.roles.flowSoft, 0.3), boxShadow: (t) => `inset 3px 0 ${t.roles.flow}` }),
        '&:hover': { bgcolor: (t) => t.roles.form },
      }}
      cells={{
        lines: onStep ? (
          <Box
            component="button"
            type="button"
            aria-label={`Show ${step.lines.length === 1 ? 'line' : 'lines'} ${linesText(step.lines)}`}
            sx={{ all: 'unset', cursor: 'pointer', '&:focus-visible': { outline: 'auto' } }}
          >
            <Lines lines={step.lines} />
          </Box>
        ) : (
          <Lines lines={step.lines} />
        ),
        step: {
          sx: { minWidth: 0, pl: branch * 2, ...(branch > 0 && { borderLeft: 2, borderColor: 'divider' }) },
          shown: <StepText step={step} memoryGuard={memoryGuard} />,
        },
        rows: { sx: { fontWeight: 650 }, shown: step.rows === null ? '–' : count(step.rows) },
        expected: {
          sx: { color: far ? 'secondary.main' : 'text.primary' },
          title: far ? `What came is ${count(far)} times away from what was expected` : undefined,
          shown: (
            <>
              {count(step.estimatedRows)}
              {far && <Box sx={{ fontSize: 10.5 }}>{count(far)} × off</Box>}
            </>
          ),
        },
        time: step.timeMs !== null && (
          <>
            <Box
              sx={{ height: 8, borderRadius: 0.5, minWidth: 2, width: `${(step.timeMs / longest) * 100}%`, bgcolor: (t) => t.roles[role] }}
            />
            <Box
              title={step.timeIsEstimated && 'Taken together with the other steps of one loop, and shared out by their work'}
              sx={{ fontSize: 11.5, color: 'text.secondary' }}
            >
              {step.timeIsEstimated && '≈ '}
              {duration(step.timeMs)}
            </Box>
          </>
        ),
      }}
    />
  );
}

/** What a step is, what it goes by, and what it did. */
function StepText({ step, memoryGuard }: { readonly step: PlanStep } & Pick<StepTableProps, 'memoryGuard'>) {
  const role = roleOf(step.step);
  return (
    <>
      <Box sx={{ fontSize: 13 }}>
        <Box component="b" sx={{ color: (t) => (role === 'other' ? t.roles.ink : t.roles[role]), fontWeight: 650 }}>
          {capital(step.step)}
        </Box>{' '}
        {step.index !== undefined && <Code>{step.keys?.join(', ') ?? step.index}</Code>}
      </Box>
      <Box title={step.detail} sx={{ fontSize: 11.5, color: 'text.secondary', overflowWrap: 'anywhere', ...fewLines }}>
        {step.detail}
      </Box>
      <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>{figures(step, memoryGuard)}</Box>
      {(step.conditions?.length ?? 0) > 1 && <TestedConditions step={step} />}
    </>
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

/** Of the guard: holding less is of no concern. */
const worthTelling = 0.05;

/** What a step did, in words. */
function figures(step: PlanStep, memoryGuard: number | undefined): string {
  const parts: string[] = [];
  if (step.documentsRead) parts.push(`read ${counted(step.documentsRead, 'document')}`);
  if (step.indexEntriesRead) parts.push(`${counted(step.indexEntriesRead, 'index entry', 'index entries')}`);
  if (step.documentsRead && step.rows !== null && step.rows < step.documentsRead)
    parts.push(`kept ${percent(step.rows / step.documentsRead)}`);
  if (step.memoryBytes)
    parts.push(
      `held ${bytes(step.memoryBytes)}${memoryGuard && step.memoryBytes > memoryGuard * worthTelling ? ` of ${bytes(memoryGuard)} allowed` : ''}`,
    );
  if (step.matches) {
    const { none, one, several } = step.matches;
    parts.push(`${count(one)} rows met one partner, ${count(none)} none, ${count(several)} several`);
  }
  return parts.join(', ');
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
        bgcolor: (t) => veil(t.roles.flowSoft, 0.42),
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
