import { readIndex } from '../indexes/kinds.ts';
import { Engine } from './engine.ts';
import { estimateIndex } from './estimateIndex.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date() };

test.each([
  [{ keys: ['@.n'] }],
  [{ keys: ['@.tags[*]', '@.id desc'] }],
  [{ keys: ['@.n'], unique: true }],
  [{ kind: 'text' as const, keys: ['@.t'], language: 'english' as const }],
  [{ kind: 'place' as const, keys: ['@.at'] }],
  [{ kind: 'vector' as const, keys: ['@.v'], links: 4, buildEffort: 20 }],
])('what %j would take is about what it takes', async (asked) => {
  const collection = new Engine(host).define('c', '@.id');
  for (let id = 0; id < 6_000; id++)
    collection.store.put(id, { id, n: id % 50, tags: ['a', `b${id % 9}`], t: `lynx ${id % 300} on the ridge`, at: [id % 180, id % 80], v: [Math.sin(id), Math.cos(id), id % 7, 1] });
  let paused = 0;
  const estimate = await estimateIndex(collection, readIndex({ name: 'x', ...asked }), () => Promise.resolve(void paused++));
  const index = (await collection.buildIndex(readIndex({ name: 'x', ...asked, unique: false }), host.pause))!;
  expect(estimate.entries / index.entries).toBeCloseTo(1, 1);
  expect(estimate.bytes / index.bytes).toBeGreaterThan(0.4);
  expect(estimate.bytes / index.bytes).toBeLessThan(4);
  expect(estimate.buildMs).toBeGreaterThan(0);
  expect(paused).toBeGreaterThan(0);
}); // prettier-ignore

test('of nothing it takes nothing', async () => {
  const collection = new Engine(host).define('c', '@.id');
  const estimate = await estimateIndex(collection, readIndex({ name: 'x', keys: ['@.n'] }), host.pause);
  expect(estimate.entries).toBe(0);
  expect(Number.isFinite(estimate.buildMs)).toBe(true);
});
