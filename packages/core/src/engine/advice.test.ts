import { readDefinition } from '../indexes/definition.ts';
import type { JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { QueryResult } from './requests.ts';

const pause = () => Promise.resolve();
const day = (month: number, date: number) => `2026-${String(month).padStart(2, '0')}-${String(date).padStart(2, '0')}`;

const stays = Array.from({ length: 8_000 }, (_, i): JsonObject => ({
  id: i,
  status: i % 50 === 0 ? 'late' : i % 7 === 0 ? 'lost' : 'fine',
  size: i % 13,
  when: day(1 + ((i * 31) % 12), 1 + (i % 28)),
  hut: `h${i % 400}`,
  name: `Guest ${i % 997}`,
  tags: [`t${i % 90}`, 'all'],
  nights: [{ fee: i % 60 }],
  ...(i % 3 === 0 && { note: i % 2 === 0 ? null : 'x' }),
}));
const huts = Array.from({ length: 400 }, (_, i): JsonObject => ({ id: `h${i}`, region: `r${i % 4}` }));

async function engineOf(indexes: readonly (readonly string[])[] = []): Promise<Engine> {
  const engine = new Engine({ pause, newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') });
  for (const [name, documents] of Object.entries({ stays, huts })) {
    const collection = engine.define(name, '@.id');
    documents.forEach((document, position) => collection.store.put(position, document));
  }
  for (const keys of indexes) await engine.collections.get('stays')?.buildIndex(readDefinition({ keys: [...keys] }), pause);
  return engine;
}

async function ask(engine: Engine, stages: string): Promise<QueryResult> {
  const answer = await engine.query({ pipeline: `from stays\n${stages}`, pageSize: 10_000, parameters: { who: 'Guest 7' } });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}

/** What is advised for a question: the keys of each index, and about how many documents would be read. */
const cases: readonly (readonly [stages: string, advised: readonly string[], reads: number])[] = [
  // Equality, the thinner key first.
  ['where @.status == "late"', ['@.status'], 160],
  ['where @.name == :who', ['@.name'], 9],
  ['where @.size == 3 && @.status == "late"', ['@.status, @.size'], 13],
  ['where @.status in ["late", "lost"] && @.hut == "h3"', ['@.hut, @.status'], 6],
  ['where fold(@.name) == "guest 7"', ['fold(@.name)'], 9],
  // Then a range.
  [`where @.when > "${day(3, 1)}" && @.when < "${day(3, 3)}"`, ['@.when'], 30],
  ['where @.status == "late" && @.when >= "2026-06"', ['@.status, @.when'], 90],
  ['where starts_with(@.name, "Guest 12")', ['@.name'], 90],
  // Then the order, so that nothing is sorted and reading stops early.
  ['order by @.when\nlimit 10', ['@.when'], 10],
  ['order by @.when desc, @.name\nlimit 5', ['@.when desc, @.name'], 5],
  ['where @.status == "late"\norder by @.when desc\nlimit 10', ['@.status, @.when desc'], 10],
  ['left join huts as place on place.id == @.hut\norder by @.when desc\nlimit 20', ['@.when desc'], 20],
  // Array elements.
  ['where includes(@.tags, "t7")', ['@.tags[*]'], 89],
  ['where @.nights[?@.fee == 7]', ['@.nights[*].fee'], 134],
  // Disjunction.
  ['where @.hut == "h7" || @.name == "Guest 5"', ['@.hut', '@.name'], 29],
  // Groups that an index has the answer to.
  ['group by @.status measure n = count()', ['@.status'], 0],
  ['group by @.note measure n = count()', ['@.note'], 0],
  ['where @.status == "late"\ngroup by @.size measure n = count()', ['@.status, @.size'], 0],
  ['group all measure first = min(@.when), last = max(@.when)', ['@.when'], 0],
  ['group all measure huts = count_distinct(@.hut)', ['@.hut'], 0],
  ['where @.status == "late"\ngroup all measure last = max(@.when)', ['@.status, @.when'], 0],
  ['where @.status == "late"\ngroup all measure n = count()', ['@.status'], 0],
];

describe('what is advised', () => {
  test.each(cases)('%s: %j', async (stages, advised, reads) => {
    const before = await ask(await engineOf(), stages);
    const told = before.suggestions.flatMap(({ keys, beside = [] }) => [keys, ...beside].map((one) => one.join(', ')));
    expect(told).toEqual(advised);
    const [{ documentsRead, insteadOf, reason, lines }] = before.suggestions;
    expect(insteadOf).toBe(8_000);
    expect(reason.length).toBeGreaterThan(10);
    expect(lines.every((line) => line >= 1 && line <= stages.split('\n').length + 1)).toBe(true);

    // Built, it is taken, keeps its word, and nothing more is advised.
    const after = await ask(await engineOf(advised.map((keys) => keys.split(', '))), stages);
    expect(after.documents).toEqual(before.documents);
    const ofPartners = stages.includes('join') ? 20 : 0;
    expect(after.cost.documentsRead - ofPartners).toBeLessThanOrEqual(reads * 1.1);
    expect(documentsRead).toBeLessThanOrEqual(Math.max(20, reads * 2.5));
    expect(after.suggestions).toEqual([]);
  });

  test.each([
    ['most documents are wanted', 'where @.status == "fine"'],
    ['nothing is asked that an index serves', 'where contains(@.name, "12")'],
    ['a difference is asked', 'where @.status != "late"'],
    ['all elements are alike', 'where includes(@.tags, "all")'],
    ['the identity finds it', 'where @.id == 5'],
    ['everything is asked', 'where @.size >= 0'],
    ['a group of many fields', 'group by @.status, @.size measure n = count()'],
    ['a sum has to be made of documents', 'group by @.status measure size = sum(@.size)'],
    ['groups are as many as documents', 'group by @.id measure n = count()'],
  ])('nothing, where %s', async (_, stages) => {
    expect((await ask(await engineOf(), stages)).suggestions).toEqual([]);
  });

  test('nothing for a collection that is read in no time', async () => {
    const { suggestions } = await ask(await engineOf(), 'limit 1');
    expect(suggestions).toEqual([]);
    const engine = await engineOf();
    const answer = await engine.query({ pipeline: 'from huts\nwhere @.region == "r1"' });
    expect(answer.ok && answer.value.suggestions).toEqual([]);
  });
});

test('a guard that ends a run tells the index that would help, and with it the run comes to its end', async () => {
  const asked = { pipeline: 'from stays\norder by @.when desc, @.name\noffset 4_000'.replace('_', ''), guards: { memoryBytes: 100_000 } };
  const ended = await (await engineOf()).query(asked);
  expect(ended).toMatchObject({ ok: false, problem: { kind: 'guard-memory', line: 2, limit: 100_000 } });
  if (ended.ok || !('suggestions' in ended.problem)) throw new Error('it was to be ended');
  const [{ keys }] = ended.problem.suggestions;
  expect(keys).toEqual(['@.when desc', '@.name']);
  expect(ended.problem.message).toContain('An index on @.when desc, @.name would help: it gives the order, so nothing is sorted.');
  const done = await (await engineOf([keys])).query(asked);
  expect(done).toMatchObject({ ok: true, value: { rowsReturned: 4_000, cost: { memoryBytes: 40_000 } } });
});
