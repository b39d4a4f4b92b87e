import type { JsonObject } from '../values/json.ts';
import { Collection } from './collection.ts';
import { isSound, type IndexCheck } from '../indexes/kind.ts';
import { readDefinition, type IndexRequest } from '../indexes/definition.ts';
import type { OrderedIndex } from '../indexes/ordered/orderedIndex.ts';

const pause = () => Promise.resolve();

async function collectionOf(requests: readonly IndexRequest[], count = 3_000): Promise<Collection> {
  const collection = new Collection('c', '@.id');
  for (let i = 0; i < count; i++) {
    const document: JsonObject = { id: `d${i}`, a: i % 17, tags: [i % 3, i % 5], ...(i % 4 > 0 && { b: `text ${(i * 7_919) % count}` }) };
    collection.store.put(i, document);
  }
  for (const request of requests) await collection.buildIndex(readDefinition(request), pause);
  return collection;
}

interface Insides {
  readonly blocks: { readonly keys: unknown[][]; readonly positions: number[] }[];
  readonly absentPositions: number[];
  entries: number;
}
const insidesOf = (index: OrderedIndex | undefined): Insides => index as unknown as Insides;

async function check(collection: Collection, name: string): Promise<IndexCheck> {
  const found = (await collection.checkIndexes(pause))?.find((one) => one.name === name);
  if (found === undefined) throw new Error(`${name} was not looked at`);
  return found;
}

test('indexes of every form are sound, after they are built and after changes', async () => {
  const requests = [
    { name: 'a', keys: ['@.a', '@.b desc'] },
    { name: 'b', keys: ['@.b'] },
    { name: 'tags', keys: ['@.tags[*]', '@.a'] },
    { name: 'some', keys: ['@.b'], where: '@.a == 3' },
    { name: 'one', keys: ['@.id'], unique: true },
  ];
  const collection = await collectionOf(requests);
  for (let i = 0; i < 300; i++) {
    const position = (i * 31) % 3_000;
    await collection.apply([
      { position, document: i % 3 === 0 ? undefined : { id: `n${i}`, a: i % 5, tags: [], ...(i % 2 > 0 && { b: `x${i}` }) } },
    ]);
  }
  const found = await collection.checkIndexes(pause);
  expect(found?.map(({ name }) => name)).toEqual(['identity', ...requests.map(({ name }) => name)]);
  expect(found?.filter((one) => !isSound(one))).toEqual([]);
  expect(found?.every(({ expected }) => expected > 0)).toBe(true);
});

test.each<[string, (insides: Insides) => void, Partial<IndexCheck>]>([
  ['two that stand the wrong way round', ({ blocks: [{ keys, positions }] }) => {
    [positions[0], positions[500]] = [positions[500], positions[0]];
    for (const column of keys) [column[0], column[500]] = [column[500], column[0]];
  }, { misplaced: 2 }],
  ['one that is not there', (insides) => {
    insides.blocks[1].positions.splice(3, 1);
    for (const column of insides.blocks[1].keys) column.splice(3, 1);
    insides.entries--;
  }, { missing: 1, entries: 2_249 }],
  ['one of a document that is not there', ({ blocks }) => (blocks[0].positions[7] = 999_999), { missing: 1 }],
  ['one twice', (insides) => {
    insides.blocks[0].positions.splice(3, 0, insides.blocks[0].positions[3]);
    for (const column of insides.blocks[0].keys) column.splice(3, 0, column[3]);
    insides.entries++;
  }, { repeated: 1, entries: 2_251 }],
  ['documents without the key that are not known', ({ absentPositions }) => absentPositions.splice(0, 2), { absent: 2 }],
])('%s', async (_, damage, found) => {
  const collection = await collectionOf([{ name: 'b', keys: ['@.b'] }]);
  damage(insidesOf(collection.orderedIndexes.find(({ definition }) => definition.name === 'b')));
  const checked = await check(collection, 'b');
  expect(checked).toMatchObject({ expected: 2_250, ...found });
  expect(isSound(checked)).toBe(false);
  await collection.rebuild('b', pause);
  expect(isSound(await check(collection, 'b'))).toBe(true);
}); // prettier-ignore

test('a check can be ended', async () => {
  const collection = await collectionOf([{ name: 'b', keys: ['@.b'] }]);
  expect(await collection.checkIndexes(pause, () => true)).toBeUndefined();
});
