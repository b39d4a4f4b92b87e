import { printSql, tableScript, translateSql, usualSurface, type Json } from '@zesty-sieve/core';
import { tables } from './data.ts';
import { Pipelines } from './pipelines.ts';
import { postgres } from './postgres.ts';
import { inOrder, knownOf, rowsOf, world } from './world.ts';

const base = Number(process.env['ZESTY_SIEVE_SQL_SEED'] ?? 7_000);

/** A row as SQL can give it: what is missing is NULL, and NULL is left out; the order of an object's fields is not told by jsonb. */
const asSql = (row: Json): Json =>
  sorted(Object.fromEntries(Object.entries(row as Record<string, Json>).filter(([, value]) => value !== null)));
function sorted(value: Json): Json {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)).map(([name, one]) => [name, sorted(one)])); // prettier-ignore
} // prettier-ignore

/** Collections, and pipelines over them; every third world has null beside what is missing, and asks nothing that SQL has one NULL for. */
async function asked(seed: number, count: number) {
  const hasNulls = seed % 3 === 0;
  const made = await world(base + seed, hasNulls);
  const pipelines = new Pipelines(made.random, !hasNulls);
  return { ...made, pipelines: Array.from({ length: count }, () => pipelines.pipeline()) };
}

/** A pipeline in another SQL; undefined where its notes say what cannot be said. */
function written(pipeline: string, dialect: 'sqlite' | 'postgresql' | 'iso'): string | undefined {
  const read = usualSurface.parse(pipeline);
  expect({ pipeline, errors: read.findings.filter(({ severity }) => severity === 'error') }).toEqual({ pipeline, errors: [] });
  const { sql, notes } = printSql(read, dialect, dialect === 'iso' ? 'columns' : 'json');
  if (sql === undefined) expect({ pipeline, unsaid: notes.filter(({ unsaid }) => unsaid).length }).toEqual({ pipeline, unsaid: 1 });
  return sql;
}

test.each(Array.from({ length: 25 }, (_, i) => i))('pipelines written for SQLite give our rows there: world %d', async (seed) => {
  const { engine, sqlite, pipelines } = await asked(seed, 40);
  let said = 0;
  for (const pipeline of pipelines) {
    const sql = written(pipeline, 'sqlite');
    if (sql === undefined) continue;
    said++;
    const theirs = await sqlite.all(sql).catch((error: Error) => [{ body: JSON.stringify({ error: error.message }) }]);
    const rows = theirs.map(({ body }) => asSql(JSON.parse(body as string) as Json));
    expect({ pipeline, sql, rows: inOrder(rows) }).toEqual({ pipeline, sql, rows: inOrder((await rowsOf(engine, pipeline)).map(asSql)) }); // prettier-ignore
  }
  expect(said).toBeGreaterThan(10);
  await sqlite.close();
});

test.each([1, 2])('pipelines written for PostgreSQL give our rows there: world %d', async (seed) => {
  const { engine, sqlite, documents, pipelines } = await asked(seed, 150);
  const script = tables
    .map(({ name }) => {
      const made = tableScript(name, [], 'postgresql');
      return made.before + made.rows(documents.get(name)!.map((one) => ({ identity: String(one['id']), body: JSON.stringify(one) }))) + made.after;
    })
    .join('');
  const said = pipelines.flatMap((pipeline) => {
    const sql = written(pipeline, 'postgresql');
    return sql === undefined ? [] : [{ pipeline, sql }];
  });
  expect(said.length).toBeGreaterThan(50);
  const answers = postgres(script, said.map(({ sql }) => sql)); // prettier-ignore
  for (const [i, { pipeline, sql }] of said.entries()) {
    const { rows = [], error } = answers[i]!;
    const theirs = rows.map((row) => asSql((row as { body: Json }).body));
    expect({ pipeline, sql, error, rows: inOrder(theirs) }).toEqual({ pipeline, sql, error: undefined, rows: inOrder((await rowsOf(engine, pipeline)).map(asSql)) }); // prettier-ignore
  }
  await sqlite.close();
}, 120_000); // prettier-ignore

test.each(Array.from({ length: 10 }, (_, i) => i))('pipelines written as the SQL that is read here give the same rows: world %d', async (seed) => {
  const { engine, sqlite, pipelines } = await asked(seed, 40);
  const known = await knownOf(engine, true);
  for (const pipeline of pipelines) {
    const sql = written(pipeline, 'iso');
    if (sql === undefined) continue;
    const back = translateSql(sql, known);
    expect({ pipeline, sql, faults: back.diagnostics.filter(({ severity }) => severity === 'error') }).toEqual({ pipeline, sql, faults: [] });
    const [a, b] = await Promise.all([pipeline, back.pipeline!].map(async (one) => inOrder((await rowsOf(engine, one)).map(asSql))));
    expect({ pipeline, sql, back: back.pipeline, rows: b }).toEqual({ pipeline, sql, back: back.pipeline, rows: a });
  }
  await sqlite.close();
}); // prettier-ignore
