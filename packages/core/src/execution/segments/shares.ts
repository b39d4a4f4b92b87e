import type { PhysicalStep } from '../../planner/physical.ts';
import { costs } from '../../planner/cost.ts';
import { SharedTime, type Meter, type StepMeter } from '../meter.ts';
import { isEnd, type EndStep, type Segment } from './segment.ts';
import type { RowStepKind } from './steps/registry.ts';

type Work = (meter: StepMeter, step: PhysicalStep) => number;

const tested: Work = ({ lookedAt }) => lookedAt.reduce((sum, rows) => sum + rows, 0);
const joined: Work = ({ rowsIn, rowsOut, held }) => rowsIn * costs.probedRow + rowsOut + (held / heldPerPartner) * costs.builtPartner;
/** About what a partner takes in a table. */
const heldPerPartner = 80;

/** What each kind of step does in a loop, in units of looking at a document. */
const works: { readonly [K in RowStepKind | EndStep['kind'] | 'fullScan']: Work } = {
  fullScan: (meter, step) => meter.documentsRead + tested(meter, step),
  filter: tested,
  compute: ({ rowsIn }, step) => rowsIn * (step.kind === 'compute' ? step.assignments.length : 1),
  project: ({ rowsIn }, step) => rowsIn * (step.kind === 'project' ? step.items.length : 1),
  omit: ({ rowsIn }) => rowsIn * 2,
  unnest: ({ rowsIn, rowsOut }) => rowsIn + rowsOut,
  hashJoin: joined,
  topNSort: ({ rowsIn }) => rowsIn * costs.topNRow,
  rank: ({ rowsIn }) => rowsIn * costs.topNRow,
  group: ({ rowsIn, inner }, step) => {
    const taken = Math.max(rowsIn, ...inner.values());
    return taken * costs.groupedRow * (step.kind === 'group' ? 1 + step.measures.length : 1);
  },
};

/** Has the steps of a loop share its time. One alone has all of it. */
export function sharedTime({ scan, steps }: Segment, end: PhysicalStep, meter: Meter): void {
  const all: readonly PhysicalStep[] = [...(scan === undefined ? [] : [scan]), ...steps, ...(isEnd(end) ? [end] : [])];
  if (all.length < 2) return;
  const shared = new SharedTime();
  for (const step of all) {
    const own = meter.of(step);
    // Rows are made where they leave.
    const leaving = (): number => (step === end && !isEnd(end) && end.kind !== 'filter' ? own.rowsOut * (costs.madeRow / 2) : 0);
    shared.add(own, () => works[step.kind as keyof typeof works](own, step) + leaving());
  }
}
