import { readDefinition } from '../indexes/definition.ts';
import { readIndex } from '../indexes/kinds.ts';
import type { Json } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { QueryRequest } from './requests.ts';

let clock = 0;
const engineOf = () => {
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => String(clock++), now: () => new Date(1_760_000_000_000) });
  const { store } = engine.define('stays', '@.id');
  for (let i = 0; i < 300; i++) store.put(i, { id: i % 2 ? `s-${i}` : i, kind: i % 3 ? 'a' : 'b', size: i % 20, code: `c${i}` });
  return engine;
};
const ask = async (engine: Engine, pipeline: string, parameters: Record<string, Json> = {}, more: Partial<QueryRequest> = {}) => {
  const answer = await engine.query({ pipeline, parameters, pageSize: 1_000, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
};

describe('a plan that is kept', () => {
  const one = 'from stays\nwhere @.id == :id\ncompute twice = @.size * :by\nselect @.id, @.twice';

  test('answers for each value what a plan of its own answers', async () => {
    const engine = engineOf();
    for (const id of ['s-1', 's-7', 's-7', 'none', 2, 4, '4', null, true, [3], { a: 1 }, 's-299'] as Json[]) {
      for (const by of [2, 3]) {
        const kept = await ask(engine, one, { id, by });
        const anew = await ask(engineOf(), one, { id, by });
        expect(kept.documents).toEqual(anew.documents);
        expect(kept.lines.map(({ rowsOut }) => rowsOut)).toEqual(anew.lines.map(({ rowsOut }) => rowsOut));
        expect(kept.cost.documentsRead).toBe(anew.cost.documentsRead);
        expect(kept.plan.inputs.map(({ step, detail }) => [step, detail])).toEqual(anew.plan.inputs.map(({ step, detail }) => [step, detail])); // prettier-ignore
        expect(kept.weighed.map(({ way, chosen }) => [way, chosen])).toEqual(anew.weighed.map(({ way, chosen }) => [way, chosen]));
      }
    }
  });

  test('gives way when a document, an index or a view changes', async () => {
    const engine = engineOf();
    const few = 'from stays\nwhere @.size == 3';
    const read = async () => (await ask(engine, few)).cost.documentsRead;
    expect([await read(), await read()]).toEqual([300, 300]);
    const stays = engine.collections.get('stays')!;
    await stays.buildIndex(readDefinition({ name: 'by_size', keys: ['@.size'] }), () => Promise.resolve());
    expect(await read()).toBe(15);
    await stays.apply([{ position: 300, document: { id: 'new', size: 3 } }]);
    expect(await read()).toBe(16);
    stays.dropIndex('by_size');
    expect(await read()).toBe(301);
    engine.setViews(new Map([['small', { pipeline: 'from stays\nwhere @.size < 2' }]]));
    expect((await ask(engine, 'from small')).rowsReturned).toBe(30);
    engine.setViews(new Map([['small', { pipeline: 'from stays\nwhere @.size < 1' }]]));
    expect((await ask(engine, 'from small')).rowsReturned).toBe(15);
  });

  test('is another for values that call for one, and where it goes by the time', async () => {
    const engine = engineOf();
    await engine.collections.get('stays')!.buildIndex(readDefinition({ name: 'by_size', keys: ['@.size'] }), () => Promise.resolve());
    const ranged = 'from stays\nwhere @.size >= :from';
    const ways = async (from: number) => (await ask(engine, ranged, { from })).weighed.find(({ chosen }) => chosen)!.way;
    expect([await ways(0), await ways(19), await ways(0)]).toEqual(['full scan', 'index range scan', 'full scan']);
    const first = 'from stays\nlimit :n';
    for (const n of [3, 5, 3]) expect((await ask(engine, first, { n })).rowsReturned).toBe(n);
    const timed = 'from stays\nwhere @.size == date_part("year", now()) - 2020';
    expect((await ask(engine, timed)).rowsReturned).toBe(15);
  });

  test('serves every vector that others are compared with, and no more than that', async () => {
    const engine = new Engine({ pause: () => Promise.resolve(), newId: () => String(clock++), now: () => new Date(1_760_000_000_000) });
    const { store } = engine.define('points', '@.id');
    const far = Array.from({ length: 30 }, (_, i) => i);
    for (let i = 0; i < 60; i++) store.put(i, { id: i, at: far.map((one) => (one === i % 30 ? 1 : 0)), list: far.slice(0, i) });
    const along = (axis: number) => far.map((one) => (one === axis ? 2 : 0));
    const idsOf = async (pipeline: string, parameters: Record<string, Json>) =>
      (await ask(engine, pipeline, parameters)).documents.map((one) => (one as { id: number }).id);
    const nearest = 'from points\nbest 2 by dot_product(@.at, :v) as s';
    const filtered = 'from points\nwhere dot_product(@.at, :v) > 1\nbest 5 by dot_product(@.at, :v) as s';
    for (const index of [undefined, readIndex({ name: 'near', kind: 'vector', keys: ['@.at'], metric: 'dot' })]) {
      if (index !== undefined) await engine.collections.get('points')!.buildIndex(index, () => Promise.resolve());
      for (const axis of [3, 4, 29, 3]) {
        expect(await idsOf(nearest, { v: along(axis) })).toEqual([axis, axis + 30]);
        expect(await idsOf(filtered, { v: along(axis) })).toEqual([axis, axis + 30]);
      }
      // One that is too short compares with nothing, and neither does one that is no list.
      for (const v of [[1, 2], along(5).map(String), 'five', null, along(6)] as Json[])
        expect(await idsOf(nearest, { v })).toEqual(Array.isArray(v) && v[6] === 2 ? [6, 36] : []);
    }
    // Where something else goes by it too.
    const counted = 'from points\nbest length(:v) by dot_product(@.at, :v) as s';
    expect(await idsOf(counted, { v: [1, 2] })).toEqual([]);
    expect(await idsOf(counted, { v: along(7) })).toHaveLength(30);
  });

  test('takes what is insisted on into account', async () => {
    const engine = engineOf();
    const pipeline = 'from stays\nwhere @.id == :id';
    for (let i = 0; i < 2; i++) {
      expect((await ask(engine, pipeline, { id: 's-1' })).cost.documentsRead).toBe(1);
      expect((await ask(engine, pipeline, { id: 's-1' }, { ways: 'full scan' })).cost.documentsRead).toBe(300);
      expect((await ask(engine, pipeline, { id: 's-3' }, { ignoreIndexes: ['identity'] })).cost.documentsRead).toBe(300);
    }
  });
});
