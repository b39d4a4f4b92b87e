import fc from 'fast-check';
import { readDefinition, type IndexRequest } from '../indexes/definition.ts';
import type { Json, JsonObject } from '../values/json.ts';
import type { PlanNode } from './describePlan.ts';
import { Engine } from './engine.ts';
import type { QueryRequest, QueryResult } from './requests.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) };

async function engineOf(documents: readonly JsonObject[], ...indexes: readonly IndexRequest[]): Promise<Engine> {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  documents.forEach((document, position) => collection.store.put(position, document));
  for (const index of indexes) await collection.buildIndex(readDefinition(index), host.pause);
  return engine;
}

async function ask(engine: Engine, pipeline: string, more: Partial<QueryRequest> = {}): Promise<QueryResult> {
  const answer = await engine.query({ pipeline, pageSize: 1_000, ...more });
  if (!answer.ok) throw new Error(`${pipeline}: ${answer.problem.message}`);
  return answer.value;
}

function stepsOf(plan: PlanNode): string[] {
  return [plan.step, ...plan.inputs.flatMap(stepsOf)];
}

const idsOf = ({ documents }: QueryResult) => documents.map((document) => (document as { id: Json }).id);

describe('an index that is walked in the order asked for', () => {
  // 3,000 documents: three states, 40 days in each, a size now null and now missing.
  const documents = Array.from({ length: 3_000 }, (_, i): JsonObject => ({
    id: i,
    state: ['open', 'held', 'done'][i % 3],
    day: (i * 7) % 40,
    ...(i % 10 > 0 && { size: i % 10 === 1 ? null : (i * 13) % 100 }),
    // Never null.
    ...(i % 6 > 0 && { note: (i * 11) % 50 }),
  }));
  const names = { state: ['@.state', '@.day'], day: ['@.day', '@.id'], falling: ['@.day desc', '@.id'], size: ['@.size', '@.id'] };
  const deep = ['@.state', '@.day', '@.note', '@.id'];

  test.each<[string, readonly string[], string, number]>([
    ['one point before the order', names.state, 'where @.state == "held"\norder by @.day\nlimit 10', 10],
    ['the same backwards', names.state, 'where @.state == "held"\norder by @.day desc\nlimit 10', 10],
    ['several points, merged', names.state, 'where @.state in ["held", "done"]\norder by @.day\nlimit 10', 10],
    ['several points, merged backwards', names.state, 'where @.state in ["held", "done"]\norder by @.day desc\nlimit 10', 10],
    ['several points, one after another', names.state, 'where @.state in ["open", "done"]\norder by @.state, @.day\nlimit 10', 10],
    ['the same backwards', names.state, 'where @.state in ["open", "done"]\norder by @.state desc, @.day desc\nlimit 10', 10],
    ['a range, in its order', names.day, 'where @.day >= 20\norder by @.day\nlimit 10', 10],
    ['rows after a row', names.day, 'where @.day > 20 || @.day == 20 && @.id > 900\norder by @.day, @.id\nlimit 10', 10],
    ['rows after a row, falling', names.falling, 'where @.day < 20 || @.day == 20 && @.id > 900\norder by @.day desc, @.id\nlimit 10', 10],
    ['rows before a row', names.day, 'where @.day < 20 || @.day == 20 && @.id < 900\norder by @.day desc, @.id desc\nlimit 10', 10],
    [
      'rows after a row of one state, by three keys, a key missing at times',
      deep,
      'where @.state == "held"\nwhere @.day > 7 || @.day == 7 && (@.note > 40 || @.note == 40 && @.id > 4 || !@.note || @.note == null)\norder by @.day, @.note, @.id\nlimit 10',
      10,
    ],
    [
      'rows after a row, where the key may be null or missing',
      names.size,
      'where @.size > 90 || @.size == 90 && @.id > 0 || !@.size || @.size == null\norder by @.size, @.id\nlimit 10',
      10,
    ],
    [
      'the same into the rows without the key',
      names.size,
      'where @.size > 98 || !@.size || @.size == null\norder by @.size, @.id\nlimit 70',
      70,
    ],
    ['all, null and missing last', names.size, 'order by @.size, @.id\nlimit 10', 10],
    ['all, null and missing first', names.size, 'order by @.size nulls first, @.id\nlimit 10', 10],
    ['what is there, null among it', names.size, 'where @.size\norder by @.size nulls first, @.id\nlimit 10', 10],
  ])('%s', async (_, keys, stages, reads) => {
    const engine = await engineOf(documents, { keys });
    const walked = await ask(engine, `from c\n${stages}`);
    const scanned = await ask(engine, `from c\n${stages}`, { ignoreIndexes: [readDefinition({ keys }).name, 'identity'] });
    expect(idsOf(walked)).toEqual(idsOf(scanned));
    expect(stepsOf(walked.plan)).toEqual(['limit', 'index range scan']);
    expect(walked.cost.documentsRead).toBeLessThanOrEqual(reads);
    expect(stepsOf(scanned.plan)).toContain('full scan');
  });

  test.each<[string, readonly string[], string, number]>([
    ['a key more than the index has', names.state, 'order by @.state, @.day, @.id\nlimit 10', 60],
    ['mixed directions', names.state, 'order by @.state, @.day desc\nlimit 10', 1_100],
    ['null and missing tie before another key', ['@.day', '@.size', '@.id'], 'order by @.day, @.size, @.id desc\nlimit 10', 80],
    ['null and missing wanted elsewhere than the index has them', ['@.day', '@.note'], 'order by @.day, @.note nulls first\nlimit 10', 160],
    [
      'rows after a row, the identity not among the keys',
      names.state,
      'where @.state == "held" && (@.day > 7 || @.day == 7 && @.id > 1500)\norder by @.day, @.id\nlimit 10',
      80,
    ],
    ['an order by what is computed', ['@.day'], 'order by @.day, @.id % 7, @.size desc\nlimit 90', 230],
  ])('rows that tie on the keys of the index are sorted: %s', async (_, keys, stages, reads) => {
    const engine = await engineOf(documents, { keys });
    const walked = await ask(engine, `from c\n${stages}`);
    const scanned = await ask(engine, `from c\n${stages}`, { ignoreIndexes: [readDefinition({ keys }).name, 'identity'] });
    expect(idsOf(walked)).toEqual(idsOf(scanned));
    expect(stepsOf(walked.plan)).toEqual(['limit', 'partial sort', 'index range scan']);
    expect(walked.cost.documentsRead).toBeLessThanOrEqual(reads);
    expect(stepsOf(scanned.plan)).toEqual(['top-N sort', 'full scan']);
  });

  test('an index of other keys gives no part of an order', async () => {
    const engine = await engineOf(documents, { keys: names.state });
    const answer = await ask(engine, 'from c\norder by @.day, @.state\nlimit 10');
    expect(stepsOf(answer.plan)).toEqual(['top-N sort', 'full scan']);
  });

  test('a page deep in the result costs as much as the first', async () => {
    const engine = await engineOf(documents, { keys: names.day });
    for (const [day, id] of [
      [0, 0],
      [19, 800],
      [38, 2_900],
    ]) {
      const { cost } = await ask(engine, `from c\nwhere @.day > ${day} || @.day == ${day} && @.id > ${id}\norder by @.day, @.id\nlimit 5`);
      expect(cost).toMatchObject({ documentsRead: 5, indexEntriesRead: 5 });
    }
  });

  test('a partial index without an entry is still the cheapest, and what is walked beside ranges is told', async () => {
    const none = await engineOf(documents, { keys: ['@.state'], where: '@.day == 99' });
    const answer = await ask(none, 'from c\nwhere @.day == 99\norder by @.state, @.id\nlimit 5');
    expect([stepsOf(answer.plan).at(-1), answer.cost.documentsRead]).toEqual(['index range scan', 0]);
    expect(answer.weighed.every(({ cost }) => cost === undefined || Number.isFinite(cost))).toBe(true);
    const some = await engineOf(documents, { keys: names.size });
    const beside = await ask(some, 'from c\nwhere @.size > 98 || !@.size || @.size == null\norder by @.size, @.id\nlimit 70');
    expect(beside.plan.inputs[0].detail).toBe('c by size_id, @.size > 98; @.size null or missing, in its order');
  });
});

const scalar = fc.constantFrom<Json | undefined>(undefined, undefined, null, 0, 1, 2, 'x', 'y', true, [1], { z: 1 });
const documents = fc.array(fc.record({ a: scalar, b: scalar, d: scalar }), { minLength: 12, maxLength: 60 }).map((list) =>
  list.map(({ a, b, d }, id): JsonObject => ({
    id,
    ...(a !== undefined && { a }),
    ...(b !== undefined && { b }),
    ...(d !== undefined && { d }),
  })),
);
const name = fc.constantFrom('@.a', '@.b', '@.d');
const direction = fc.constantFrom('', ' desc');
const indexKeys = fc
  .uniqueArray(name, { minLength: 1, maxLength: 3 })
  .chain((names) => fc.tuple(...names.map((one) => direction.map((way) => one + way))));
const literal = fc.constantFrom('0', '1', '2', '"x"', 'null', 'true');
const oneTest = fc.oneof(
  fc.tuple(name, fc.constantFrom('==', '<', '<=', '>', '>='), literal).map((parts) => parts.join(' ')),
  fc.tuple(name, fc.uniqueArray(literal, { minLength: 1, maxLength: 3 })).map(([path, list]) => `${path} in [${list.join(', ')}]`),
  name,
  name.map((path) => `!${path}`),
);
const alternative = fc.array(oneTest, { minLength: 1, maxLength: 2 }).map((tests) => tests.join(' && '));
const nested = fc
  .tuple(oneTest, fc.array(alternative, { minLength: 2, maxLength: 3 }))
  .map(([first, rest]) => `${first} && (${rest.join(' || ')})`);
const condition = fc.oneof(
  oneTest,
  fc.array(fc.oneof(alternative, nested), { minLength: 2, maxLength: 4 }).map((some) => some.join(' || ')),
);
const orderKey = fc.tuple(name, direction, fc.constantFrom('', '', ' nulls first', ' nulls last')).map((parts) => parts.join(''));
const question = fc.record({
  wheres: fc.array(condition, { maxLength: 2 }),
  order: fc.uniqueArray(orderKey, { minLength: 0, maxLength: 3, selector: (key) => key.slice(0, 3) }),
  limit: fc.constantFrom(1, 2, 5, 100),
});

test('every walk of an index gives the rows of the scan, in the same order, ties in insertion order', async () => {
  let walks = 0;
  let partial = 0;
  await fc.assert(
    fc.asyncProperty(documents, indexKeys, question, async (docs, keys, { wheres, order, limit }) => {
      const engine = await engineOf(docs, { keys });
      const pipeline = [
        'from c',
        ...wheres.map((one) => `where ${one}`),
        ...(order.length > 0 ? [`order by ${order.join(', ')}`] : []),
        `limit ${limit}`,
      ].join('\n');
      const { name: index } = readDefinition({ keys });
      const scanned = await ask(engine, pipeline, { ignoreIndexes: [index, 'identity'] });
      const walked = await ask(engine, pipeline, { useIndex: index });
      const free = await ask(engine, pipeline);
      const steps = stepsOf(walked.plan);
      if (order.length > 0 && !steps.includes('sort') && !steps.includes('top-N sort')) walks++;
      if (steps.includes('partial sort')) partial++;
      expect(idsOf(walked)).toEqual(idsOf(scanned));
      expect(idsOf(free)).toEqual(idsOf(scanned));
    }),
    { numRuns: 1_500 },
  );
  // The property is of use only where indexes were walked.
  expect(Math.min(walks, partial)).toBeGreaterThan(20);
});
