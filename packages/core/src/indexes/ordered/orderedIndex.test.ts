import fc from 'fast-check';
import { ResidentStore } from '../../storage/residentStore.ts';
import { equalValues } from '../../values/equality.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { comparedTo, compareToCut, exactly, present, type Interval } from './cuts.ts';
import { readDefinition, type IndexRequest } from '../definition.ts';
import { KeyReader } from './keyValues.ts';
import { buildAtOnce, type OrderedIndex } from './orderedIndex.ts';
import type { IndexRange } from './sortedEntries.ts';

const scalar = fc.constantFrom<Json | undefined>(undefined, undefined, null, 0, 1, 2, 'x', 'y', true);
const document = fc
  .record({
    a: scalar,
    b: scalar,
    tags: fc.option(fc.array(fc.constantFrom<Json>('p', 'q', 1, null), { maxLength: 3 }), { nil: undefined }),
  })
  .map(({ a, b, tags }): JsonObject => ({
    ...(a !== undefined && { a }),
    ...(b !== undefined && { b }),
    ...(tags !== undefined && { tags }),
  }));
/** A position, and the document that it has from then on; undefined where it is removed. */
const write = fc.tuple(fc.nat(30), fc.option(document, { nil: undefined, freq: 4 }));
const definitions: IndexRequest[] = [
  { keys: ['@.a'] },
  { keys: ['@.a desc', '@.b'] },
  { keys: ['@.b', '@.a desc', '@.tags'] },
  { keys: ['@.tags[*]'] },
  { keys: ['@.a', '@.tags[*]'] },
  { keys: ['fold(@.a)'], where: '@.b == 1' },
  { keys: ['@.a'], where: '@.b' },
];

function everything(index: OrderedIndex) {
  const { positions, keys } = index.columnsOf({ fixed: [] });
  return {
    entries: index.entries,
    positions,
    keys,
    absent: index.absent,
    bytes: index.bytes,
    empty: index.definition.keys.map((_, k) => index.emptyAt(k)),
  };
}

test.each(definitions)('after any writes an index of $keys where $where is the one that is built anew', (request) => {
  const definition = readDefinition(request);
  fc.assert(
    fc.property(fc.array(document, { maxLength: 20 }), fc.array(write, { maxLength: 25 }), (first, writes) => {
      const store = new ResidentStore();
      first.forEach((one, position) => store.put(position, one));
      const index = buildAtOnce(definition, store);
      for (const [position, after] of writes) {
        const before = store.documents[position];
        store.put(position, after);
        index.apply({ position, before, after });
      }
      expect(everything(index)).toEqual(everything(buildAtOnce(definition, store)));
    }),
    { numRuns: 150 },
  );
});

const inside = (value: Value, { low, high }: Interval) => compareToCut(value, low) > 0 && compareToCut(value, high) < 0;
const key = fc.constantFrom<Value>(null, 0, 1, 2, 'x', true);
const interval = fc.oneof(
  key.map(exactly),
  fc.constantFrom<Interval>(present, comparedTo('>', 0) as Interval, comparedTo('<=', 1) as Interval, comparedTo('>=', 'x') as Interval),
);
const range: fc.Arbitrary<IndexRange> = fc.oneof(
  fc.constant({ fixed: [] }),
  interval.map((one) => ({ fixed: [], interval: one })),
  fc.tuple(key, fc.option(interval, { nil: undefined })).map(([one, rest]) => ({ fixed: [one], ...(rest && { interval: rest }) })),
  fc.tuple(key, key).map((fixed) => ({ fixed })),
);

test.each(definitions.slice(1, 3))('a range of an index of $keys finds and counts the entries that lie in it', (request) => {
  const definition = readDefinition(request);
  const reader = new KeyReader(definition);
  fc.assert(
    fc.property(fc.array(document, { maxLength: 40 }), range, fc.boolean(), (documents, asked, backwards) => {
      const store = new ResidentStore();
      documents.forEach((one, position) => store.put(position, one));
      const index = buildAtOnce(definition, store);
      const expected = documents.flatMap((one, position) =>
        reader
          .tuplesOf(one)
          .filter(
            (tuple) =>
              asked.fixed.every((value, k) => equalValues(value, tuple[k])) &&
              (asked.interval === undefined || inside(tuple[asked.fixed.length], asked.interval)),
          )
          .map(() => position),
      );
      const found = index.positionsOf(asked);
      expect([...found].sort((a, b) => a - b)).toEqual(expected);
      expect(index.count(asked)).toBe(expected.length);
      expect(found.map((_, place) => index.entryAt(asked, place)?.position)).toEqual(found);
      expect(index.entryAt(asked, found.length)).toBeUndefined();
      const all = definition.keys.length;
      expect([...index.groups(asked, all, backwards)].flat().sort((a, b) => a - b)).toEqual(expected);
      expect([...index.entryGroups(asked, all, backwards)].map((group) => group.map(({ position }) => position))).toEqual([
        ...index.groups(asked, all, backwards),
      ]);
    }),
    { numRuns: 300 },
  );
});

describe('a unique index', () => {
  const definition = readDefinition({ keys: ['@.a', '@.b'], unique: true });
  const store = new ResidentStore();
  store.put(0, { a: 1, b: 1 });
  store.put(1, { a: 1 });
  store.put(2, {});
  store.put(3, {});
  const index = buildAtOnce(definition, store);
  const change = (position: number, after: JsonObject | undefined) => ({ position, before: store.documents[position], after });

  test.each<[string, ReturnType<typeof change>[], string | undefined]>([
    ['other keys', [change(9, { a: 2, b: 1 })], undefined],
    ['none of the keys, as others have', [change(9, {})], undefined],
    ['keys that are there', [change(9, { a: 1, b: 1 })], 'The unique index a_b already has 1, 1.'],
    ['a missing key, as another has', [change(9, { a: 1 })], 'The unique index a_b already has 1, nothing.'],
    ['the same keys in the same document', [change(0, { a: 1, b: 1, c: 2 })], undefined],
    ['keys that move from one to another', [change(0, { a: 5 }), change(9, { a: 1, b: 1 })], undefined],
    ['two new ones with the same keys', [change(8, { a: 7, b: 7 }), change(9, { a: 7, b: 7 })], 'The unique index a_b already has 7, 7.'],
    ['keys of one that is removed', [change(0, undefined), change(9, { a: 1, b: 1 })], undefined],
  ])('with %s', (_, changes, told) => expect(index.violation(changes)?.message).toBe(told));

  test('is not built over documents that repeat', () => {
    store.put(9, { b: 1, a: 1 });
    expect(() => buildAtOnce(definition, store)).toThrow('The unique index a_b already has 1, 1.');
  });
});
