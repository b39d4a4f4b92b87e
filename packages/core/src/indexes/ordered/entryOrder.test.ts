import { entryOrder } from './entryOrder.ts';
import type { Value } from '../../values/json.ts';
import { compareValues, type Direction, type NullsPlace } from '../../values/order.ts';
import { orderInSteps, type OrderColumn } from '../../values/orderInSteps.ts';

/** So many rows that the work is done in several steps. */
const length = 100_000;

function ordered(columns: readonly OrderColumn[]) {
  const shares: number[] = [];
  const steps = orderInSteps(columns, length);
  for (;;) {
    const step = steps.next();
    if (step.done) return { order: step.value, shares };
    shares.push(step.value);
  }
}

const isEmpty = (value: Value) => value === undefined || value === null;

/** Where the order of two rows is wrong by one key; zero where they tie. */
function compared(a: Value, b: Value, direction: Direction, nulls: NullsPlace | 'apart'): number {
  if (nulls !== 'apart' && (isEmpty(a) || isEmpty(b))) return isEmpty(a) === isEmpty(b) ? 0 : isEmpty(a) === (nulls === 'first') ? -1 : 1;
  return compareValues(a, b) * (direction === 'desc' ? -1 : 1);
}

describe.each<[string, (i: number) => Value[], Direction[]]>([
  ['numbers, many alike', (i) => [(i * 7919) % 1_000], ['asc']],
  ['numbers of all sizes', (i) => [Math.sin(i) * 10 ** (i % 20)], ['desc']],
  ['texts, all different, falling', (i) => [`guest ${(i * 7919) % length}`], ['desc']],
  ['texts, all different, rising', (i) => [i % 7 === 0 ? null : `guest ${length + i}`], ['asc']],
  ['texts that differ late', (i) => [`${'the same beginning '.repeat(1 + (i % 3))}${(i * 7919) % length}`], ['asc']],
  ['few texts', (i) => [['late', 'held', 'done', null, undefined][i % 5]], ['asc']],
  ['sorted already', (i) => [i], ['asc']],
  ['sorted the other way', (i) => [-i], ['asc']],
  ['two keys, null and missing among them', (i) => [i % 5 === 0 ? null : i % 5 === 1 ? undefined : i % 3, (i * 31) % 77], ['asc', 'desc']],
  ['texts beyond the basic plane', (i) => [i % 3 ? `😀${i % 97}` : `\uffff${i % 89}`], ['asc']],
  ['numbers and texts, all different', (i) => [i % 2 ? (i * 7919) % length : `n ${(i * 7919) % length}`], ['desc']],
  ['values of all kinds', (i) => [[true, false, i % 9, `t${i % 8}`, [i % 3], { a: i % 2 }, null, undefined][i % 8]], ['desc']],
])('%s', (_, valuesOf, directions) => {
  const rows = Array.from({ length }, (_, i) => valuesOf(i));
  const column = (k: number) => rows.map((row) => row[k]);
  test.each<NullsPlace | 'apart'>(['first', 'last', 'apart'])('null and missing %s', (nulls) => {
    const columns = directions.flatMap((direction, k) =>
      nulls === 'apart' ? entryOrder(column(k), direction) : [{ values: column(k), direction, nulls }],
    );
    const { order, shares } = ordered(columns);
    expect(new Set(order).size).toBe(length);
    const wrong = order.findIndex((row, i) => {
      if (i === 0) return false;
      const before = order[i - 1];
      const differs = directions.map((direction, k) => compared(rows[before][k], rows[row][k], direction, nulls)).find((by) => by !== 0);
      return differs === undefined ? before > row : differs > 0;
    });
    expect(wrong).toBe(-1);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.every((share) => share >= 0 && share <= 1)).toBe(true);
  });
});
