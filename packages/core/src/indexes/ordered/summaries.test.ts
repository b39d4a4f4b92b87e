import fc from 'fast-check';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { keyOf } from '../../values/keys.ts';
import { compareValues } from '../../values/order.ts';
import type { Interval } from './cuts.ts';
import { readDefinition } from '../definition.ts';
import { buildAtOnce } from './orderedIndex.ts';
import { extremes, summaryOf } from './summaries.ts';
import { UniqueStage, type StageMode } from './uniqueStage.ts';

const value = fc.oneof(fc.integer({ min: 0, max: 4 }), fc.constantFrom<Json>('a', 'b', null, true, [1], { k: 1 }));
const documents = fc.array(fc.record({ a: value, b: value }, { requiredKeys: [] }) as fc.Arbitrary<JsonObject>, { maxLength: 40 });
const storeOf = (list: readonly JsonObject[]) => ({ documents: list, count: list.length, version: 0 });
const same = (a: Value, b: Value): boolean => (a === undefined || b === undefined ? a === b : keyOf(a) === keyOf(b));

test('the different values of a key, their counts and the first of each are those of a look at all documents', () => {
  fc.assert(
    fc.property(documents, fc.constantFrom('@.b', '@.b desc'), fc.integer({ min: 0, max: 4 }), (list, second, fixed) => {
      const index = buildAtOnce(readDefinition({ keys: ['@.a', second] }), storeOf(list));
      const among = list.map((one, position) => ({ one, position })).filter(({ one }) => one.a === fixed);
      const found = [...index.runs({ fixed: [fixed] })];
      expect(found.reduce((sum, { count }) => sum + count, 0)).toBe(among.length);
      for (const { value: key, count, first } of found) {
        const having = among.filter(({ one }) => same(one.b, key));
        expect([having.length, having[0].position]).toEqual([count, first]);
      }
      const valued = among.flatMap(({ one }) => (one.b === undefined || one.b === null ? [] : [one.b])).sort(compareValues);
      expect(extremes(index, { fixed: [fixed] })).toEqual({ least: valued[0], greatest: valued.at(-1) });
    }),
    { numRuns: 400 },
  );
});

test('runs of equal keys are found whole over many blocks, after entries came and went', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 1, max: 900 })), { minLength: 1, maxLength: 8 }),
      fc.nat(3),
      fc.boolean(),
      (parts, every, desc) => {
        const list = parts.flatMap(([k, count]) => Array.from({ length: count }, (): JsonObject => ({ k })));
        const index = buildAtOnce(readDefinition({ keys: [desc ? '@.k desc' : '@.k'] }), storeOf(list));
        const left = new Map<number, number[]>();
        list.forEach((document, position) => {
          const isGone = every > 0 && position % (every + 1) === 0;
          if (isGone) index.apply({ position, before: document, after: undefined });
          else left.set(document.k as number, [...(left.get(document.k as number) ?? []), position]);
        });
        const expected = [...left].sort(([a], [b]) => (desc ? b - a : a - b));
        expect([...index.runs({ fixed: [] })]).toEqual(
          expected.map(([value, positions]) => ({ value, count: positions.length, first: positions[0] })),
        );
        // A part of them, by an interval.
        const low: Interval = { low: { at: 'value', value: 2, side: 'before' }, high: { at: 'rank', rank: 6 } };
        expect([...index.runs({ fixed: [], interval: low })].map((run) => run.value)).toEqual(
          expected.map(([key]) => key).filter((key) => key >= 2),
        );
      },
    ),
    { numRuns: 120 },
  );
});

test('an index is summed up: what is common, what is missing, where the tenths lie', () => {
  const list = Array.from({ length: 5_000 }, (_, i): JsonObject => ({ id: i, ...(i % 10 > 0 && { n: i % 7 === 0 ? 'often' : i }) }));
  const summary = summaryOf(buildAtOnce(readDefinition({ keys: ['@.n'] }), storeOf(list)));
  expect(summary).toMatchObject({ entries: 4_500, absent: 500, least: 1, greatest: 'often', common: [{ value: 'often', count: 643 }] });
  expect(summary.quantiles).toHaveLength(11);
  expect([...summary.quantiles].sort((a, b) => compareValues(a as Json, b as Json))).toEqual(summary.quantiles);
  expect(summaryOf(buildAtOnce(readDefinition({ keys: ['@.none'] }), storeOf(list)))).toMatchObject({
    entries: 0,
    distinct: 0,
    common: [],
    quantiles: [],
  });
});

test('documents on their way in are refused just where what would be stored breaks the promise', () => {
  const arriving = fc.array(
    fc.record({ id: fc.integer({ min: 0, max: 12 }), k: fc.option(fc.integer({ min: 0, max: 6 }), { nil: undefined }) }),
    { maxLength: 20 },
  );
  fc.assert(
    fc.property(fc.constantFrom<StageMode>('beside', 'replacing', 'instead'), arriving, (mode, coming) => {
      const stored = Array.from({ length: 4 }, (_, i): JsonObject => ({ id: i, k: i }));
      const index = buildAtOnce(readDefinition({ keys: ['@.k'], unique: true }), storeOf(stored));
      const stage = new UniqueStage([index], mode);
      // What is stored in the end, by identity; where nothing replaces, each has an identity of its own.
      const kept = new Map<string, Value>(mode === 'instead' ? [] : stored.map(({ id, k }) => [String(id), k]));
      for (const [i, { id, k }] of coming.entries()) {
        const identity = mode === 'replacing' ? String(id) : `new ${i}`;
        const position = mode === 'replacing' && id < stored.length ? id : undefined;
        const isTaken = k !== undefined && [...kept].some(([other, taken]) => other !== identity && taken === k);
        const refused = stage.take({ document: { id, ...(k !== undefined && { k }) }, identity, position });
        expect(refused !== undefined).toBe(isTaken);
        if (refused === undefined) kept.set(identity, k);
      }
    }),
    { numRuns: 600 },
  );
});
