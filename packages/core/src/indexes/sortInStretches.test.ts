import fc from 'fast-check';
import type { Value } from '../values/json.ts';
import { compareValues } from '../values/order.ts';
import { sortInStretches } from './sortInStretches.ts';

/** So many entries that several stretches are sorted and merged. */
const length = 100_000;

function sorted(columns: readonly (readonly Value[])[], directions: readonly ('asc' | 'desc')[]) {
  const shares: number[] = [];
  const steps = sortInStretches(columns, directions, columns[0].length);
  for (;;) {
    const step = steps.next();
    if (step.done) return { order: step.value, shares };
    shares.push(step.value);
  }
}

function expectOrder(order: Uint32Array, columns: readonly (readonly Value[])[], directions: readonly ('asc' | 'desc')[]): void {
  expect(new Set(order).size).toBe(columns[0].length);
  const wrong = order.findIndex((row, i) => {
    if (i === 0) return false;
    const before = order[i - 1];
    const k = columns.findIndex((column) => compareValues(column[before], column[row]) !== 0);
    if (k < 0) return before > row;
    return compareValues(columns[k][before], columns[k][row]) * (directions[k] === 'desc' ? -1 : 1) > 0;
  });
  expect(wrong).toBe(-1);
}

test.each<[string, (i: number) => Value[], ('asc' | 'desc')[]]>([
  ['numbers, many alike', (i) => [(i * 7919) % 1_000], ['asc']],
  ['texts, all different, falling', (i) => [`guest ${(i * 7919) % length}`], ['desc']],
  ['sorted already', (i) => [i], ['asc']],
  ['sorted the other way', (i) => [-i], ['asc']],
  ['two keys, null and missing among them', (i) => [i % 5 === 0 ? null : i % 5 === 1 ? undefined : i % 3, (i * 31) % 77], ['asc', 'desc']],
  ['texts beyond the basic plane', (i) => [i % 3 ? `😀${i % 97}` : `\uffff${i % 89}`], ['asc']],
  ['values of all kinds', (i) => [[true, i % 9, `t${i % 8}`, [i % 3], { a: i % 2 }, null, undefined][i % 7]], ['desc']],
])('%s', (_, valuesOf, directions) => {
  const rows = Array.from({ length }, (_, i) => valuesOf(i));
  const columns = directions.map((_, k) => rows.map((row) => row[k]));
  const { order, shares } = sorted(columns, directions);
  expectOrder(order, columns, directions);
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares.length).toBeGreaterThan(2);
  expect(shares[shares.length - 1]).toBeCloseTo(1, 1);
});

test('any few entries, of any values', () => {
  const value = fc.constantFrom<Value>(undefined, null, 0, 1, 2, 'a', 'b', '', true, false, [1], [1, 2], { a: 1 });
  const directions = fc.constantFrom<'asc' | 'desc'>('asc', 'desc');
  fc.assert(
    fc.property(fc.array(fc.tuple(value, value), { maxLength: 30 }), fc.tuple(directions, directions), (rows, ways) => {
      const columns = [rows.map(([first]) => first), rows.map(([, second]) => second)];
      expectOrder(sorted(columns, ways).order, columns, ways);
    }),
    { numRuns: 400 },
  );
});
