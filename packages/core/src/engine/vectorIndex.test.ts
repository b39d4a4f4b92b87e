import fc from 'fast-check';
import { readIndex } from '../indexes/kinds.ts';
import type { Json } from '../values/json.ts';
import { Engine } from './engine.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const number = fc.oneof({ weight: 6, arbitrary: fc.integer({ min: -3, max: 3 }) }, { weight: 4, arbitrary: fc.double({ min: -5, max: 5, noNaN: true }) }, { weight: 1, arbitrary: fc.constantFrom(1e-20, 1e30, 1e200, 0.1, 1 / 3) }); // prettier-ignore
const vector = fc.array(number, { minLength: 4, maxLength: 4 });
const value: fc.Arbitrary<Json | undefined> = fc.oneof(
  { weight: 9, arbitrary: vector },
  { weight: 1, arbitrary: fc.constantFrom<Json | undefined>(undefined, null, [1, 2], [0, 0, 0, 0], [1, null, 2, 3], 'x', [1, 2, 3, 4, 5]) },
);
const documentOf = fc.record({ v: value, n: fc.nat(2) });
const made = (id: number, { v, n }: { v?: Json; n: number }) => ({ id, n, ...(v !== undefined && { v }) });
const scores = { cosine: 'cosine_similarity(@.v, :q)', dot: 'dot_product(:q, @.v)', euclidean: '-euclidean_distance(@.v, :q)' } as const;

test.each(['cosine', 'dot', 'euclidean'] as const)('without an effort the best are exact, whatever vectors are like: %s', async (metric) => {
  let used = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(documentOf, { maxLength: 40 }),
      fc.array(fc.tuple(fc.nat(45), fc.option(documentOf, { nil: undefined })), { maxLength: 8 }),
      fc.oneof({ weight: 8, arbitrary: vector as fc.Arbitrary<Json> }, { weight: 1, arbitrary: fc.constantFrom<Json>([1, 2], [0, 0, 0, 0], null, 'x') }),
      async (documents, changes, q) => {
        const engine = new Engine(host);
        const collection = engine.define('c', '@.id');
        documents.forEach((one, i) => collection.store.put(i, made(i, one)));
        await collection.buildIndex(readIndex({ name: 'vectors', kind: 'vector', keys: ['@.v'], metric, links: 4, buildEffort: 10 }), host.pause);
        for (const [position, one] of changes) await collection.apply([{ position, document: one && made(position, one) }]);
        for (const stages of [`best 5 by ${scores[metric]} as s`, `where @.n > 0\nbest 3 by ${scores[metric]} as s`, `best 4 by ${scores[metric]}, @.n as s`]) {
          const ask = (more: object) => engine.query({ pipeline: `from c\n${stages}`, parameters: { q }, ...more });
          const [scanned, insisted] = await Promise.all([ask({ ignoreIndexes: ['vectors'] }), ask({ useIndex: ['vectors'] })]);
          expect({ stages, rows: insisted.ok ? insisted.value.documents : insisted.problem }).toEqual({ stages, rows: scanned.ok && scanned.value.documents });
          if (insisted.ok && JSON.stringify(insisted.value.plan).includes('vector index search')) used++;
        }
        const checks = await collection.checkIndexes(host.pause);
        expect(checks?.[1]).toMatchObject({ missing: 0, misplaced: 0, entries: checks?.[1]?.expected });
      },
    ),
    { numRuns: 120 },
  );
  expect(used).toBeGreaterThan(100);
}); // prettier-ignore

/** Numbers from 0 to 1, the same each time. */
function sequence(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
}

test.each(['uniform', 'clustered'] as const)('with an effort nearly all of the best are found, by a few comparisons: %s', async (kind) => {
  const next = sequence(7);
  const normal = () => Math.sqrt(-2 * Math.log(next())) * Math.cos(2 * Math.PI * next());
  const centres = Array.from({ length: 40 }, () => Array.from({ length: 32 }, normal));
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  for (let i = 0; i < 6_000; i++) {
    const centre = centres[Math.floor(next() * centres.length)]!;
    collection.store.put(i, { id: i, n: i % 3, v: centre.map((one) => (kind === 'uniform' ? normal() : one + 0.3 * normal())) });
  }
  const index = await collection.buildIndex(readIndex({ name: 'vectors', kind: 'vector', keys: ['@.v'], metric: 'cosine' }), host.pause);
  expect(index?.entries).toBe(6_000);
  for (const condition of ['', 'where @.n == 1\n']) {
    let found = 0;
    let compared = 0;
    for (let i = 0; i < 40; i++) {
      const near = collection.store.documents[(i * 149) % 6_000]!['v'] as number[];
      const q = near.map((one) => one + 0.1 * normal());
      const ask = async (effort: string) => {
        const answer = await engine.query({ pipeline: `from c\n${condition}best 10 by cosine_similarity(@.v, :q)${effort}\nselect @.id`, parameters: { q } });
        if (!answer.ok) throw new Error(answer.problem.message);
        return answer.value;
      };
      const [exact, about] = await Promise.all([ask(''), ask(' effort 128')]);
      const wanted = new Set(exact.documents.map((row) => (row as { id: number }).id));
      found += about.documents.filter((row) => wanted.has((row as { id: number }).id)).length;
      compared += about.cost.indexEntriesRead;
      expect(about.documents).toHaveLength(10);
    }
    expect(found / 400).toBeGreaterThanOrEqual(0.95);
    expect(compared / 40).toBeLessThan(kind === 'uniform' ? 4_500 : 3_000);
  }
}, 120_000); // prettier-ignore

test('an effort that no index serves gives an exact answer, and a note says so; so it does of words that are none', async () => {
  const engine = new Engine(host);
  engine.define('c', '@.id').store.put(0, { id: 0, v: [1, 2], t: 'the bridge' });
  const ask = async (stages: string) => {
    const answer = await engine.query({ pipeline: `from c\n${stages}` });
    return answer.ok ? answer.value.notes.map(({ code, line }) => [code, line]) : [];
  };
  expect(await ask('best 3 by cosine_similarity(@.v, [1, 1]) effort 50')).toEqual([['exact-anyway', 2]]);
  expect(await ask('where mentions_any(@.t, "the of", "english")')).toEqual([['no-words', 2]]);
  expect(await ask('where mentions_any(@.t, "the of")')).toEqual([]);
});

test('what was only begun, or came with many, is right at once and as good by and by; what has gone is let go of', async () => {
  const next = sequence(3);
  const vectorOfSome = () => Array.from({ length: 16 }, () => next() - 0.5);
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  for (let i = 0; i < 2_000; i++) collection.store.put(i, { id: i, v: vectorOfSome() });
  await collection.beginIndex(readIndex({ name: 'vectors', kind: 'vector', keys: ['@.v'] }), host.pause);
  const ask = async (effort: string, q = vectorOfSome()) => {
    const answer = await engine.query({ pipeline: `from c\nbest 5 by cosine_similarity(@.v, :q)${effort}\nselect @.id`, parameters: { q } });
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value;
  };
  const q = vectorOfSome();
  const exact = (await ask('', q)).documents;
  const first = await ask(' effort 60', q);
  expect(first.documents).toEqual(exact);
  // Most have no links yet, and each of those is compared.
  expect(first.cost.indexEntriesRead).toBeGreaterThan(1_900);
  await collection.goOn(host.pause, () => true);
  const linked = await ask(' effort 60', q);
  expect(linked.documents).toEqual(exact);
  expect(linked.cost.indexEntriesRead).toBeLessThan(1_200);
  await collection.apply(Array.from({ length: 600 }, (_, i) => ({ position: i * 3, document: undefined })));
  await collection.goOn(host.pause, () => true);
  expect((await ask(' effort 100', q)).documents).toEqual((await ask('', q)).documents);
  const [, check] = (await collection.checkIndexes(host.pause))!;
  expect(check).toMatchObject({ entries: 1_400, expected: 1_400, missing: 0, misplaced: 0 });
  // Many at once: nothing waits for their links.
  await collection.apply(Array.from({ length: 1_500 }, (_, i) => ({ position: 3_000 + i, document: { id: 3_000 + i, v: vectorOfSome() } })));
  expect((await ask(' effort 100', q)).documents).toEqual((await ask('', q)).documents);
}); // prettier-ignore

test('an effort is no less than the rows that are kept', async () => {
  const engine = new Engine(host);
  engine.define('c', '@.id').store.put(0, { id: 0, v: [1, 2] });
  const ask = async (effort: string, parameters: Record<string, Json> = {}) =>
    (await engine.query({ pipeline: `from c\nbest 5 by dot_product(@.v, [1, 1]) effort ${effort}`, parameters })).ok;
  expect([await ask('4'), await ask('5'), await ask(':e', { e: 4 }), await ask(':e', { e: 5 }), await ask(':e', { e: 'x' })]).toEqual([false, true, false, true, false]); // prettier-ignore
});

test.each(['cosine', 'dot', 'euclidean'] as const)('among many that differ in their last digits alone the best are exact too, though sums are of 32 bits: %s', async (metric) => {
  const next = sequence(11);
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  const middle = Array.from({ length: 70 }, () => (next() - 0.5) * 10);
  for (let i = 0; i < 1_600; i++) collection.store.put(i, { id: i, v: middle.map((one) => one + (next() - 0.5) * 10 ** -(i % 9)) });
  await collection.beginIndex(readIndex({ name: 'vectors', kind: 'vector', keys: ['@.v'], metric }), host.pause);
  for (let round = 0; round < 6; round++) {
    const q = middle.map((one) => one + (next() - 0.5) * 10 ** -round);
    const ask = (more: object) => engine.query({ pipeline: `from c\nbest 40 by ${scores[metric]} as s\nselect @.id, @.s`, parameters: { q }, ...more });
    const [scanned, insisted] = [await ask({ ignoreIndexes: ['vectors'] }), await ask({ useIndex: ['vectors'] })];
    expect(insisted.ok && insisted.value.cost.indexEntriesRead).toBe(1_600);
    expect(insisted.ok && insisted.value.documents).toEqual(scanned.ok && scanned.value.documents);
  }
}); // prettier-ignore
