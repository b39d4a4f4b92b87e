import fc from 'fast-check';
import { readDefinition } from '../indexes/definition.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { QueryRequest, QueryResult } from './requests.ts';

const host = { pause: () => Promise.resolve(), newId: () => String(Math.random()), now: () => new Date('2026-02-03T04:05:06.789Z') };

async function engineOf(documents: readonly JsonObject[], indexes: readonly string[][] = []): Promise<Engine> {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  documents.forEach((document, position) => collection.store.put(position, document));
  for (const keys of indexes) await collection.buildIndex(readDefinition({ keys }), host.pause);
  return engine;
}

async function ask(engine: Engine, pipeline: string, more: Partial<QueryRequest> = {}): Promise<QueryResult> {
  const answer = await engine.query({ pipeline, pageSize: 1_000_000, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}

const ids = (result: QueryResult) => result.documents.map((row) => (row as JsonObject).id);

describe('what the stages mean', () => {
  const documents: JsonObject[] = [
    { id: 1, a: 3, b: 'x', tags: ['p', 'q'], nest: { deep: 1, more: 2 } },
    { id: 2, a: 1, b: 'y', tags: [], nest: { deep: 2 } },
    { id: 3, a: null, b: 'x' },
    { id: 4, b: 'z', tags: ['q'] },
    { id: 5, a: '2', b: 'y', tags: 'p' },
    { id: 6, a: true, b: 'x', tags: ['p', 'q', 'p'] },
    { id: 7, a: 1, b: 'w' },
  ];
  test.each<[string, Json[]]>([
    ['where @.a == 1', [2, 7]],
    ['where @.a > 1', [1]],
    ['where @.a != 1', [1, 3, 4, 5, 6]],
    ['where @.a', [1, 2, 3, 5, 6, 7]],
    ['where !@.a', [4]],
    ['where !@.a || @.a == null', [3, 4]],
    ['where @.tags[?@ == "p"]', [1, 6]],
    ['where includes(@.tags, "p")', [1, 6]],
    ['where includes_all(@.tags, ["p", "q"])', [1, 6]],
    ['where length(@.tags) == 2', [1]],
    ['where @.tags[0] == "p"', [1, 6]],
    ['where @.b in ["x", "w"] && @.a in [1, 3]', [1, 7]],
    ['where "q" in @.tags', [1, 4, 6]],
    ['where any(@.tags, @ == "q") && !every(@.tags, @ == "q")', [1, 6]],
    ['order by @.a', [6, 2, 7, 1, 5, 3, 4]],
    ['order by @.a desc', [5, 1, 2, 7, 6, 3, 4]],
    ['order by @.a nulls first', [3, 4, 6, 2, 7, 1, 5]],
    ['order by @.b, @.id desc', [7, 6, 3, 1, 5, 2, 4]],
    ['offset 2\nlimit 3', [3, 4, 5]],
    ['limit 0', []],
    ['limit 2\noffset 1', [2]],
    ['order by @.id desc\noffset 1\nlimit 2', [6, 5]],
    ['off where @.a == 1', [1, 2, 3, 4, 5, 6, 7]],
    ['where @.a == :wanted\nlimit :n', [2]],
  ])('%s', async (stages, expected) => {
    const result = await ask(await engineOf(documents), `from c\n${stages}`, {
      parameters: { wanted: 1, n: stages.startsWith('limit') ? 9 : 1 },
    });
    expect(ids(result)).toEqual(expected);
  });

  test('select keeps places, lifts with as, and leaves nothing out', async () => {
    const result = await ask(
      await engineOf(documents),
      'from c\nwhere @.id < 3\nselect @.nest.deep, @.nest.more as m, @.id * 2 as x.y, @.tags[*] as t',
    );
    expect(result.documents).toEqual([
      { nest: { deep: 1 }, m: 2, x: { y: 2 }, t: ['p', 'q'] },
      { nest: { deep: 2 }, x: { y: 4 }, t: [] },
    ]);
  });

  test('values that an expression could not use are counted, with an example and a mend', async () => {
    const { notes } = await ask(await engineOf(documents), 'from c\nselect @.a + 1 as n');
    expect(notes.find(({ message }) => message.includes('is text'))).toMatchObject({
      line: 2,
      count: 1,
      mend: { edits: [{ insert: 'number(@.a)' }] },
    });
  });
});

describe('counts and guards', () => {
  const many = Array.from({ length: 5_000 }, (_, i): JsonObject => ({
    id: i,
    n: (i * 7919) % 5_000,
    status: i % 10 === 0 ? 'late' : 'fine',
  }));

  test('a limit stops reading as soon as it has enough', async () => {
    const { cost, lines } = await ask(await engineOf(many), 'from c\nwhere @.status == "late"\nlimit 3');
    expect(cost.documentsRead).toBe(21);
    expect(lines).toMatchObject([
      { line: 1, rowsOut: 21, stoppedEarly: true },
      { line: 2, rowsOut: 3 },
      { line: 3, rowsOut: 3 },
    ]);
  });

  test('a guard passes what reaches it and stops what crosses it, naming the line', async () => {
    const engine = await engineOf(many);
    expect((await ask(engine, 'from c', { guards: { documentsRead: 5_000 } })).rowsReturned).toBe(5_000);
    const read = await engine.query({ pipeline: 'from c', guards: { documentsRead: 4_999 } });
    expect(read).toMatchObject({ ok: false, problem: { kind: 'guard-documents-read', line: 1, reached: 4_999 } });
    const held = await engine.query({ pipeline: 'from c\n# a comment\norder by @.n', guards: { memoryBytes: 50_000 } });
    expect(held).toMatchObject({ ok: false, problem: { kind: 'guard-memory', line: 3, suggestions: [{ keys: ['@.n'] }] } });
    const helpOf = async (stages: string) => {
      const stopped = await engine.query({ pipeline: `from c\n${stages}`, guards: { documentsRead: 100 } });
      return stopped.ok ? undefined : / (?:An index|Indexes) on .*$/.exec(stopped.problem.message)?.[0].trim();
    };
    expect(await helpOf('order by @.n\nlimit 3')).toBe('An index on @.n would help: it gives the order, so nothing is sorted.');
    expect(await helpOf('where @.n == 7')).toBe('An index on @.n would help: it serves @.n == 7.');
    // Disjunction take an index each.
    const either = '@.n == 7 || @.id == 9 && @.status == "late" || @.m == 3';
    expect(await helpOf(`where ${either}`)).toBe(`Indexes on @.n and on @.m would help: they serve ${either}.`);
  });

  test('a bounded run says that it is one', async () => {
    const engine = await engineOf(many);
    expect(await ask(engine, 'from c', { readAtMost: 100 })).toMatchObject({ bounded: true, rowsReturned: 100 });
    expect(await ask(engine, 'from c', { readAtMost: 5_000 })).toMatchObject({ bounded: false, rowsReturned: 5_000 });
    // It reads something, however little it may work.
    const short = await ask(engine, 'from c\nwhere length(@.id) > -1', { workAtMostMs: 0.000_1 });
    expect([short.bounded, short.cost.documentsRead > 0, short.cost.documentsRead < 5_000]).toEqual([true, true, true]);
    expect(await ask(engine, 'from c', { workAtMostMs: 60_000 })).toMatchObject({ bounded: false, rowsReturned: 5_000 });
  });

  test('a cancelled run ends', async () => {
    const answer = await (await engineOf(many)).query({ pipeline: 'from c\norder by @.n' }, () => true);
    expect(answer).toMatchObject({ ok: false, problem: { kind: 'cancelled' } });
  });

  test('a run is paged without running again, and says when it is gone', async () => {
    const engine = await engineOf(many);
    const { runId, hasMore, documents } = await ask(engine, 'from c\norder by @.n', { pageSize: 10 });
    expect([hasMore, documents.length]).toEqual([true, 10]);
    expect(engine.rows(runId, 4_995, 10)).toMatchObject({ ok: true, value: { hasMore: false, rowsReturned: 5_000 } });
    expect(engine.rows('other', 0, 10)).toMatchObject({ ok: false, problem: { kind: 'gone' } });
  });
});

const value = fc.oneof(
  { weight: 6, arbitrary: fc.integer({ min: -3, max: 4 }) },
  { weight: 3, arbitrary: fc.constantFrom('', 'a', 'ab', 'b', '\u{1f600}', '\uffee') },
  fc.constantFrom<Json>(null, true, false, [1], [], { k: 1 }, 2.5),
);
const document = fc.record(
  { a: value, b: value, tags: fc.oneof(fc.array(value, { maxLength: 3 }), value) },
  { requiredKeys: [] },
) as fc.Arbitrary<JsonObject>;
const literal = fc.constantFrom('0', '1', '2', '-1', '"a"', '"ab"', '""', 'null', 'true', '2.5', '"\u{1f600}"');
const operator = fc.constantFrom('==', '!=', '<', '<=', '>', '>=');
const field = fc.constantFrom('@.a', '@.b', '@.tags', 'fold(@.a)');
const simple = fc.oneof(
  fc.tuple(field, operator, literal).map((parts) => parts.join(' ')),
  fc.tuple(literal, operator, field).map((parts) => parts.join(' ')),
  fc.tuple(field, fc.array(literal, { maxLength: 3 })).map(([f, list]) => `${f} in [${list.join(', ')}]`),
  fc.tuple(operator, literal).map(([o, l]) => `@.tags[?@ ${o} ${l}]`),
  literal.map((l) => `includes(@.tags, ${l})`),
  literal.map((l) => `${l} in @.tags`),
  fc.constantFrom('@.a', '!@.a', 'exists(@.b)', 'starts_with(@.a, "a")', 'match(@.b, "a.*")', '@.a == 1 || @.a == "a"', '@.a == @.b'),
);
const orderKey = fc
  .tuple(fc.constantFrom('@.a', '@.b', 'fold(@.a)'), fc.constantFrom('', ' desc'), fc.constantFrom('', ' nulls first'))
  .map((parts) => parts.join(''));
const stages = fc
  .tuple(fc.array(simple, { maxLength: 3 }), fc.array(orderKey, { maxLength: 2 }), fc.option(fc.nat(6)), fc.option(fc.nat(3)), fc.boolean())
  .map(([conditions, order, limit, offset, apart]) =>
    [
      'from c',
      ...(conditions.length === 0
        ? []
        : apart
          ? conditions.map((c) => `where ${c}`)
          : [`where ${conditions.map((c) => `(${c})`).join(' && ')}`]),
      ...(order.length === 0 ? [] : [`order by ${order.join(', ')}`]),
      ...(offset === null ? [] : [`offset ${offset}`]),
      ...(limit === null ? [] : [`limit ${limit}`]),
    ].join('\n'),
  );
const indexKeys = fc.uniqueArray(fc.constantFrom('@.a', '@.b', '@.a desc', '@.b desc', '@.tags[*]', 'fold(@.a)'), {
  minLength: 1,
  maxLength: 2,
  selector: (key) => key.replace(' desc', ''),
});

describe('properties', () => {
  test('an index never changes the answer, row order included, and the meter counts what was read', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(document, { maxLength: 30 }), stages, indexKeys, async (made, pipeline, keys) => {
        const documents = made.map((one, id) => ({ ...one, id }));
        const scanned = await ask(await engineOf(documents), pipeline, { ways: 'full scan' });
        const engine = await engineOf(documents, [keys]);
        const name = engine.collections.get('c')?.indexList[1].definition.name;
        const indexed = await ask(engine, pipeline, { useIndex: name });
        expect(indexed.documents).toEqual(scanned.documents);
        expect(indexed.cost.documentsRead).toBeLessThanOrEqual(documents.length);
      }),
      { numRuns: 1_500 },
    );
  });

  test('an index that took changes one by one equals one that is built anew', async () => {
    const change = fc.tuple(fc.nat(20), fc.option(document, { freq: 4 }));
    await fc.assert(
      fc.asyncProperty(
        fc.array(document, { maxLength: 20 }),
        fc.array(change, { maxLength: 25 }),
        indexKeys,
        stages,
        async (made, changes, keys, pipeline) => {
          const engine = await engineOf(
            made.map((one, id) => ({ ...one, id })),
            [keys],
          );
          const collection = engine.collections.get('c');
          if (collection === undefined) return;
          for (const [position, after] of changes)
            await collection.apply([{ position, document: after === null ? undefined : { ...after, id: position } }]);
          const fresh = new Engine(host);
          const copy = fresh.define('c', '@.id');
          collection.store.documents.forEach((one, position) => one && copy.store.put(position, one));
          const name = collection.indexList[1].definition.name;
          const moved = await ask(engine, pipeline, { useIndex: name });
          expect(moved.documents).toEqual((await ask(fresh, pipeline)).documents);
          expect(collection.indexList[1].entries).toBe((await copy.buildIndex(readDefinition({ keys }), host.pause))?.entries);
        },
      ),
      { numRuns: 400 },
    );
  });

  test('a unique index refuses what repeats, and lets nulls and what has no key be', async () => {
    const engine = await engineOf([{ id: 1, k: 'a' }, { id: 2 }, { id: 3 }]);
    const collection = engine.collections.get('c');
    const index = await collection?.buildIndex(readDefinition({ keys: ['@.k'], unique: true }), host.pause);
    const put = (after: JsonObject, position = 9) => index?.violation([{ position, before: undefined, after }]);
    expect(put({ id: 4, k: 'a' })?.values).toEqual(['a']);
    expect(put({ id: 4, k: 'b' })).toBeUndefined();
    expect(put({ id: 4 })).toBeUndefined();
    await expect(
      (
        await engineOf([
          { id: 1, k: 1 },
          { id: 2, k: 1 },
        ])
      ).collections
        .get('c')
        ?.buildIndex(readDefinition({ keys: ['@.k'], unique: true }), host.pause),
    ).rejects.toThrow('unique');
  });
});
