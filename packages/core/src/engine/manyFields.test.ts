import { checkPipeline, fieldChanges, fieldTree, mostPaths, translateSql, usualSurface, type FieldTree } from '../language/index.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';

/** Documents with more fields than a shape tells: of those beyond nothing may be said, and no answer may rest on their not being there. */
const wide = (id: number): JsonObject => ({
  id,
  place: { at: id },
  ...Object.fromEntries(Array.from({ length: mostPaths + 100 }, (_, k) => [`f${k}`, id * k])),
  last: { deep: `deep ${id}` },
});
const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date() });
const huts = [{ id: 0, name: 'Fern' }, { id: 1, name: 'Moss' }]; // prettier-ignore
for (const [name, documents] of [
  ['wide', [wide(1), wide(2)]],
  ['huts', huts],
] as const) {
  const { store } = engine.define(name, '@.id');
  documents.forEach((document, i) => store.put(i, document));
}
let trees: Map<string, FieldTree>;
beforeAll(async () => {
  trees = new Map();
  for (const [name, collection] of engine.collections) trees.set(name, fieldTree(await collection.shape(() => Promise.resolve())));
});
const beyond = `f${mostPaths + 50}`;

test('as many paths are told as may be, those that came first', async () => {
  const fields = await engine.collections.get('wide')!.shape(() => Promise.resolve());
  expect(fields).toHaveLength(mostPaths);
  expect(fields[3]!.steps).toEqual([{ field: 'f0' }]);
});

test.each([
  `from wide\nwhere @.${beyond} == 7`,
  'from wide\nwhere @.last.deep == "deep 1"',
  `from wide\ncompute twice = @.${beyond} * 2\nwhere @.twice > 3 && @.last.deep != ""`,
  `from wide\nleft join huts as hut on hut.id == @.${beyond}\nrank as no order by @.last.deep\nselect @.hut.name, @.no, @.f7`,
  `from huts\njoin wide as w on w.${beyond} == @.id\nselect @.w.last.deep as deep`,
])('%s names nothing that is not there', (text) => {
  const { diagnostics } = checkPipeline(usualSurface.parse(text), { collections: ['wide', 'huts'], shapeOf: (name) => trees.get(name) });
  expect(diagnostics).toEqual([]);
});

test('what is known is known still, through the lines', () => {
  const { stages } = checkPipeline(usualSurface.parse('from wide\ncompute twice = @.f2 * 2\njoin huts as hut on hut.id == @.f0'), {
    collections: ['wide', 'huts'],
    shapeOf: (name) => trees.get(name),
  });
  const { after } = stages.at(-1)!;
  expect([after.fields.has('f7'), after.fields.has('twice'), after.fields.get('hut')?.fields.has('name')]).toEqual([true, true, true]);
  // What a join adds is told, and of a selection nothing that may be wrong.
  const { placed, before } = stages.at(-1)!;
  expect(fieldChanges(placed.stage!, before, after)).toEqual({ added: ['@.hut', '@.hut.id', '@.hut.name'], changed: [], dropped: [] });
});

async function ask(sql: string): Promise<Json[]> {
  const known = { collections: ['wide', 'huts'], shapeOf: (name: string) => trees.get(name), identityOf: () => ['id'] };
  const { pipeline, diagnostics } = translateSql(sql, known);
  if (pipeline === undefined) throw new Error(diagnostics[0]!.message);
  const answer = await engine.query({ pipeline });
  if (!answer.ok) throw new Error(answer.problem.message);
  return [...answer.value.documents];
}

test.each<[string, Json[]]>([
  [`SELECT ${beyond} AS n FROM wide ORDER BY id`, [{ n: 2_050 }, { n: 4_100 }]],
  ['SELECT last.deep AS deep FROM wide ORDER BY id', [{ deep: 'deep 1' }, { deep: 'deep 2' }]],
  // A table that is called as a field beyond must not stand in its place.
  [`SELECT a.${beyond} AS n, ${beyond}.name AS name FROM wide AS a JOIN huts AS ${beyond} ON ${beyond}.id = a.id`, [{ n: 2_050, name: 'Moss' }]],
  [`SELECT a.${beyond} AS n FROM huts AS h JOIN wide AS a ON a.id = h.id`, [{ n: 2_050 }]],
  [`SELECT COUNT(${beyond}) AS n FROM wide`, [{ n: 2 }]],
])('%s', async (sql, rows) => expect(await ask(sql)).toEqual(rows)); // prettier-ignore
