import { printSql, translateSql, usualSurface, type Engine, type Json, type Known } from '@zesty-sieve/core';
import { Questions, type Both } from './questions.ts';
import type { Sqlite } from './sqlite.ts';
import { inOrder, knownOf, ours, rowsOf, world } from './world.ts';

const rounds = 25;
const perRound = 40;

async function faultOf(both: Both, engine: Engine, sqlite: Sqlite): Promise<object | undefined> {
  const theirs = await sqlite.all(both.theirs);
  try {
    const { rows, pipeline } = await ours(engine, both.ours);
    const [a, b] = [inOrder(rows), inOrder(theirs)];
    return JSON.stringify(a) === JSON.stringify(b) ? undefined : { ...both, pipeline, ours: a.slice(0, 5), theirs: b.slice(0, 5), rows: [a.length, b.length] };
  } catch (error) {
    return { ...both, error: (error as Error).message };
  }
} // prettier-ignore

/** A value as SQLite gives it: arrays and objects as their text. */
const asSqlite = (value: Json): Json => (typeof value === 'object' && value !== null ? JSON.stringify(value) : value);

/** The SQL that a pipeline is written as for SQLite gives our rows there. */
async function writtenFault(sql: string, engine: Engine, sqlite: Sqlite, known: Known): Promise<object | undefined> {
  const pipeline = translateSql(sql, known).pipeline!;
  const { sql: written, notes } = printSql(usualSurface.parse(pipeline), 'sqlite');
  if (written === undefined) return notes.every(({ message }) => message.includes('one value for all')) ? undefined : { pipeline, notes };
  const ours = (await rowsOf(engine, pipeline)).map((row) => Object.fromEntries(Object.entries(row as object).map(([name, value]) => [name, asSqlite(value as Json)]))); // prettier-ignore
  try {
    const asJson = printSql(usualSurface.parse(pipeline), 'sqlite', 'json').sql!;
    const bodies = (await sqlite.all(asJson)).map(({ body }) => Object.fromEntries(Object.entries(JSON.parse(body as string) as object).map(([name, value]) => [name, asSqlite(value as Json)]))); // prettier-ignore
    if (JSON.stringify(inOrder(bodies)) !== JSON.stringify(inOrder(ours))) return { pipeline, asJson };
    const [a, b] = [inOrder(ours), inOrder(await sqlite.all(written))];
    return JSON.stringify(a) === JSON.stringify(b) ? undefined : { pipeline, written, ours: a.slice(0, 4), theirs: b.slice(0, 4), rows: [a.length, b.length] };
  } catch (error) {
    return { pipeline, written, error: (error as Error).message };
  }
} // prettier-ignore

/** Across and back: the SQL that a pipeline is written as gives the same rows, and from then on the two stay as they are. */
async function across(sql: string, engine: Engine, known: Known): Promise<object | undefined> {
  const first = translateSql(sql, known).pipeline!;
  const { sql: printed, notes } = printSql(usualSurface.parse(first));
  // A group by what is the same for all rows has no name in SQL.
  if (printed === undefined) return notes.every(({ message }) => message.includes('one value for all')) ? undefined : { sql, first, notes };
  const { pipeline: second, diagnostics } = translateSql(printed, known);
  if (second === undefined) return { sql, first, printed, diagnostics };
  const [a, b] = await Promise.all([first, second].map(async (pipeline) => inOrder(await rowsOf(engine, pipeline))));
  if (JSON.stringify(a) !== JSON.stringify(b)) return { sql, first, printed, second, a, b };
  const again = printSql(usualSurface.parse(second)).sql!;
  const third = translateSql(again, known).pipeline;
  return third === second ? undefined : { sql, first, printed, second, again, third };
}

test.each(Array.from({ length: rounds }, (_, i) => Number(process.env['ZESTY_SIEVE_SQL_SEED'] ?? 7_000) + i))('SQLite gives the same rows: seed %d', async (seed) => {
  const { random, engine, sqlite } = await world(seed);
  const questions = new Questions(random);
  const known = await knownOf(engine, true);
  for (let i = 0; i < perRound; i++) {
    const question = questions.question();
    expect(await faultOf(question, engine, sqlite)).toBeUndefined();
    expect(await across(question.ours, engine, known)).toBeUndefined();
    expect(await writtenFault(question.ours, engine, sqlite, known)).toBeUndefined();
  }
  await sqlite.close();
}); // prettier-ignore
