import { RowList } from '../execution/rowList.ts';
import { KeptRuns } from './keptRuns.ts';

const minute = 60_000;
const rowsOf = (count: number, size: number) => Array.from({ length: count }, (_, i) => ({ id: i, text: 'x'.repeat(size) }));
const listed = (rows: readonly { id: number }[]) => {
  const list = new RowList();
  list.add([...rows]);
  return list;
};
const run = (rows: readonly { id: number }[]) => ({
  rows: listed(rows),
  collection: 'huts',
  rowsReturned: rows.length,
  approximate: null,
});

test('a run is found again for ten minutes after it was last looked at, and goes when others come after that', () => {
  let now = 0;
  const kept = new KeptRuns(() => now);
  kept.keep('a', run(rowsOf(2, 1)), true);
  now = 9 * minute;
  expect(kept.find('a')?.rows).toHaveLength(2);
  now = 18 * minute;
  kept.keep('b', run(rowsOf(1, 1)), true);
  expect(kept.find('a')?.rowsReturned).toBe(2);
  now = 40 * minute;
  kept.keep('c', run(rowsOf(1, 1)), true);
  expect([kept.find('a'), kept.find('b')]).toEqual([undefined, undefined]);
  expect(kept.find('c')).toBeDefined();
  expect(kept.find('nobody')).toBeUndefined();
});

test('beyond the bound on memory those go first that were looked at longest ago; the newest stays however large', () => {
  const kept = new KeptRuns(() => 0);
  // Some 100 MB each.
  const large = run(rowsOf(1_000, 100_000));
  for (const id of ['a', 'b']) kept.keep(id, large, true);
  kept.find('a');
  kept.keep('c', large, true);
  expect(['a', 'b', 'c'].filter((id) => kept.find(id) !== undefined)).toEqual(['a', 'c']);
  kept.keep('huge', run(rowsOf(1_000, 300_000)), true);
  expect(['a', 'c', 'huge'].filter((id) => kept.find(id) !== undefined)).toEqual(['huge']);
});

test('rows that are resident documents cost little to keep', () => {
  const kept = new KeptRuns(() => 0);
  const large = run(rowsOf(1_000, 50_000));
  const names = Array.from({ length: 50 }, (_, i) => `run ${i}`);
  for (const id of names) kept.keep(id, large, false);
  expect(names.filter((id) => kept.find(id) !== undefined)).toEqual(names);
});
