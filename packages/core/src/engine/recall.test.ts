import { readIndex } from '../indexes/kinds.ts';
import { seededNumbers } from '../values/seededNumbers.ts';
import type { Json } from '../values/json.ts';
import { Engine } from './engine.ts';
import { measureRecall } from './measureRecall.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const watched = { pause: host.pause, isCancelled: () => false, onProgress: () => undefined };
const asked = { efforts: [10, 40, 1_500], queries: 30, n: 10, at: '2026-02-03T04:05:06Z' };

async function collectionOf(documents: readonly { id: number; v?: Json }[], metric: 'cosine' | 'dot' | 'euclidean' = 'cosine') {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  documents.forEach((one, i) => collection.store.put(i, one));
  await collection.buildIndex(readIndex({ name: 'vectors', kind: 'vector', keys: ['@.v'], metric, links: 4, buildEffort: 20 }), host.pause);
  await collection.buildIndex(readIndex({ name: 'words', kind: 'text', keys: ['@.t'] }), host.pause);
  return { engine, collection };
}
const next = seededNumbers(5);
const many = Array.from({ length: 1_500 }, (_, id) => ({ id, v: Array.from({ length: 12 }, () => next() - 0.5) }));

test.each(['cosine', 'dot', 'euclidean'] as const)('what an effort finds is measured against the exact answer, and told beside answers with it: %s', async (metric) => {
  const { engine, collection } = await collectionOf(many, metric);
  const score = { cosine: 'cosine_similarity(@.v, :q)', dot: 'dot_product(@.v, :q)', euclidean: '-euclidean_distance(@.v, :q)' }[metric];
  const ask = async (effort: number) => {
    const answer = await engine.query({ pipeline: `from c\nbest 10 by ${score} effort ${effort}`, parameters: { q: many[3]!.v } });
    return answer.ok && answer.value.approximate;
  };
  expect(await ask(40)).toEqual({ effort: 40 });
  const shares: number[] = [];
  const measured = (await measureRecall(collection, 'vectors', asked, { ...watched, onProgress: (share) => void shares.push(share) }))!;
  const [low, middle, all] = measured.points;
  expect(measured).toMatchObject({ n: 10, queries: 30, measuredAt: asked.at, exact: { compared: 1_500 } });
  expect(measured.points.map(({ effort }) => effort)).toEqual(asked.efforts);
  // Few links and a low effort leave some out; all candidates leave none.
  expect(low!.recall).toBeLessThan(middle!.recall);
  expect(low!.recall).toBeGreaterThan(0.2);
  expect(all!.recall).toBe(1);
  expect(low!.compared).toBeLessThan(middle!.compared);
  expect(shares.at(-1)).toBe(1);
  expect([...shares].sort((a, b) => a - b)).toEqual(shares);
  expect(await ask(40)).toEqual({ effort: 40, recall: middle!.recall, measuredAt: asked.at });
  expect(await ask(41)).toEqual({ effort: 41 });
  // The same questions each time.
  const again = (await measureRecall(collection, 'vectors', asked, watched))!;
  expect(again.points.map(({ recall, compared }) => [recall, compared])).toEqual(measured.points.map(({ recall, compared }) => [recall, compared]));
  // The rows that are kept of a run say it, and so does a comparison.
  expect(engine.rows('run', 0, 1)).toMatchObject({ value: { approximate: { effort: 41 } } });
  const first = { pipeline: `from c\nbest 5 by ${score} effort 1500`, parameters: { q: many[3]!.v } };
  const compared = await engine.compare(first, { ...first, pipeline: `from c\nbest 5 by ${score}` }, () => false);
  expect(compared).toMatchObject({ value: { sameOrder: true, approximate: [{ effort: 1_500, recall: 1 }, null] } });
}, 60_000); // prettier-ignore

test('nothing is measured where there is nothing to ask for, of an index that is exact, or once it is cancelled', async () => {
  const { collection } = await collectionOf([{ id: 1 }, { id: 2, v: 'no vector' }]);
  expect(await measureRecall(collection, 'vectors', asked, watched)).toBeNull();
  expect(await measureRecall(collection, 'words', asked, watched)).toBeNull();
  expect(await measureRecall(collection, 'none', asked, watched)).toBeNull();
  const large = await collectionOf(many.slice(0, 100));
  let steps = 0;
  expect(await measureRecall(large.collection, 'vectors', asked, { ...watched, isCancelled: () => ++steps > 5 })).toBeUndefined();
  expect(large.collection.index('vectors')?.recall).toBeUndefined();
});

test('what is alike counts as found: equal vectors take each other’s places', async () => {
  const { collection } = await collectionOf(Array.from({ length: 60 }, (_, id) => ({ id, v: [1, id % 2] })));
  const measured = (await measureRecall(collection, 'vectors', { ...asked, efforts: [60] }, watched))!;
  expect(measured.points[0]!.recall).toBe(1);
});
