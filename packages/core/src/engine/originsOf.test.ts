import fc from 'fast-check';
import { equalValues } from '../values/equality.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { rowsToKeep } from '../execution/run.ts';
import { Engine } from './engine.ts';
import type { Answer } from './requests.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) };
const never = () => false;

function valueOf<T>(answer: Answer<T>): T {
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}

function engineWith(stays: readonly JsonObject[]): Engine {
  const engine = new Engine(host);
  const { store } = engine.define('stays', '@.id');
  stays.forEach((one, at) => store.put(at, { id: at, ...one }));
  const huts = engine.define('huts', '@.id').store;
  ['a', 'b'].forEach((id, at) => huts.put(at, { id, region: at === 0 ? 'north' : 'south' }));
  return engine;
}

/** Keeps the rows of a pipeline under a name. */
async function keep(engine: Engine, name: string, pipeline: string): Promise<void> {
  const { documents } = valueOf(await engine.query({ pipeline, pageSize: 1_000 }, never, rowsToKeep));
  const rows = engine.define(name, '@["#"]');
  rows.storedVersion = 1;
  documents.forEach((row, at) => rows.store.put(at, row as JsonObject));
  engine.setKeptViews([{ name, view: { pipeline }, isFresh: true, version: 1, refreshedAt: null, notes: [], approximate: null }]);
}

const origins = async (engine: Engine, pipeline: string, row: Json) =>
  valueOf(await engine.origins({ pipeline, row, offset: 0, size: 1_000 }, never));

/** Lines in which a document comes to one row at most, so that tracing it tells which. */
const pipelines = [
  'from stays\nwhere @.fee > 1\nselect @.id, @.fee',
  'from stays\norder by @.fee desc\nlimit 3\nselect @.hut, @.fee',
  'from stays\njoin huts as hut on hut.id == @.hut\ngroup by @.hut.region as region measure n = count(), fees = sum(@.fee)',
  // A condition on a key may be tested before the group is made.
  'from stays\ngroup by @.hut measure n = count(), top = max(@.fee)\nwhere @.hut != "a"\norder by @.n desc, @.hut\nlimit 2',
  'from stays\ngroup by @.hut, @.month measure n = count()\nwhere @.month > 1\ngroup by @.n measure groups = count()\nwhere @.n > 0',
  'from stays\nwhere @.hut == "b"\ngroup all measure n = count(), fees = sum(@.fee)',
  'from stays\ngroup by @.hut measure n = count()\nrank as place order by @.n desc, @.hut\nwhere @.place <= 2',
];

const stay = fc.record(
  { hut: fc.constantFrom<Json>('a', 'b', 'c', null), month: fc.constantFrom(1, 2, 3), fee: fc.integer({ min: 0, max: 4 }) },
  { requiredKeys: ['fee', 'month'] },
);

test.each(pipelines)(
  'a document is among those of a row where tracing it comes to that row: %s',
  async (pipeline) => {
    await fc.assert(
      fc.asyncProperty(fc.array(stay, { maxLength: 14 }), async (stays) => {
        const engine = engineWith(stays);
        const { documents: rows } = valueOf(await engine.query({ pipeline, pageSize: 1_000 }));
        const cameTo = new Map<number, Json | undefined>();
        for (let id = 0; id < stays.length; id++) {
          const { droppedAt, lines } = valueOf(await engine.trace({ pipeline }, String(id), never));
          if (droppedAt === undefined) cameTo.set(id, lines.at(-1)?.row);
        }
        for (const row of rows) {
          const { documents, count, collection } = await origins(engine, pipeline, row);
          const expected = [...cameTo].filter(([, own]) => own !== undefined && equalValues(own, row)).map(([id]) => id);
          expect({ row, collection, count, ids: documents.map((one) => one['id']) }).toEqual({ row, collection: 'stays', count: expected.length, ids: expected }); // prettier-ignore
        }
      }),
      { numRuns: 40 },
    );
  },
  60_000,
);

describe('kept rows', () => {
  const stays = Array.from({ length: 60 }, (_, id) => ({ hut: ['a', 'b', 'c'][id % 3]!, month: id % 4, fee: id % 7 }));
  const kept = 'from stays\nwhere @.fee > 1\ngroup by @.hut, @.month measure n = count(), fees = sum(@.fee)';

  test('come from documents: through the view that keeps them, and through what is done with them', async () => {
    const engine = engineWith(stays);
    await keep(engine, 'by_hut', kept);
    const { documents: rows } = valueOf(await engine.query({ pipeline: 'from by_hut\nwhere @.hut == "b"\norder by @.fees desc' }));
    const [row] = rows as { month: number; n: number }[];
    const found = await origins(engine, 'from by_hut\nwhere @.hut == "b"\norder by @.fees desc', row as unknown as Json);
    expect(found).toMatchObject({ collection: 'stays', rows: 1, count: row!.n });
    for (const one of found.documents) expect(one).toMatchObject({ hut: 'b', month: row!.month });
    // A page of them; and none for a row that there is none of, as where its documents have changed since.
    expect(valueOf(await engine.origins({ pipeline: 'from by_hut', row: row as unknown as Json, offset: 1, size: 2 }, never)).documents).toEqual(found.documents.slice(1, 3)); // prettier-ignore
    expect(await origins(engine, 'from by_hut', { hut: 'b' })).toMatchObject({ count: 0, rows: 0, documents: [] });
  });

  test('are followed to from a document, as if the view were read through', async () => {
    const engine = engineWith(stays);
    await keep(engine, 'by_hut', kept);
    const { found, droppedAt, lines } = valueOf(await engine.trace({ pipeline: 'from by_hut\nwhere @.n > 2' }, '4', never));
    expect([found, droppedAt, lines.map(({ line, outcome }) => [line, outcome])]).toEqual([true, undefined, [[1, 'changed'], [2, 'kept']]]); // prettier-ignore
    expect(lines[1]?.row).toMatchObject({ hut: 'b', month: 0 });
  });
});
