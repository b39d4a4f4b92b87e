import type { IndexSuggestion, KeptRun, PlanStep } from '@zesty-sieve/contract';
import { markOf } from '../src/features/bench/output/lineChanges.ts';
import { againstBaseline } from '../src/features/runs/figures.ts';
import { yieldText } from '../src/parts/yieldText.ts';
import { headlineOf } from '../src/parts/plan/headline.ts';
import { linesText, placedInWorkOrder } from '../src/parts/plan/steps.ts';

const step = (name: string, more: Partial<PlanStep> = {}): PlanStep => ({
  step: name,
  detail: '',
  lines: [1],
  estimatedRows: 10,
  rows: 10,
  documentsRead: 0,
  indexEntriesRead: 0,
  timeMs: 1,
  memoryBytes: 0,
  inputs: [],
  ...more,
});
const cost = { documentsRead: 50_000, indexEntriesRead: 0, rowsReturned: 15, memoryBytes: 0, timeMs: 60 };
const suggestion: IndexSuggestion = {
  collection: 'bookings',
  keys: ['@.status'],
  documentsRead: 3_900,
  indexEntriesRead: 3_900,
  insteadOf: 50_000,
  servesOrder: true,
  savings: [],
  reason: '',
  lines: [2],
};

test('steps stand in the order of the work, the partners of a join on a branch of their own', () => {
  const plan = step('limit', {
    inputs: [step('hash join', { inputs: [step('full scan'), step('filter', { inputs: [step('index lookup')] })] })],
  });
  expect(placedInWorkOrder(plan).map(({ step: one, branch }) => [one.step, branch])).toEqual([
    ['full scan', 0],
    ['index lookup', 1],
    ['filter', 1],
    ['hash join', 0],
    ['limit', 0],
  ]);
});

test.each<[number[], string]>([
  [[], ''],
  [[3], '3'],
  [[1, 2, 3], '1–3'],
  [[1, 3], '1, 3'],
  [[1, 2, 4], '1–2, 4'],
  [[3, 5, 6, 7, 9], '3, 5–7, 9'],
])('lines %j are told as %s', (lines, text) => expect(linesText(lines)).toBe(text));

test('one sentence names what costs most, another what would change it', () => {
  const scan = step('full scan', { collection: 'bookings', lines: [1, 2], documentsRead: 50_000, rows: 3_902, timeMs: 41 });
  const plan = step('sort', { lines: [3], timeMs: 9, memoryBytes: 4_000, inputs: [scan] });
  expect(headlineOf(plan, [suggestion], cost)).toEqual({
    costs: 'The full scan of bookings on lines 1–2 takes 82\u00a0% of the time: it reads 50,000 documents for 3,902 rows.',
    change: 'An index on @.status would read about 3,900 documents, without a sort.',
  });
  const sorted = step('sort', { lines: [3], timeMs: 90, memoryBytes: 4_096, inputs: [scan] });
  expect(headlineOf(sorted, [], cost)).toEqual({
    costs: 'The sort on line 3 takes 69\u00a0% of the time: it holds 4 KB for 10 rows.',
    change: 'A limit after the order would let it hold the first rows alone.',
  });
  const lookup = step('index lookup', { collection: 'huts', documentsRead: 15, rows: 15 });
  expect(headlineOf(lookup, [], { ...cost, documentsRead: 15 }).change).toBe('Hardly anything is read that is not returned.');
  const planned = step('full scan', { collection: 'huts', rows: null, documentsRead: null, timeMs: null, estimatedRows: 120 });
  expect(headlineOf(planned, [], undefined).costs).toBe('The full scan of huts on line 1 is expected to give 120 rows.');
});

test.each<[number, number, string]>([
  [0, 5, 'no reads'],
  [50, 0, 'none of use'],
  [5, 5, 'each one of use'],
  [21, 20, 'nearly each one of use'],
  [50_000, 20, 'one in 2,500'],
])('%d documents read for %d rows: %s', (documentsRead, rowsReturned, text) =>
  expect(yieldText({ ...cost, documentsRead, rowsReturned })).toBe(text),
);

test('a run is held against the baseline of its pipeline', () => {
  const run = (documentsRead: number, baselineReads: number | null, baseline = false) =>
    ({ cost: { ...cost, documentsRead }, baselineReads, baseline }) as KeptRun;
  expect(againstBaseline(run(500, 50_000))).toBe('reads 0.01 × its baseline');
  expect(againstBaseline(run(100_000, 50_000))).toBe('reads 2 × its baseline');
  expect(againstBaseline(run(500, 500))).toBe('reads as its baseline');
  expect(againstBaseline(run(500, 0))).toBe('reads 500, its baseline none');
  expect([againstBaseline(run(500, null)), againstBaseline(run(500, 500, true))]).toEqual([undefined, undefined]);
});

test.each<[(string | number)[], string | undefined]>([
  [['total'], 'added'],
  [['hut', 'name'], 'added'],
  [['party', 'size'], 'changed'],
  [['party', 'lead'], undefined],
  [['list', 0, 'x'], 'changed'],
  [['odd name'], 'added'],
])('the column %j is marked %s', (names, mark) => {
  const changes = { added: ['@.total', '@.hut', "@['odd name']"], changed: ['@.party.size', '@.list'], dropped: [] };
  expect(markOf(changes, names)).toBe(mark);
});
