import fc from 'fast-check';
import { keyOf } from '../../values/keys.ts';
import type { Json, Value } from '../../values/json.ts';
import { columns } from './columns.ts';

type Reference = (values: readonly Json[]) => Value;

const numbersOf = (values: readonly Json[]) => values as readonly number[];
const differing = (values: readonly Json[]) => [...new Map([...values].reverse().map((value) => [keyOf(value), value])).values()].reverse();
const median = (values: readonly Json[]): Value => {
  const sorted = [...numbersOf(values)].sort((a, b) => a - b);
  const middle = (sorted.length - 1) / 2;
  return sorted.length === 0 ? undefined : (sorted[Math.floor(middle)] + sorted[Math.ceil(middle)]) / 2;
};

/** What each gives of one group by itself. Whole numbers, so that the reference is exact too. */
const references: { readonly [A in keyof typeof columns]?: Reference } = {
  count: (values) => values.length,
  sum: (values) => (values.length === 0 ? undefined : numbersOf(values).reduce((a, b) => a + b, 0)),
  avg: (values) => (values.length === 0 ? undefined : numbersOf(values).reduce((a, b) => a + b, 0) / values.length),
  min: (values) => (values.length === 0 ? undefined : Math.min(...numbersOf(values))),
  max: (values) => (values.length === 0 ? undefined : Math.max(...numbersOf(values))),
  median,
  collect: (values) => [...values],
  count_distinct: (values) => new Set(values).size,
  collect_distinct: (values) => differing(values).sort((a, b) => values.indexOf(a) - values.indexOf(b)),
  first: (values) => values[0],
  last: (values) => values.at(-1),
};

describe.each(Object.keys(references) as (keyof typeof references)[])('%s', (aggregate) => {
  test('gives of each group what it gives of that group alone, however they are mixed and however many there are', () => {
    const arrivals = fc.array(fc.tuple(fc.nat(40), fc.integer({ min: -50, max: 50 })), { maxLength: 300 });
    fc.assert(
      fc.property(arrivals, (rows) => {
        const column = columns[aggregate](() => 1);
        let room = 0;
        for (const [group, value] of rows) {
          // As the operator does: room is made when it is needed.
          for (; group >= room; column.grow(room)) room = Math.max(1, room * 2);
          column.add(group, value);
        }
        for (let group = 0; group < room; group++) {
          const own = rows.filter(([of]) => of === group).map(([, value]) => value);
          expect(column.result(group, 50)).toEqual(references[aggregate]?.(own));
        }
        expect(column.held).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});

test('any and every of a group that nothing came to are what they are of nothing', () => {
  for (const [aggregate, turnedBy, empty] of [
    ['any', true, false],
    ['every', false, true],
  ] as const) {
    const column = columns[aggregate](() => 0);
    column.grow(2);
    column.add(1, turnedBy);
    column.add(1, !turnedBy);
    expect([column.result(0, 50), column.result(1, 50)]).toEqual([empty, !empty]);
  }
});

test('sums of each group are exact, whatever the others have', () => {
  const column = columns.sum(() => 0);
  column.grow(2);
  for (const value of [1e308, 1, 1e308, -1e308, -1e308]) column.add(1, value);
  for (const value of [0.1, 0.2, 0.3, -0.3, -0.2]) column.add(0, value);
  expect([column.result(0, 50), column.result(1, 50)]).toEqual([0.1, 1]);
});
