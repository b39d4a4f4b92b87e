import fc from 'fast-check';
import type { JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import { overlapsOf, type Overlaps } from './overlaps.ts';

const pause = () => Promise.resolve();

async function between(first: readonly JsonObject[], second: readonly JsonObject[]): Promise<Overlaps> {
  const engine = new Engine({ pause, newId: () => 'run', now: () => new Date() });
  const sides = [first, second].map(async (documents, at) => {
    const collection = engine.define(`side${at}`, '@.id');
    documents.forEach((document, i) => collection.store.put(i, document));
    return { store: collection.store, fields: await collection.shape(pause) };
  });
  const [a, b] = await Promise.all(sides);
  return overlapsOf(a!, b!, pause);
}

const names = ['id', 'hut', 'n', 'also'];
const side = fc.array(
  fc.record(
    { id: fc.nat(30), hut: fc.constantFrom('a', 'b', 'c', 'd', 'e'), n: fc.nat(6), also: fc.array(fc.constantFrom('a', 'c', 'x', 'y')) },
    { requiredKeys: [] },
  ),
  { minLength: 1, maxLength: 25 },
) as fc.Arbitrary<JsonObject[]>;

test('what two fields have in common is what one counts by hand', async () => {
  const valuesOf = (documents: readonly JsonObject[], name: string) => documents.flatMap((one) => (name in one ? one[name]! : []));
  await fc.assert(
    fc.asyncProperty(side, side, async (first, second) => {
      const { pairs, sampled, passedOver } = await between(first, second);
      expect([sampled, passedOver]).toEqual([false, [0, 0]]);
      const name = (path: string) => path.slice(2).replace('[*]', '');
      for (const pair of pairs) {
        const [a, b] = [valuesOf(first, name(pair.first)), valuesOf(second, name(pair.second))];
        const [left, right] = [new Set(a), new Set(b)];
        const common = [...left].filter((value) => right.has(value)).length;
        expect(pair).toMatchObject({ common, share: common / left.size, back: common / right.size, unique: [a.length === left.size, b.length === right.size] });
      }
      // Texts that both have are told whichever field they stand in.
      for (const [a, b] of names.flatMap((one) => names.map((other) => [one, other] as const))) {
        const [left, right] = [new Set(valuesOf(first, a)), new Set(valuesOf(second, b))];
        const common = [...left].filter((value) => typeof value === 'string' && right.has(value)).length;
        if (common > 1 && common / Math.min(left.size, right.size) >= 0.2)
          expect(pairs.map((pair) => [name(pair.first), name(pair.second)])).toContainEqual([a, b]);
      }
    }),
    { numRuns: 60 },
  );
}); // prettier-ignore

test('a reference to one of very many is found, whatever order they are in, and its shares are said to be of a sample', async () => {
  const many = 90_000;
  const bookings = Array.from({ length: many }, (_, i) => ({ id: `b${i}`, nights: `${i % 7} nights` }));
  const spread = (i: number): number => (i * 48_271) % many;
  const invoices = Array.from({ length: many * 2 }, (_, i) => ({ id: i, booking: i % 10 === 0 ? `gone${i}` : `b${spread(i)}` }));
  const { pairs, sampled } = await between(invoices, bookings);
  const [found] = pairs;
  expect(found).toMatchObject({ first: '@.booking', second: '@.id', unique: [false, true] });
  const referred = new Set(invoices.map(({ booking }) => booking));
  const there = [...referred].filter((booking) => booking.startsWith('b')).length;
  expect(Math.abs(found!.share - there / referred.size)).toBeLessThan(0.02);
  expect(Math.abs(found!.back - there / many)).toBeLessThan(0.02);
  expect(Math.abs(found!.common / there - 1)).toBeLessThan(0.05);
  expect(sampled).toBe(true);
});

test('fields that are not looked at are told', async () => {
  const wide = (id: number) => Object.fromEntries([['id', id], ...Array.from({ length: 150 }, (_, k) => [`k${k}`, `${k} ${id}`])]) as JsonObject;
  const { pairs, passedOver } = await between([wide(1), wide(2)], [{ id: 1 }, { id: 2 }, { id: 3 }]);
  expect(passedOver).toEqual([31, 0]);
  expect(pairs).toContainEqual(expect.objectContaining({ first: '@.id', second: '@.id', share: 1, common: 2 }));
}); // prettier-ignore
