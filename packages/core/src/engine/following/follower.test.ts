import * as fc from 'fast-check';
import { rowsToKeep } from '../../execution/run.ts';
import { unitsOf } from '../../values/exactSum.ts';
import type { Json, JsonObject } from '../../values/json.ts';
import { wholeSumsOf } from '../../values/wholeSums.ts';
import type { Put } from '../collection.ts';
import { Engine } from '../engine.ts';
import { existing } from '../existing.ts';
import { expandedStages } from '../ifKept.ts';
import { Follower } from './follower.ts';
import { followed } from './followed.ts';
import { CannotFollow } from './units.ts';

const pipelines = [
  'from stays\nwhere @.fee > 3\nselect @.id, @.hut, @.fee * 2 as twice',
  'from stays\nwhere @.kind == "a"\ncompute late = @.fee > 5\nomit @.month',
  'from stays\njoin huts as hut on hut.id == @.hut\nwhere @.hut.region != "south"\nselect @.id, @.hut.region, @.fee',
  'from stays\nleft join huts as partner on partner.id == @.hut && partner.beds > @.month\nselect @.id, @.partner.beds',
  'from stays\ngather join huts as all on all.region == @.region\nselect @.id, count(@.all[*]) as n',
  'from stays\nunnest @.tags as tag\nwhere @.tag != "x"\nselect @.id, @.tag',
  'from stays\ngroup by @.hut measure n = count(), fee = sum(@.fee), mean = avg(@.fee), top = max(@.fee)',
  'from stays\nwhere @.fee > 2\ngroup by @.hut, @.month measure first = first(@.id), last = last(@.id), all = collect(@.fee)\nwhere @.first > 2\ncompute next = @.first + 1',
  'from stays\nunnest @.tags as tag\ngroup by @.tag measure n = count(), huts = count_distinct(@.hut)',
  'from stays\njoin huts as hut on hut.id == @.hut\ngroup by @.hut.region as region measure n = count(), beds = sum(@.hut.beds)\norder by @.n desc, @.region',
  'from stays\nunnest @.tags as tag\njoin huts as hut on hut.id == @.hut\ngroup by @.tag, @.hut.region as region measure least = min(@.fee), middle = median(@.fee)\norder by @.least',
  'from stays\nwhere @.fee > 1\norder by @.fee desc\nselect @.id, @.fee\nwhere @.fee < 9',
];

const tag = fc.constantFrom('x', 'y', 'z');
const stay = fc.record({
  hut: fc.constantFrom(1, 2, 3, 4, null),
  month: fc.integer({ min: 1, max: 3 }),
  fee: fc.oneof(fc.integer({ min: 0, max: 10 }), fc.constantFrom(0.1, 0.2, 1e16, -1e16, 1.7e308, 5e-324)),
  kind: fc.constantFrom('a', 'b'),
  region: fc.constantFrom('north', 'south'),
  tags: fc.array(tag, { maxLength: 3 }),
});
const hut = fc.record({ id: fc.constantFrom(1, 2, 3, 5), region: fc.constantFrom('north', 'south'), beds: fc.integer({ min: 0, max: 4 }) });
/** Puts into one of the collections, by a share of the positions that there are. */
const change = fc.oneof(
  { weight: 3, arbitrary: fc.record({ of: fc.constant('stays'), at: fc.integer({ min: 0, max: 30 }), document: fc.option(stay, { nil: undefined, freq: 3 }) }) }, // prettier-ignore
  { weight: 1, arbitrary: fc.record({ of: fc.constant('huts'), at: fc.integer({ min: 0, max: 6 }), document: fc.option(hut, { nil: undefined, freq: 3 }) }) }, // prettier-ignore
);
const pauses = { pause: () => Promise.resolve(), newId: () => 'a run', now: () => new Date(0) };

const stagesOf = (pipeline: string, names: readonly string[] = ['stays', 'huts']) =>
  existing(expandedStages('followed', { pipeline }, new Map(), names));

async function rowsOf(engine: Engine, pipeline: string): Promise<string[]> {
  const answer = await engine.query({ pipeline, pageSize: 10_000 }, () => false, rowsToKeep);
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value.documents.map(keptText);
}

/** A row with its sums as they were before they were rounded, each in units of 2^-1074. */
function keptText(row: Json): string {
  const sums = wholeSumsOf(row)?.map((sum) => sum && [sum[0], String(unitsOf(sum[1]) + unitsOf(sum[2]) + BigInt(sum[3] ?? 0))]);
  return JSON.stringify([row, sums]);
}

async function following(engine: Engine, pipeline: string) {
  const find = (name: string) => existing(engine.collections.get(name));
  const begun = await Follower.begin(stagesOf(pipeline), find, pauses.pause, () => false);
  if (typeof begun === 'string') throw new Error(begun);
  const stored = new Map<number, string>();
  (await rowsOf(engine, pipeline)).forEach((row, at) => stored.set(existing(begun.places[at]), row));
  return {
    follower: begun.follower,
    /** As the rows lie after it has caught up. */
    rows: () => {
      for (const { position, row } of begun.follower.catchUp()) {
        if (row === undefined) stored.delete(position);
        else stored.set(position, keptText(row));
      }
      return [...stored].sort(([a], [b]) => a - b).map(([, row]) => row);
    },
  };
}

test.each(pipelines)('after every change the rows are those that the pipeline gives: %s', async (pipeline) => {
  await fc.assert(
    fc.asyncProperty(fc.array(stay, { maxLength: 12 }), fc.array(hut, { maxLength: 4 }), fc.array(fc.array(change, { minLength: 1, maxLength: 4 }), { maxLength: 12 }), async (stays, huts, steps) => {
      const engine = new Engine(pauses);
      engine.define('stays', '@.id').applyNow(stays.map((document, position) => ({ position, document: { id: position, ...document } as JsonObject }))); // prettier-ignore
      engine.define('huts', '@.id').applyNow(huts.map((document, position) => ({ position, document: document as JsonObject })));
      const { rows } = await following(engine, pipeline);
      for (const step of steps) {
        for (const { of, at, document } of step) {
          const collection = existing(engine.collections.get(of));
          const position = Math.min(at, collection.store.documents.length);
          const put: Put = { position, document: document && ({ id: position, ...document } as JsonObject) };
          await collection.apply([put]);
        }
        expect(rows()).toEqual(await rowsOf(engine, pipeline));
      }
    }),
    { numRuns: 60 },
  );
}, 60_000); // prettier-ignore

test('what depends on rows that do not change is not followed, and it is said why', () => {
  const why = (pipeline: string) => followed(stagesOf(pipeline));
  expect(why('from stays\nlimit 3')).toBe('"limit 3" depends on rows that do not change');
  expect(why('from stays\njoin stays as other on other.id == @.next')).toMatch(/joins the collection with itself$/);
  expect(why('from stays\ngroup by @.hut measure n = count()\ngroup by @.n measure huts = count()')).toMatch(/^"group by @.n/);
  expect(why('from stays\nwhere @.since < now()')).toBe('its rows are of the time at which they were made');
  expect(why('from stays\norder by @.fee\ngroup by @.hut measure n = count()')).toMatch(/^"group by @.hut/);
});

test('values that could not be used, and many changes at once, end it', async () => {
  const engine = new Engine(pauses);
  const stays = engine.define('stays', '@.id');
  stays.applyNow(Array.from({ length: 2_000 }, (_, id) => ({ position: id, document: { id, hut: id % 7, fee: 1 } })));
  const pipeline = 'from stays\ngroup by @.hut measure fee = sum(@.fee)';
  const many = await following(engine, pipeline);
  await stays.apply(Array.from({ length: 1_001 }, (_, position) => ({ position, document: { id: position, hut: 1, fee: 2 } })));
  expect(() => many.rows()).toThrow(new CannotFollow('many documents have changed at once'));
  const odd = await following(engine, pipeline);
  const free = (position: number) => stays.apply([{ position, document: { id: position, hut: 1, fee: 'free' } }]);
  await free(3);
  expect(() => odd.rows()).toThrow(new CannotFollow('there are new values that its lines cannot use'));
  expect(odd.follower.isAliveIn(engine.collections)).toBe(false);
  // What was said of them when the whole was worked out is said of others like them too.
  const known = await following(engine, pipeline);
  await free(4);
  expect(known.rows()).toEqual(await rowsOf(engine, pipeline));
});
