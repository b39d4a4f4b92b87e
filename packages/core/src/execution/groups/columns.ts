import type { AggregateName } from '../../language/functions/aggregates.ts';
import type { Column, OwnedBy } from './column.ts';
import { Counts, Holding } from './counts.ts';
import { DistinctCounts, DistinctLists } from './differing.ts';
import { Lists, Percentiles } from './lists.ts';
import { Extremes, Firsts, Lasts } from './picks.ts';
import { Deviations, Sums } from './sums.ts';

/** Aggregates of numbers: others are passed over, and counted as values that could not be used. */
export const numeric: ReadonlySet<AggregateName> = new Set(['sum', 'avg', 'median', 'percentile', 'stddev']);

/** Makes what gathers one measure of all groups. */
export const columns: { readonly [A in AggregateName]: (ownedBy: OwnedBy) => Column } = {
  count: () => new Counts(),
  count_distinct: (ownedBy) => new DistinctCounts(ownedBy),
  sum: () => new Sums(false),
  avg: () => new Sums(true),
  min: (ownedBy) => new Extremes(ownedBy, -1),
  max: (ownedBy) => new Extremes(ownedBy, 1),
  median: () => new Percentiles(),
  percentile: () => new Percentiles(),
  stddev: () => new Deviations(),
  collect: (ownedBy) => new Lists(ownedBy),
  collect_distinct: (ownedBy) => new DistinctLists(ownedBy),
  first: (ownedBy) => new Firsts(ownedBy),
  last: (ownedBy) => new Lasts(ownedBy),
  any: () => new Holding(false),
  every: () => new Holding(true),
};
