import { AnswerCache, type Computed } from './answerCache.ts';

/** Answers that are kept, on a clock of our own. */

let now = 0;
let runs = 0;
const cacheOf = (bytes = 1_000_000) => new AnswerCache(bytes, () => now);
const answer = (text: string, state?: string): Computed => ({ body: Buffer.from(text), type: 'text/plain', next: undefined, documentsRead: 1, approximate: undefined, asOf: undefined, tag: `"${text}"`, state }); // prettier-ignore
const made = (state?: string) => () => Promise.resolve(answer(`run ${++runs}`, state));
const failing = () => Promise.reject(new Error('it takes too much'));
const settled = () => new Promise((resolve) => setImmediate(resolve));
const policy = { freshSeconds: 10, staleSeconds: 60 };
beforeEach(() => {
  now = 1_000_000;
  runs = 0;
});

test('for a time: kept, made anew behind it from half of it on, and served while a new one is made', async () => {
  const cache = cacheOf();
  const ask = async (work = made()) => {
    const { answer: given, how, ageMs } = await cache.forTime('k', policy, work);
    return [given.body.toString(), how, ageMs];
  };
  expect(await ask()).toEqual(['run 1', 'miss', 0]);
  now += 4_000;
  expect(await ask()).toEqual(['run 1', 'hit', 4_000]);
  await settled();
  expect(runs).toBe(1);
  now += 2_000;
  expect(await ask()).toEqual(['run 1', 'hit', 6_000]);
  await settled();
  expect(await ask()).toEqual(['run 2', 'hit', 0]);
  now += 30_000;
  expect(await ask()).toEqual(['run 2', 'stale', 30_000]);
  await settled();
  expect(await ask()).toEqual(['run 3', 'hit', 0]);
});

test('what cannot be made anew is served until its window ends, and says so; then the failure is told', async () => {
  const cache = cacheOf();
  await cache.forTime('k', policy, made());
  now += 12_000;
  expect(await cache.forTime('k', policy, failing)).toMatchObject({ how: 'stale', failure: undefined });
  await settled();
  now += 50_000;
  const late = await cache.forTime('k', policy, failing);
  expect([late.answer.body.toString(), late.how, late.failure]).toEqual(['run 1', 'stale', 'it takes too much']);
  await settled();
  now += 9_000;
  await expect(cache.forTime('k', policy, failing)).rejects.toThrow('it takes too much');
  // Nothing of the failure is kept.
  expect(await cache.forTime('k', policy, made())).toMatchObject({ how: 'miss', failure: undefined });
});

test('until something changes: by the state alone, however old; whoever asks after a change waits for none that was begun before', async () => {
  const cache = cacheOf();
  expect((await cache.untilChange('k', 'one', made('one'))).how).toBe('miss');
  now += 1e9;
  expect((await cache.untilChange('k', 'one', made('one'))).answer.body.toString()).toBe('run 1');
  let finish: (given: Computed) => void = () => undefined;
  const slow = cache.untilChange('k', 'two', () => new Promise((resolve) => (finish = resolve)));
  expect((await cache.untilChange('k', 'three', made('three'))).answer.body.toString()).toBe('run 2');
  finish(answer('late', 'two'));
  expect((await slow).answer.body.toString()).toBe('late');
  // What was begun before the change is no answer to what is asked after it.
  expect((await cache.untilChange('k', 'three', made('three'))).answer.body.toString()).not.toBe('late');
});

test('what changed while it was read is given, and kept for nobody', async () => {
  const cache = cacheOf();
  await cache.untilChange('k', 'one', made(undefined));
  expect((await cache.untilChange('k', 'one', made('one'))).how).toBe('miss');
});

test('many who ask at once cause one run, and one that fails fails for all', async () => {
  const cache = cacheOf();
  const all = await Promise.all(Array.from({ length: 200 }, () => cache.forTime('k', policy, made())));
  expect([runs, all.filter(({ how }) => how === 'miss').length, all.filter(({ how }) => how === 'collapsed').length]).toEqual([1, 1, 199]);
  const failed = await Promise.allSettled(Array.from({ length: 5 }, () => cache.forTime('other', policy, failing)));
  expect(failed.every(({ status }) => status === 'rejected')).toBe(true);
});

test('it stays within its bytes, and lets those go that were not used longest', async () => {
  const cache = cacheOf(40_000);
  const large = (name: string) => cache.forTime(name, policy, () => Promise.resolve(answer(name.repeat(4_000))));
  for (const name of ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'a', 'i', 'j']) await large(name);
  expect(cache.heldBytes).toBeLessThanOrEqual(40_000);
  expect([(await large('a')).how, (await large('b')).how]).toEqual(['hit', 'miss']);
});
