import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { QueryRequest } from './requests.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const never = () => false;

function engineOf(documents: readonly JsonObject[]): Engine {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  documents.forEach((document, position) => collection.store.put(position, document));
  return engine;
}

async function rows(documents: readonly JsonObject[], stages: string, more: Partial<QueryRequest> = {}): Promise<readonly Json[]> {
  const answer = await engineOf(documents).query({ pipeline: `from c\n${stages}`, pageSize: 1_000, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value.documents;
}

describe('shaping', () => {
  const row: JsonObject = { id: 1, a: { b: 2, c: 'x' }, list: [{ f: 1, g: 2 }, { f: 3 }], t: '7' };
  test.each<[string, JsonObject]>([
    ['omit @.a', { id: 1, list: [{ f: 1, g: 2 }, { f: 3 }], t: '7' }],
    ['omit @.a.b, @.nothing.at.all', { id: 1, a: { c: 'x' }, list: [{ f: 1, g: 2 }, { f: 3 }], t: '7' }],
    ['omit @.list[*].f', { id: 1, a: { b: 2, c: 'x' }, list: [{ g: 2 }, {}], t: '7' }],
    ['omit @.list[0], @.a', { id: 1, list: [{ f: 3 }], t: '7' }],
    ['omit @.list, @.a\ncompute n = @.id + 1, m = @.n * 2', { id: 1, t: '7', n: 2, m: 4 }],
    ['omit @.list\ncompute a.d = @.a.b, e.f = 1', { id: 1, a: { b: 2, c: 'x', d: 2 }, t: '7', e: { f: 1 } }],
    ['omit @.list, @.a\ncompute t = @.nothing', { id: 1 }],
    ['omit @.list, @.a\ncompute e.f = @.nothing', { id: 1, t: '7' }],
    ['omit @.list, @.a\ncompute t.x = 1', { id: 1, t: '7' }],
    ['omit @.list, @.a\ncompute late = @.t == "7", n = number(@.t)', { id: 1, t: '7', late: true, n: 7 }],
    [
      "select @.id\ncompute __proto__ = 1, constructor.length = 2, 'odd name' = 3",
      JSON.parse('{"id":1,"__proto__":1,"constructor":{"length":2},"odd name":3}') as JsonObject,
    ],
  ])('%s', async (stages, expected) => expect(await rows([row], stages)).toEqual([expected]));

  test('a sample is the same for the same seed, in insertion order, and no larger than asked', async () => {
    const many = Array.from({ length: 500 }, (_, id) => ({ id }));
    const once = (await rows(many, 'sample 20 seed 4')) as { id: number }[];
    expect(once).toHaveLength(20);
    expect(await rows(many, 'sample 20 seed 4')).toEqual(once);
    expect(await rows(many, 'sample 20 seed 5')).not.toEqual(once);
    expect([...once].sort((a, b) => a.id - b.id)).toEqual(once);
    expect(await rows(many, 'sample 900')).toHaveLength(500);
  });
});

describe('functions', () => {
  const document = {
    id: 1,
    s: 'Ærlig Ünü 😀',
    d: '2026-01-31T23:30:00+02:00',
    day: '2024-02-29',
    n: 2.345,
    list: [3, 'x', null, 1, 3],
    p: { type: 'Point', coordinates: [7.66, 45.98] },
  };
  test.each<[string, Json | undefined]>([
    ['length(@.s)', 11],
    ['length(@.list)', 5],
    ['lower(@.s)', 'ærlig ünü 😀'],
    ['fold("Élan SØR")', 'elan sør'],
    ['concat("a", "b", "c")', 'abc'],
    ['split("a-b-", "-")', ['a', 'b', '']],
    ['glue(["a", "b"], "/")', 'a/b'],
    ['replace("a.b.c", ".", "")', 'abc'],
    ['substring(@.s, 10, 5)', '😀'],
    ['sum_of(@.list)', 7],
    ['avg_of([])', undefined],
    ['min_of(@.list)', 1],
    ['max_of(@.list)', 'x'],
    ['median_of([4, 1, 3, 2])', 2.5],
    ['first_of(@.list)', 3],
    ['distinct_of(@.list)', [3, 'x', null, 1]],
    ['sorted_of(@.list)', [1, 3, 3, 'x', null]],
    ['each(@.list, @ * 2)', [6, 2, 6]],
    ['any(@.list, @ == "x")', true],
    ['every([], @ == 1)', true],
    ['round(-2.5)', -3],
    ['round(1.005, 2)', 1.01],
    ['sqrt(-1)', undefined],
    ['5 % -3', 2],
    ['-5 % 3', -2],
    ['1 / 0', undefined],
    ['"a" + 1', undefined],
    ['instant(@.d)', Date.UTC(2026, 0, 31, 21, 30)],
    ['now()', '2026-02-03T04:05:06.789Z'],
    ['date_trunc("month", @.d)', '2026-01-01T00:00:00+02:00'],
    ['date_trunc("week", "2026-11-22")', '2026-11-16'],
    ['date_add(@.day, 1, "year")', '2025-02-28'],
    ['date_add("2026-01-31", 1, "month")', '2026-02-28'],
    ['date_diff("month", "2026-01-31", "2026-02-28")', 1],
    ['date_diff("day", "2026-02-03", "2026-02-01")', -2],
    ['date_diff("year", @.day, "2025-02-28")', 1],
    ['date_part("weekday", @.day)', 4],
    ['date_part("hour", @.d)', 23],
    ['date_part("day", "2026-02-30")', undefined],
    ['if(@.n > 2, "big", "small")', 'big'],
    ['coalesce(@.none, null, 0)', 0],
    ['type_of(@.none)', 'missing'],
    ['number(" 12.50 ")', 12.5],
    ['number("12x")', undefined],
    ['text(@.list)', '[3,"x",null,1,3]'],
    ['boolean("false")', false],
    ['round(distance(@.p, [8.66, 45.98]))', 77_270],
    ['distance(@.p, [1])', undefined],
    ['count(@.list[?@ == 3])', 2],
    ['value(@.list[?@ == 1])', 1],
    ['match("abc", "a.c") && search("xabc", "b") && !match("ab", "b")', true],
    ['@.list[*]', [3, 'x', null, 1, 3]],
    ['{a: @.none, "b c": [@.none, 1]}', { 'b c': [1] }],
  ])('%s', async (expression, expected) => {
    const [row] = (await rows([document], `select ${expression} as v`)) as JsonObject[];
    expect(row.v).toEqual(expected);
  });

  test('a pattern that would hang a backtracking matcher does not', async () => {
    const long = { id: 1, s: 'a'.repeat(50_000) + '!' };
    expect(
      await rows([long], 'where match(@.s, "(a+)+") || search(@.s, "(a*)*b") || match(@.s, "(a|a)*") || search(@.s, "a*a*a*b")'),
    ).toEqual([]);
  });
});

describe('asking about a question', () => {
  const documents = Array.from({ length: 100 }, (_, id) => ({ id, n: id % 10, kind: id % 2 ? 'odd' : 'even' }));

  test('each condition is counted alone, among the rows that reach its line', async () => {
    const pipeline = 'from c\nwhere @.id < 50\nwhere @.n == 3 && @.kind == "odd"';
    const answer = await engineOf(documents).countConditions(
      { pipeline },
      3,
      ['@.n == 3', '@.kind == "odd"', '@.n == 3 && @.kind == "odd"', '@.n =='],
      never,
    );
    expect(answer).toMatchObject({ ok: true, value: { rows: 50, alone: [5, 25, 5, null] } });
  });

  test('conditions are tested cheap ones first, and say how many documents they saw', async () => {
    const pipeline = 'from c\nwhere search(@.kind, "o.d") && @.n == 3';
    const answer = await engineOf(documents).query({ pipeline });
    expect(answer).toMatchObject({
      ok: true,
      value: { plan: { conditions: [{ condition: '@.n == 3', lookedAt: 100 }, { lookedAt: 10 }] } },
    });
  });

  test('a document is followed to where it falls out, with the values that decided', async () => {
    const engine = engineOf(documents);
    const pipeline = 'from c\nwhere @.n < 5 && @.kind == "even"\ncompute m = @.n * 2\norder by @.m desc, @.id\noffset 10\nlimit 5';
    const dropped = await engine.trace({ pipeline }, '7', never);
    expect(dropped).toMatchObject({
      ok: true,
      value: {
        found: true,
        droppedAt: 2,
        lines: [
          { outcome: 'kept' },
          { outcome: 'dropped', conditions: [{ condition: '@.n < 5', held: false, values: [{ path: '@.n', value: 7 }] }, { held: false }] },
          { outcome: 'absent' },
          {},
          {},
          {},
        ],
      },
    });
    const late = await engine.trace({ pipeline }, '90', never);
    expect(late).toMatchObject({
      ok: true,
      value: {
        droppedAt: 6,
        lines: [
          {},
          { outcome: 'kept' },
          { outcome: 'changed', row: { m: 0 } },
          { place: { at: 30, of: 30 } },
          { place: { at: 30, of: 30 } },
          { outcome: 'dropped', place: { at: 20, of: 20 } },
        ],
      },
    });
    expect(await engine.trace({ pipeline }, '999', never)).toMatchObject({ ok: true, value: { found: false, droppedAt: 1 } });
  });

  test('two questions are compared row by row', async () => {
    const engine = engineOf(documents);
    const same = await engine.compare(
      { pipeline: 'from c\nwhere @.n in [1, 2]' },
      { pipeline: 'from c\nwhere @.n == 1 || @.n == 2\norder by @.n' },
      never,
    );
    expect(same).toMatchObject({ ok: true, value: { sameSet: true, sameOrder: false } });
    const other = await engine.compare(
      { pipeline: 'from c\nlimit 3' },
      { pipeline: 'from c\ncompute n = @.n + @.id\noffset 1\nlimit 3' },
      never,
    );
    expect(other).toMatchObject({
      ok: true,
      value: { sameSet: false, onlyInFirst: [{ id: 0 }], onlyInSecond: [{ id: 3 }], differing: [{ identity: '1' }, { identity: '2' }] },
    });
  });
});
