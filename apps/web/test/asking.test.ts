import type { ComparisonAnswer, Problem, QueryAnswer } from '@zesty-sieve/contract';
import { indexesText, againstBaseline } from '../src/features/runs/figures.ts';
import { ask, stopped, stoppedByHand } from '../src/state/bench/ask.ts';
import { parametersFor } from '../src/state/bench/parameters.ts';
import { benchSlice, documentsChanged, opened, renamed, saved } from '../src/state/bench/benchSlice.ts';
import { verdictOf } from '../src/parts/RowDifferences.tsx';
import { yieldText } from '../src/parts/yieldText.ts';

const reduce = benchSlice.reducer;
type State = ReturnType<typeof reduce>;
type Action = Parameters<typeof reduce>[1];
const begun = (...actions: readonly Action[]): State =>
  actions.reduce((state: State, action) => reduce(state, action), reduce(undefined, { type: 'begin' }));

const asked = { text: 'from huts', full: true };
const argument: Parameters<typeof ask>[0] = {
  slot: 'whole',
  asked,
  parameters: {},
  guards: null,
  only: [],
  indexChoice: { kind: 'planned' },
};
const meta = (requestId: string) => ({ arg: argument, requestId }) as never;
const pending = (id: string): Action => ask.pending(id, argument);
const sent = { bytes: 10, ms: 1 };
const fulfilled = (id: string, runId: string): Action => ask.fulfilled({ result: { runId } as QueryAnswer, sent }, id, argument);
const problem = { type: '/problems/pipeline', title: 'Not a pipeline', status: 422 } satisfies Problem;
const refused = (id: string): Action => ask.rejected(null, id, argument, problem);

describe('what a question leaves on the Bench', () => {
  test('its answer; and one that another has overtaken leaves nothing', () => {
    const state = begun(pending('a'), pending('b'), fulfilled('a', 'first'));
    expect([state.whole.pending?.requestId, state.whole.answer]).toEqual(['b', null]);
    const done = reduce(state, fulfilled('b', 'second'));
    expect([done.whole.pending, done.whole.answer?.result.runId]).toEqual([null, 'second']);
  });

  test('its problem beside the last good answer, which stays', () => {
    const state = begun(pending('a'), fulfilled('a', 'good'), pending('b'), refused('b'));
    expect([state.whole.answer?.result.runId, state.whole.problem?.problem.title]).toEqual(['good', 'Not a pipeline']);
    const mended = [pending('c'), fulfilled('c', 'better')].reduce((at, action) => reduce(at, action), state);
    expect([mended.whole.answer?.result.runId, mended.whole.problem]).toEqual(['better', null]);
  });

  test('that it was stopped, where someone stopped it; nothing, where it gave way to the next', () => {
    const aborted = (message: string): Action => ({ type: ask.rejected.type, meta: meta('a'), error: { message } });
    expect(begun(pending('a'), aborted(stoppedByHand)).whole.problem?.problem).toEqual(stopped);
    expect(begun(pending('a'), aborted('Aborted')).whole.problem).toBeNull();
  });

  test('whose documents have changed since, until it is asked again', () => {
    const state = begun(pending('a'), fulfilled('a', 'x'), documentsChanged('huts'));
    expect(state.changedSince).toBe('huts');
    expect([pending('b'), fulfilled('b', 'y')].reduce((at, action) => reduce(at, action), state).changedSince).toBeNull();
    // Without an answer there is nothing that could be out of date.
    expect(begun(documentsChanged('huts')).changedSince).toBeNull();
  });
});

test('a saved pipeline is used last, and is renamed wherever it is open', () => {
  const state = begun(
    opened({ text: 'from huts', name: 'huts' }),
    opened({ text: 'from routes' }),
    saved({ tab: '2', name: 'ways', note: null, text: 'from routes' }),
    renamed({ name: 'huts', next: 'all huts' }),
  );
  expect(state.recent).toEqual(['ways', 'all huts']);
  expect(state.tabs.map(({ draft }) => draft.name)).toEqual(['all huts', 'ways']);
  expect([state.name, state.savedText]).toEqual(['ways', 'from routes']);
});

test('what stands in the inputs of parameters is a number, a list or text', () => {
  expect(
    parametersFor({ n: '4', late: 'true', none: 'null', list: '["a", 1]', text: 'late', quoted: '"4"', empty: ' ', day: '2026-01-02' }),
  ).toEqual({
    n: 4,
    late: true,
    none: null,
    list: ['a', 1],
    text: 'late',
    quoted: '4',
    day: '2026-01-02',
  });
});

test.each<[Partial<ComparisonAnswer>, string]>([
  [{ sameSet: true, sameOrder: true }, 'The same rows in the same order.'],
  [{ sameSet: true }, 'The same rows, in another order.'],
  [{ counts: { onlyInFirst: 1, onlyInSecond: 0, differing: 0 } }, 'Not the same rows: 1 row only in the first.'],
  [
    { counts: { onlyInFirst: 0, onlyInSecond: 1_200, differing: 2 } },
    'Not the same rows: 1,200 rows only in the second, 2 rows of the same identity that differ inside.',
  ],
])('%j is told as %s', (some, told) => {
  const nothing: ComparisonAnswer = {
    sameSet: false,
    sameOrder: false,
    approximate: [null, null],
    rows: [0, 0],
    onlyInFirst: [],
    onlyInSecond: [],
    differing: [],
    counts: { onlyInFirst: 0, onlyInSecond: 0, differing: 0 },
  };
  expect(verdictOf({ ...nothing, ...some }, ['the first', 'the second'])).toBe(told);
});

test.each<[Record<string, string[]>, Record<string, string[]>, string]>([
  [{ huts: ['identity'] }, { huts: ['identity'] }, 'There were the same indexes at both.'],
  [{ huts: ['identity'] }, { huts: ['identity', 'region'] }, 'At the second there was also region of huts.'],
  [
    { huts: ['identity', 'name'], routes: ['grade'] },
    { huts: ['identity', 'region'], routes: [] },
    'At the second there was also region of huts. At the first there was also name of huts, grade of routes.',
  ],
  // Of a collection that one of them did not ask there is nothing to compare.
  [{ huts: ['identity'] }, { routes: ['identity', 'grade'] }, 'There were the same indexes at both.'],
])('indexes %j, then %j: %s', (first, second, told) => expect(indexesText(first, second)).toBe(told));

test.each<[number, number | null, boolean, string | undefined]>([
  [100, null, false, undefined],
  [100, 100, true, undefined],
  [100, 100, false, 'reads as its baseline'],
  [50_000, 20, false, 'reads 2,500 × its baseline'],
  [20, 50_000, false, 'reads 0.0004 × its baseline'],
  [20, 0, false, 'reads 20, its baseline none'],
])('%d read, by its baseline %p: %s', (documentsRead, baselineReads, baseline, told) =>
  expect(againstBaseline({ cost: { documentsRead }, baseline, baselineReads } as never)).toBe(told),
);

test.each<[number, number, string]>([
  [0, 0, 'no reads'],
  [0, 12, 'no reads'],
  [40, 0, 'none of use'],
  [20, 20, 'each one of use'],
  [20, 90, 'each one of use'],
  [21, 20, 'nearly each one of use'],
  [50_000, 20, 'one in 2,500'],
])('%d documents read for %d rows: %s', (documentsRead, rowsReturned, told) =>
  expect(yieldText({ documentsRead, rowsReturned })).toBe(told),
);
