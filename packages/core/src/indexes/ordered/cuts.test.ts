import fc from 'fast-check';
import type { Value } from '../../values/json.ts';
import { equalValues } from '../../values/equality.ts';
import { compareText } from '../../values/order.ts';
import {
  beginningWith,
  comparedTo,
  compareToCut,
  empty,
  exactly,
  intersect,
  missing,
  nulls,
  present,
  valued,
  type Interval,
} from './cuts.ts';
import { rangesInTurn } from './rangeOrder.ts';
import type { IndexRange } from './sortedEntries.ts';

const holds = (value: Value, { low, high }: Interval) => compareToCut(value, low) > 0 && compareToCut(value, high) < 0;
const values: readonly Value[] = [
  undefined,
  null,
  false,
  true,
  -1,
  0,
  1,
  2,
  '',
  'a',
  'ab',
  'abc',
  'b',
  '\uffff',
  '😀',
  [],
  [1],
  {},
  { a: 1 },
];
const value = fc.constantFrom(...values);
const bound = fc.constantFrom(...values.slice(1));
const operators = ['<', '<=', '>', '>='] as const;

/** Comparison as the notation has it. */
function compares(a: Value, operator: (typeof operators)[number], b: Value): boolean {
  const flipped = operator.startsWith('>') ? compares(b, operator === '>' ? '<' : '<=', a) : undefined;
  if (flipped !== undefined) return flipped;
  if (operator === '<=' && equalValues(a, b)) return true;
  if (typeof a === 'number' && typeof b === 'number') return a < b;
  return typeof a === 'string' && typeof b === 'string' && compareText(a, b) < 0;
}

test('an interval of a comparison holds just the values for which it is true', () => {
  for (const one of values)
    for (const other of values.slice(1))
      for (const operator of operators) {
        const interval = comparedTo(operator, other);
        expect([one, operator, other, interval !== undefined && holds(one, interval)]).toEqual([
          one,
          operator,
          other,
          compares(one, operator, other),
        ]);
      }
});

test('of null and missing, each stands in the intervals that are named for it', () => {
  const named = { present, nulls, missing, empty, valued };
  const told = (one: Value) => Object.entries(named).flatMap(([name, interval]) => (holds(one, interval) ? [name] : []));
  expect([told(undefined), told(null), told(0), told('')]).toEqual([
    ['missing', 'empty'],
    ['present', 'nulls', 'empty'],
    ['present', 'valued'],
    ['present', 'valued'],
  ]);
});

const interval: fc.Arbitrary<Interval> = fc.oneof(
  bound.map(exactly),
  fc.tuple(fc.constantFrom(...operators), bound).map(([operator, one]) => comparedTo(operator, one) ?? exactly(one)),
  fc.constantFrom('', 'a', 'ab', 'b', '\uffff').map(beginningWith),
  fc.constantFrom(present, nulls, missing, empty, valued),
);

test('a prefix’s interval holds the texts that begin with it', () => {
  fc.assert(
    fc.property(value, fc.constantFrom('', 'a', 'ab', '😀'), (one, prefix) =>
      expect(holds(one, beginningWith(prefix))).toBe(typeof one === 'string' && one.startsWith(prefix)),
    ),
  );
});

test('what two intervals share is what both hold', () => {
  fc.assert(
    fc.property(interval, interval, value, (a, b, one) => {
      const shared = intersect(a, b);
      expect(shared !== undefined && holds(one, shared)).toBe(holds(one, a) && holds(one, b));
    }),
    { numRuns: 3_000 },
  );
});

describe('ranges of an index', () => {
  const key = fc.constantFrom<Value>(0, 1, 2, 'a', null);
  const range: fc.Arbitrary<IndexRange> = fc.oneof(
    fc.tuple(key, key).map((fixed) => ({ fixed })),
    fc.tuple(key, interval).map(([first, second]) => ({ fixed: [first], interval: second })),
    interval.map((first) => ({ fixed: [], interval: first })),
    key.map((first) => ({ fixed: [first] })),
  );
  const inRange = (entry: readonly Value[], { fixed, interval: rest }: IndexRange) =>
    fixed.every((one, k) => equalValues(one, entry[k])) && (rest === undefined || holds(entry[fixed.length], rest));
  const entries = [0, 1, 2, 'a', null].flatMap((a) => [0, 1, 2, 'a', null].map((b): Value[] => [a, b]));

  test('stand in turn where they share no entry, each before the next', () => {
    fc.assert(
      fc.property(fc.array(range, { minLength: 1, maxLength: 4 }), (ranges) => {
        const laid = rangesInTurn(ranges, ['asc', 'asc']);
        if (laid === undefined) return;
        const held = laid.ranges.map((one) => entries.map((entry, i) => (inRange(entry, one) ? i : -1)).filter((i) => i >= 0));
        // Entries are listed in the order of the index, so that ranges in turn hold ever later ones.
        expect(held.flat()).toEqual([...held.flat()].sort((a, b) => a - b));
        expect(new Set(held.flat()).size).toBe(held.flat().length);
      }),
      { numRuns: 2_000 },
    );
  });

  test.each<[string, IndexRange[], IndexRange[] | undefined]>([
    ['points', [{ fixed: ['b'] }, { fixed: ['a'] }], [{ fixed: ['a'] }, { fixed: ['b'] }]],
    [
      'a value and what is above it',
      [
        { fixed: [], interval: comparedTo('>', 5) },
        { fixed: [5], interval: comparedTo('>', 'x') },
      ],
      [
        { fixed: [5], interval: comparedTo('>', 'x') },
        { fixed: [], interval: comparedTo('>', 5) },
      ],
    ],
    [
      'a value and what is from it on',
      [
        { fixed: [], interval: comparedTo('>=', 5) },
        { fixed: [5], interval: comparedTo('>', 'x') },
      ],
      undefined,
    ],
    ['all and a part', [{ fixed: [] }, { fixed: [1] }], undefined],
    ['the same twice', [{ fixed: [1] }, { fixed: [1] }], undefined],
  ])('%s', (_, ranges, expected) => expect(rangesInTurn(ranges, ['asc', 'asc'])?.ranges).toEqual(expected));

  test('a falling key turns them round', () => {
    const ranges = [{ fixed: [1] }, { fixed: [2] }];
    expect(rangesInTurn(ranges, ['desc', 'asc'])?.ranges).toEqual([...ranges].reverse());
  });
});
