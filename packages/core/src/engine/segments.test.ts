import type { JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { QueryRequest, QueryResult } from './requests.ts';

const pause = () => Promise.resolve();
const stays: JsonObject[] = Array.from({ length: 1_500 }, (_, id) => ({
  id,
  kind: ['a', 'b', 'c'][id % 3]!,
  at: id % 41,
  size: id % 7 === 3 ? String(id) : id % 11,
  where: { hut: id % 5, deep: { er: id % 2 } },
  nights: Array.from({ length: id % 4 }, (_, k) => ({ fee: k + (id % 3), on: `d${k}` })),
  tags: id % 6 === 0 ? 'lone' : id % 6 === 1 ? null : ['x', id % 2 ? 'y' : 'z', 'x'],
  ...(id % 9 === 0 && { constructor: id, length: 1 }),
}));
const huts: JsonObject[] = Array.from({ length: 8 }, (_, i) => ({ id: i, hut: i % 5, name: `hut ${i}`, tags: ['x', i % 2 ? 'y' : null] }));
// A name that JavaScript takes for something else, as a parser gives it.
stays[7] = JSON.parse('{"id": 7, "kind": "a", "__proto__": {"a": 1}, "at": 3, "nights": [{"fee": 2}], "where": null}') as JsonObject;

function engineOf(): Engine {
  const engine = new Engine({ pause, newId: () => 'r', now: () => new Date(1_760_000_000_000) });
  for (const [name, documents] of Object.entries({ stays, huts })) {
    const { store } = engine.define(name, '@.id');
    documents.forEach((one, i) => store.put(i < 700 ? i : i + 3, one));
  }
  return engine;
}
const open = { documentsRead: 1e9, memoryBytes: 1e9, timeMs: 1e6 };
async function ask(engine: Engine, lines: string, more: Partial<QueryRequest>): Promise<QueryResult> {
  const answer = await engine.query({ pipeline: `from stays\n${lines}`, pageSize: 100_000, guards: open, parameters: { list: ['a', 'c'], n: 3 }, ...more }); // prettier-ignore
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}

/** All that a run tells but its time and what it held: rows to the order of their fields, reads, and the counts of lines and steps. */
function told({ documents, cost, lines, plan, notes }: QueryResult): unknown {
  type Step = typeof plan;
  const step = (one: Step): unknown => [one.step, one.rows, one.documentsRead, one.conditions, one.matches, one.inputs.map(step)];
  return {
    rows: documents.map((row) => JSON.stringify(row)),
    reads: [cost.documentsRead, cost.indexEntriesRead],
    lines: lines.map(({ line, rowsOut, stoppedEarly }) => ({ line, rowsOut, stoppedEarly })),
    steps: step(plan),
    notes: notes.map(({ line, message }) => `${line} ${message}`).sort(),
  };
}

const questions = [
  'where @.kind in :list && @.size > :n\ncompute x = @.size + 1, y = @.x * 2\nselect @.id, @.y, @.where.hut',
  'compute a.b = @.size + 1, a.c = @.kind\ncompute a.b = @.none\nomit @.where.deep, @.nights[*].fee',
  'compute kind.of = 1\ncompute where.hut = @.kind',
  'compute constructor = @.at, length = 2\nwhere @.constructor > 20\nselect @.length, @.constructor, @.id',
  'omit @.*\ncompute z = 1',
  'omit @.where, @.nights\nwhere @.*\ncompute all = @',
  'select @.where.hut, @.where.deep.er, @.kind\nwhere @.where.deep.er == 1\ncompute s = @.where',
  'unnest @.nights as night with position as at\nwhere @.night.fee > 1\nselect @.at, @.night.on, @.id',
  'unnest @.nights as n.ight with position as n.p keep empty\ncompute f = @.n.ight.fee',
  'unnest @.tags as tag\ngroup by @.tag, @.kind measure n = count(), s = sum(@.size), ids = collect(@.id) where @.id < 40',
  'unnest @.nights[?@.fee > 1] as night keep empty\ngroup by @.night.on as on measure n = count(), most = max(@.night.fee)',
  'join huts as h on h.hut == @.where.hut && h.id > @.size\nselect @.id, @.h.name',
  'left join huts as h on h.hut == @.where.hut && h.id > 4\nwhere !@.h || @.h.id == 6\ncompute n = @.h.name',
  'left join huts as a on a.id == @.where.hut\nleft join huts as b on b.id == @.at\nwhere @.kind == "a"\nselect @.id, @.a.name as a, @.b.name as b',
  'gather join huts as hs on hs.hut == @.where.hut\nwhere length(@.hs) > 1\nselect @.id, @.hs[*].id as ids',
  'join huts as h on h.tags[?@ == "y"] && h.hut in @.tags',
  'left join huts as h on h.id in @.tags\nselect @.id, @.h.id as h',
  'join huts as h on h.hut == @.where.hut && h.id == @.at\ngroup by @.h.name as name measure n = count()',
  'join huts as h on h.id != @.at\ngroup by @.h.id as id measure n = count()',
  'compute k = concat(@.kind, "!")\norder by @.k desc, @.at\nlimit 7',
  'where @.kind != "b"\norder by @.size desc nulls first, @.id desc\noffset 3\nlimit 9\ncompute q = @.at',
  'order by @.none\nlimit 0',
  'rank as place partition by @.kind, @.where.hut order by @.at desc\nwhere @.place <= 2\nselect @.id, @.place',
  'dense rank as place order by @.size\nwhere @.place < 3',
  'row number as r partition by @.tags order by @.at, @.size desc\nwhere @.r == 1',
  'group all measure n = count(), lo = min(@.size), hi = max(@.size), any = any(@.at > 39), mid = median(@.at)',
  'where @.at > 90\ngroup all measure n = count(), c = collect(@.id)',
  'where @.id < 50\nunnest @.nights as n\nlimit 5\ncompute f = @.n.fee',
  'sample 20 seed 3\ncompute x = @.size * 2\norder by @.x',
];

describe('one loop gives what a loop of each step gives', () => {
  const engine = engineOf();
  test.each(questions)('%s', async (lines) => {
    const apart = told(await ask(engine, lines, { fused: false }));
    expect(told(await ask(engine, lines, { fused: true }))).toEqual(apart);
    expect(told(await ask(engine, lines, {}))).toEqual(apart);
  });
});

test.each(questions.filter((lines) => !lines.includes('limit')))('rows come in batches of any size: %s', async (lines) => {
  const engine = engineOf();
  const usual = await ask(engine, lines, {});
  for (const batchRows of [1, 7, 5_000]) expect((await ask(engine, lines, { batchRows })).documents).toEqual(usual.documents);
});

test('a loop holds no text of the question: names, literals and paths are data', () => {
  const engine = engineOf();
  const odd = `from stays\nwhere @["a'];throw 1//"] == "\\u2028${'`'}\${x}" || @.kind == "k0"\ncompute b = @["*/ k1"]\nselect @.b, @["</script>"] as c`;
  const answer = engine.loops({ pipeline: odd });
  expect(answer.ok && answer.value).toContain('rowsOut');
  return expect(engine.query({ pipeline: odd })).resolves.toMatchObject({ ok: true });
});
