import { namedIndexes } from '../planner/advice.ts';
import { GuardTripped, RunCancelled } from '../execution/guards.ts';
import type { Run } from '../execution/run.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import { inputsOf, type PhysicalPlan, type PhysicalStep, type StepKind } from '../planner/physical.ts';
import type { Planned } from '../planner/plan.ts';
import { describePlan, type DefinitionOf, type PlanNode } from './describePlan.ts';
import type { EngineProblem, Explained, LineResult } from './requests.ts';

/** The plan in words is made when it is read: it takes longer than many a run. */
export function explain(planned: Planned, definitions: DefinitionOf, whatIf: readonly IndexDefinition[], run?: Run): Explained {
  const definitionOf: DefinitionOf = (collection, name) =>
    whatIf.find((definition) => definition.name === name) ?? definitions(collection, name);
  let plan: PlanNode | undefined;
  return {
    rewrites: planned.rewrites,
    get suggestions() {
      return planned.suggestions;
    },
    get plan() {
      const figures = run && { meterOf: (step: PhysicalStep) => run.meter.of(step), cutShort: run.watch.cutShort };
      return (plan ??= describePlan(planned.physical.root, definitionOf, figures));
    },
    get weighed() {
      return planned.weighed;
    },
  };
}

/** What each line gave and what it cost. */
export function linesOf({ root, lines }: PhysicalPlan, run: Run): LineResult[] {
  const times = timesByLine(root, run);
  return lines.map(({ line, step, counts }) => {
    const meter = run.meter.of(step);
    const rowsOut = {
      read: meter.documentsRead + meter.handedOver,
      in: meter.rowsIn,
      inner: meter.inner.get(line) ?? 0,
      out: meter.rowsOut,
    }[counts];
    return { line, rowsOut, timeMs: times.get(line) ?? 0, stoppedEarly: meter.stoppedEarly };
  });
}

/** Steps that a condition's line shares with the line that names the collection. */
const readsDocuments: ReadonlySet<StepKind> = new Set(['fullScan', 'indexScan', 'indexSetScan', 'positionsScan']);

/** The time of every step goes to one of its lines: a scan's with a condition to the condition, others' to the first. */
function timesByLine(root: PhysicalStep, run: Run): ReadonlyMap<number, number> {
  const times = new Map<number, number>();
  const add = (step: PhysicalStep): void => {
    const { kind, lines } = step;
    const payer = lines[readsDocuments.has(kind) ? Math.min(1, lines.length - 1) : 0];
    times.set(payer, (times.get(payer) ?? 0) + run.meter.of(step).timeMs);
    inputsOf(step).forEach(add);
  };
  add(root);
  return times;
}

const whole = new Intl.NumberFormat('en');

function megabytes(bytes: number): string {
  return `${(bytes / 1024 / 1024).toFixed(1)} MB`;
}

/**
 * Why a run came to no end: it was cancelled, or a guard ended it, with how far it had come and what would help.
 * @throws anything else
 */
export function problemOf(error: unknown, run: Run, planned: Planned, definitionOf: DefinitionOf): EngineProblem {
  if (error instanceof RunCancelled) return { kind: 'cancelled', message: 'The run was cancelled.' };
  if (!(error instanceof GuardTripped)) throw error;
  const { guard, step, reached, limit } = error;
  const [line] = step.lines;
  const help = planned.suggestions
    .map(
      (one) => ` ${namedIndexes(one)} would help: ${one.beside ? `they ${one.reason.replace(/^serves/, 'serve')}` : `it ${one.reason}`}.`,
    )
    .join('');
  const told = {
    time: `Line ${line} was stopped after ${whole.format(reached)} ms; the guard allows ${whole.format(limit)} ms.`,
    'documents-read': `Line ${line} was stopped after ${whole.format(reached)} documents read, which is all that the guard allows.`,
    memory: `Line ${line} was stopped holding ${megabytes(reached)} in memory; the guard allows ${megabytes(limit)}.`,
  }[guard];
  const explained = explain(planned, definitionOf, [], run);
  return {
    kind: `guard-${guard}`,
    message: told + help,
    line,
    reached,
    limit,
    suggestions: planned.suggestions,
    cost: run.costs,
    explained,
  };
}
