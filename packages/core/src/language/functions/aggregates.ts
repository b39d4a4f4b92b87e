/** An aggregate of `measure`: what it takes, what it gives, what it does. */
export interface Aggregate {
  readonly takes: 'nothing' | 'value' | 'condition' | 'value and percentage';
  readonly result: 'number' | 'boolean' | 'array' | 'value';
  /** Whether it depends on the order in which rows come. */
  readonly ordered: boolean;
  /** Whether it gives one of the values, the first of those that are equal: `{a, b}` and `{b, a}` are, and are written otherwise. */
  readonly picks?: boolean;
  readonly doc: string;
  readonly example: string;
}

const number = (doc: string, example: string): Aggregate => ({ takes: 'value', result: 'number', ordered: false, doc, example });
const value = (doc: string, example: string, ordered = false): Aggregate => ({
  takes: 'value',
  result: 'value',
  ordered,
  picks: true,
  doc,
  example,
});

/** Every aggregate of the notation. Missing and null are passed over. */
export const aggregates = {
  count: { takes: 'nothing', result: 'number', ordered: false, doc: 'How many rows.', example: 'count()' },
  count_distinct: number('How many different values.', 'count_distinct(@.hutId)'),
  sum: number('The sum of the numbers.', 'sum(@.fee)'),
  avg: number('The mean of the numbers.', 'avg(@.party.size)'),
  min: value('The least value, in the order of values.', 'min(@.arrivesOn)'),
  max: value('The greatest value, in the order of values.', 'max(@.arrivesOn)'),
  median: number('The median of the numbers.', 'median(@.fee)'),
  percentile: {
    takes: 'value and percentage',
    result: 'number',
    ordered: false,
    doc: 'A percentile of the numbers, 0 to 100, interpolated linearly between neighbours.',
    example: 'percentile(@.fee, 95)',
  },
  stddev: number('The standard deviation of the numbers, taken as a sample.', 'stddev(@.fee)'),
  collect: { takes: 'value', result: 'array', ordered: true, doc: 'All values, in the order of the rows.', example: 'collect(@.id)' },
  collect_distinct: {
    takes: 'value',
    result: 'array',
    ordered: true,
    doc: 'The different values, in order of first appearance.',
    example: 'collect_distinct(@.channel)',
  },
  first: value('The value of the first row that has one.', 'first(@.bookedAt)', true),
  last: value('The value of the last row that has one.', 'last(@.bookedAt)', true),
  any: {
    takes: 'condition',
    result: 'boolean',
    ordered: false,
    doc: 'Whether a condition holds for any row.',
    example: 'any(@.status == "lost")',
  },
  every: {
    takes: 'condition',
    result: 'boolean',
    ordered: false,
    doc: 'Whether a condition holds for every row.',
    example: 'every(@.party.size > 1)',
  },
} as const satisfies Record<string, Aggregate>;

export type AggregateName = keyof typeof aggregates;
export const aggregateNames = Object.keys(aggregates) as AggregateName[];

export function isAggregate(name: string): name is AggregateName {
  return Object.hasOwn(aggregates, name);
}
