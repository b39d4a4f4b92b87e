import fc from 'fast-check';
import { readDefinition } from '../indexes/definition.ts';
import type { JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';

const pause = () => Promise.resolve();
const count = 20_000;

/**
 * Uneven data: `lot` by a power law, `rare` null or missing in most, `same` decided by `lot`, `code` with prefixes of very
 * different use, `tags` with one in nearly all.
 */
const documents = Array.from({ length: count }, (_, i): JsonObject => {
  const spread = ((i * 2_654_435_761) >>> 0) / 2 ** 32;
  const lot = Math.floor(40 * spread ** 4);
  return {
    id: i,
    lot,
    same: `s${lot >> 1}`,
    even: Math.floor(spread * 1_000),
    code: `${lot < 3 ? 'A' : lot < 12 ? 'BC' : 'BD'}-${String((i * 7919) % count).padStart(5, '0')}`,
    day: new Date(Date.UTC(2026, 0, 1) + Math.floor(spread ** 2 * 365) * 86_400_000).toISOString().slice(0, 10),
    tags: ['all', ...(i % 3 ? [] : ['third']), `t${i % 40}`],
    ...(i % 20 === 0 ? { rare: i % 100 } : i % 7 === 0 ? { rare: null } : {}),
  };
});

async function engineOf(indexes: readonly (readonly string[])[]): Promise<Engine> {
  const engine = new Engine({ pause, newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') });
  const collection = engine.define('c', '@.id');
  documents.forEach((document, position) => collection.store.put(position, document));
  for (const keys of indexes) await collection.buildIndex(readDefinition({ keys }), pause);
  return engine;
}

const lot = fc.integer({ min: 0, max: 41 });
const even = fc.integer({ min: -50, max: 1_050 });
const single = fc.oneof(
  lot.map((n) => `@.lot == ${n}`),
  fc.tuple(fc.constantFrom('<', '<=', '>', '>='), lot).map(([operator, n]) => `@.lot ${operator} ${n}`),
  fc.uniqueArray(lot, { minLength: 1, maxLength: 5 }).map((some) => `@.lot in [${some.join(', ')}]`),
  fc.tuple(even, even).map(([a, b]) => `@.even >= ${Math.min(a, b)} && @.even < ${Math.max(a, b)}`),
  fc.constantFrom('A', 'B', 'BC', 'BD', 'BD-1', 'C').map((start) => `starts_with(@.code, "${start}")`),
  fc.nat(13).map((month) => `@.day < "2026-${String(month).padStart(2, '0')}-15"`),
  fc.constantFrom('all', 'third', 't7', 'none').map((tag) => `includes(@.tags, "${tag}")`),
  fc.constantFrom('@.rare == null', 'exists(@.rare)', '!@.rare', '@.rare > 40', '@.rare == 20'),
);

/** How far an estimate may be from the rows that came: threefold, or half a percent of the documents. */
const isNear = (estimated: number, real: number): boolean =>
  Math.abs(estimated - real) <= count * 0.005 || (estimated <= 3 * real && real <= 3 * estimated);

test.each<[string, readonly (readonly string[])[]]>([
  ['with the fields indexed', [['@.lot'], ['@.even'], ['@.code'], ['@.day'], ['@.tags[*]'], ['@.rare']]],
  ['from a sample alone', []],
])('rows are expected about as many as come, on uneven data: %s', async (_, indexes) => {
  const engine = await engineOf(indexes);
  await fc.assert(
    fc.asyncProperty(single, async (condition) => {
      const answer = await engine.query({ pipeline: `from c\nwhere ${condition}`, pageSize: 0 });
      if (!answer.ok) throw new Error(answer.problem.message);
      const { plan, rowsReturned } = answer.value;
      expect({ condition, near: isNear(plan.estimatedRows, rowsReturned), expected: plan.estimatedRows, real: rowsReturned }).toMatchObject(
        { near: true },
      );
    }),
    { numRuns: 300 },
  );
});

test('what one field decides of another is not expected to thin the rows out twice', async () => {
  const engine = await engineOf([['@.lot', '@.same'], ['@.same']]);
  for (const n of [0, 1, 4, 9, 20]) {
    const answer = await engine.query({ pipeline: `from c\nwhere @.lot == ${n} && @.same == "s${n >> 1}"`, pageSize: 0 });
    if (!answer.ok) throw new Error(answer.problem.message);
    const { plan, rowsReturned } = answer.value;
    expect({ n, near: isNear(plan.estimatedRows, rowsReturned), expected: plan.estimatedRows, real: rowsReturned }).toMatchObject({
      near: true,
    });
  }
});

test('the way that is taken reads no more than twice what the best one would have, on uneven data', async () => {
  const engine = await engineOf([['@.lot'], ['@.even'], ['@.code'], ['@.day'], ['@.tags[*]'], ['@.rare']]);
  const names = engine.collections.get('c')?.indexList.map(({ definition }) => definition.name) ?? [];
  await fc.assert(
    fc.asyncProperty(single, single, fc.constantFrom(' && ', ' || '), async (a, b, both) => {
      const pipeline = `from c\nwhere (${a})${both}(${b})`;
      const work = async (more: object) => {
        const answer = await engine.query({ pipeline, pageSize: 0, ...more });
        if (!answer.ok) throw new Error(answer.problem.message);
        // A document that an index leads to costs a few of those that a scan comes past.
        const { documentsRead, indexEntriesRead } = answer.value.cost;
        return { work: documentsRead * (documentsRead === count ? 1 : 3) + indexEntriesRead * 0.5, rows: answer.value.rowsReturned };
      };
      const chosen = await work({});
      for (const more of [{ ignoreIndexes: names }, ...names.map((useIndex) => ({ useIndex }))]) {
        const other = await work(more);
        expect(other.rows).toBe(chosen.rows);
        expect({ pipeline, more, by: chosen.work > 2 * other.work + count * 0.02 ? [chosen.work, other.work] : 'fine' }).toMatchObject({
          by: 'fine',
        });
      }
    }),
    { numRuns: 120 },
  );
});
