import fc from 'fast-check';
import type { JsonObject } from '../values/json.ts';
import { ChangeFeed } from './changeFeed.ts';
import { Collection } from './collection.ts';

const change = (position: number, document: JsonObject | undefined) => ({ position, document });

test('who follows from the beginning has at every moment what the collection has, changed in few or in bulk', async () => {
  const puts = fc.array(fc.tuple(fc.nat(40), fc.option(fc.nat(9), { nil: undefined })), { maxLength: 30 });
  await fc.assert(
    fc.asyncProperty(fc.array(puts, { maxLength: 8 }), fc.boolean(), async (rounds, bulk) => {
      const collection = new Collection('c', '@.id');
      if (bulk) collection.applyNow(Array.from({ length: 1_500 }, (_, i) => change(i, { id: i, n: 1 })));
      const seen = new Map(collection.store.documents.entries());
      let entries = 0;
      const end = collection.changes.follow((changes) => {
        for (const { position, before, after } of changes) {
          if (before !== seen.get(position)) throw new Error('a change that does not follow the one before');
          seen.set(position, after);
        }
        entries = collection.identityIndex.entries;
      });
      for (const round of rounds) {
        // A position comes once in a set of changes.
        const once = [...new Map(round)].map(([position, n]) => change(position, n === undefined ? undefined : { id: position, n }));
        await collection.apply(once);
        expect(collection.store.documents.every((document, position) => seen.get(position) === document)).toBe(true);
        if (once.length > 0) expect(entries).toBe(collection.store.count);
      }
      end();
      await collection.apply([change(0, { id: 'unseen' })]);
      expect(seen.get(0)).not.toEqual({ id: 'unseen' });
    }),
    { numRuns: 60 },
  );
});

test('a follower that fails keeps no other from being told, and is not hidden', () => {
  const feed = new ChangeFeed();
  const told: string[] = [];
  feed.follow(() => {
    throw new Error('first');
  });
  feed.follow(() => told.push('second'));
  expect(() => feed.tell([{ position: 0, before: undefined, after: {} }])).toThrow('first');
  expect(told).toEqual(['second']);
});
