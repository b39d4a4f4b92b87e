import { costs, sortCost } from './cost.ts';
import { inputsOf, type PhysicalStep, type StepKind } from './physical.ts';

type CostOf<S extends PhysicalStep> = (step: S) => number;
const rowsInto = ({ input }: { readonly input: PhysicalStep }): number => input.estimatedRows;

/** What each step costs by itself, from the rows that are expected to come to it. A scan's share was weighed with its path. */
const ownCost: { readonly [K in StepKind]: CostOf<Extract<PhysicalStep, { kind: K }>> } = {
  fullScan: ({ cost }) => cost,
  indexScan: ({ cost }) => cost,
  indexSetScan: ({ cost }) => cost,
  positionsScan: ({ cost }) => cost,
  indexAggregate: ({ cost }) => cost,
  scoredScan: ({ cost }) => cost,
  fusedScan: ({ cost }) => cost,
  filter: (step) => rowsInto(step) * costs.filteredRow,
  project: (step) => rowsInto(step) * costs.madeRow,
  omit: (step) => rowsInto(step) * costs.madeRow,
  compute: (step) => rowsInto(step) * costs.madeRow,
  unnest: ({ estimatedRows }) => estimatedRows * costs.madeRow,
  hashJoin: ({ match, input, partners, estimatedRows }) =>
    (match.leftKeys.length === 0
      ? input.estimatedRows * partners.estimatedRows * costs.testedPair
      : partners.estimatedRows * (costs.builtPartner - 1) + input.estimatedRows * costs.probedRow) +
    estimatedRows * costs.joinedRow,
  indexJoin: ({ input, estimatedRows }) => input.estimatedRows * costs.lookup + estimatedRows * costs.joinedRow,
  group: ({ input, estimatedRows }) => input.estimatedRows * costs.groupedRow + estimatedRows * costs.madeGroup,
  rank: (step) =>
    rowsInto(step) * costs.madeRow + (step.atMost === undefined ? sortCost(rowsInto(step), undefined) : rowsInto(step) * costs.topNRow),
  sort: (step) => sortCost(rowsInto(step), undefined),
  topNSort: (step) => sortCost(rowsInto(step), step.count),
  partialSort: (step) => rowsInto(step) * costs.partialRow,
  best: (step) =>
    rowsInto(step) * step.rankings.reduce((sum, { index }) => sum + costs.topNRow + (index === undefined ? costs.scoredRow : 0), 0),
  countWords: ({ documents, calls }) => documents * costs.scoredRow * calls.filter(({ index }) => index === undefined).length,
  sample: (step) => rowsInto(step) * costs.sampledRow,
  offset: () => 0,
  limit: () => 0,
};

/** What a whole plan costs: its scans, joins, groups and sorts together, in units of reading one document in a scan. */
export function planCost(step: PhysicalStep): number {
  const own = (ownCost[step.kind] as CostOf<PhysicalStep>)(step);
  return inputsOf(step).reduce((sum, input) => sum + planCost(input), own);
}
