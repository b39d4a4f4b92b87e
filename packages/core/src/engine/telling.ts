import { namedIndexes } from '../planner/advice.ts';
import { GuardTripped, RunCancelled } from '../execution/guards.ts';
import type { Run } from '../execution/run.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import type { PhysicalPlan, PhysicalStep, StepKind } from '../planner/physical.ts';
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

/** Steps that a condition's line shares with the line that names the collection. */
const readsDocuments: ReadonlySet<StepKind> = new Set(['fullScan', 'indexScan', 'indexSetScan']);

/** What each line gave and what it cost. */
export function linesOf({ lines }: PhysicalPlan, run: Run): LineResult[] {
  return lines.map(({ line, step, counts }, i) => {
    const meter = run.meter.of(step);
    const rowsOut =
      counts === 'read'
        ? meter.documentsRead + meter.handedOver
        : counts === 'in'
          ? meter.rowsIn
          : counts === 'inner'
            ? (meter.inner.get(line) ?? 0)
            : meter.rowsOut;
    // A step that works for several lines gives its time to one: a scan with a condition, to the condition.
    const own = lines.filter((other) => other.step === step);
    const payer = readsDocuments.has(step.kind) ? own[Math.min(1, own.length - 1)] : own[0];
    return { line, rowsOut, timeMs: lines[i] === payer ? meter.timeMs : 0, stoppedEarly: meter.stoppedEarly };
  });
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
