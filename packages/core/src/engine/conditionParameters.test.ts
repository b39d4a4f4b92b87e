import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';

/** A condition as the value of a parameter: as if it were written where its parameter stands. */

const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) });
const huts = engine.define('huts', '@.id');
for (let id = 0; id < 60; id++) huts.store.put(id, { id, region: id % 3 === 0 ? 'north' : 'south', bunks: id, tags: id % 2 ? ['x'] : [] } as JsonObject); // prettier-ignore

const ask = async (pipeline: string, parameters: Record<string, Json> = {}) => engine.query({ pipeline, parameters, pageSize: 100 });
async function rowsOf(pipeline: string, parameters: Record<string, Json> = {}) {
  const answer = await ask(pipeline, parameters);
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value.documents;
}
async function refusalOf(pipeline: string, parameters: Record<string, Json>): Promise<string> {
  const answer = await ask(pipeline, parameters);
  return answer.ok ? 'it was answered' : answer.problem.message;
}

test.each<[given: Json | undefined, written: string]>([
  ['@.region == "north"', '@.bunks > 4 && @.region == "north"'],
  ['@.region == "north" || @.bunks in [5, 7]', '@.bunks > 4 && (@.region == "north" || @.bunks in [5, 7])'],
  ['@.bunks < 20 && !(@.region == "south")', '@.bunks > 4 && @.bunks < 20 && !(@.region == "south")'],
  ['@.tags[?@ == "x"]', '@.bunks > 4 && @.tags[?@ == "x"]'],
  [undefined, '@.bunks > 4'],
  [null, '@.bunks > 4'],
  ['  ', '@.bunks > 4'],
])('%p', async (given, written) => {
  const parameters: Record<string, Json> = given === undefined ? {} : { filter: given };
  const expected = await rowsOf(`from huts\nwhere ${written}\nselect @.id`);
  expect(await rowsOf('from huts\nwhere @.bunks > 4 && :filter\nselect @.id', parameters)).toEqual(expected);
  expect(await rowsOf('from huts\nwhere :filter\nwhere @.bunks > 4\nselect @.id', parameters)).toEqual(expected);
});

test('the same pipeline with one condition and then another gives each its own answer', async () => {
  const counts = [];
  for (const filter of ['@.id < 3', '@.id < 5', '@.id < 3', undefined]) counts.push((await rowsOf('from huts\nwhere :filter', filter === undefined ? {} : { filter })).length);
  expect(counts).toEqual([3, 5, 3, 60]);
}); // prettier-ignore

test('it is planned as if it stood there: an index serves it', async () => {
  const answer = engine.plan({ pipeline: 'from huts\nwhere :filter', parameters: { filter: '@.id == 7' } });
  expect(answer.ok && answer.value.plan).toMatchObject({ step: 'index lookup', index: 'identity' });
});

test.each<[given: Json, said: RegExp]>([
  [7, /Line 2: :filter stands for a condition: give it one as text/],
  [true, /stands for a condition/],
  ['@.bunks >', /In the condition given for :filter, at “its end”/],
  ['@.bunks', /^it was answered$/],
  ['unheard(@.bunks)', /at “unheard\(@\.bunks\)”/],
  ['@.bunks > :least', /has a parameter, :least/],
  ['@.bunks + 1', /A condition is wanted here/],
])('%p: %p', async (filter, said) => {
  expect(await refusalOf('from huts\nwhere :filter', { filter })).toMatch(said);
});

test('elsewhere a parameter is a value, and a value is no condition', async () => {
  expect(await refusalOf('from huts\nwhere @.id == 1 || :filter', { filter: '@.id == 2' })).toMatch(
    /A condition is wanted here, and :filter is a value/,
  );
  expect(await refusalOf('from huts\nwhere @.id == :id', {})).toMatch(/:id has no value/);
});

test('in a view it has the condition that was saved with it', async () => {
  engine.setViews(new Map([['some', { pipeline: 'from huts\nwhere :filter', parameters: { filter: '@.id < 4' } }]]));
  expect(await rowsOf('from some')).toHaveLength(4);
  engine.setViews(new Map([['some', { pipeline: 'from huts\nwhere :filter', parameters: {} }]]));
  expect(await rowsOf('from some')).toHaveLength(60);
  engine.setViews(new Map());
});

test('a change wants it given, since it would be made of every document otherwise', async () => {
  const change = 'from huts\nwhere :filter\ndelete';
  const refused = await engine.computeChange({ change, parameters: {} }, () => false);
  expect(refused).toMatchObject({ ok: false, problem: { message: expect.stringContaining(':filter has no value') as string } });
  const made = await engine.computeChange({ change, parameters: { filter: '@.id in [1, 2]' } }, () => false);
  expect(made.ok && made.value.changed).toHaveLength(2);
});
