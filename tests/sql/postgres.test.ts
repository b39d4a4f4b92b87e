import { printSql, tableScript, translateSql, usualSurface } from '@zesty-sieve/core';
import { tables } from './data.ts';
import { postgres } from './postgres.ts';
import { Questions } from './questions.ts';
import { inOrder, knownOf, rowsOf, world } from './world.ts';

const seeds = [1, 2, 3];
const perSeed = 50;

test.each(seeds)('PostgreSQL gives the rows of pipelines that are written for it: seed %d', async (seed) => {
  const { random, engine, sqlite, documents } = await world(Number(process.env['ZESTY_SIEVE_SQL_SEED'] ?? 9_000) + seed);
  const script = tables
    .map(({ name }) => {
      const made = tableScript(name, [], 'postgresql');
      return made.before + made.rows(documents.get(name)!.map((one) => ({ identity: String(one['id']), body: JSON.stringify(one) }))) + made.after;
    })
    .join('');
  const known = await knownOf(engine, true);
  const questions = new Questions(random);
  const asked: { pipeline: string; written: string }[] = [];
  while (asked.length < perSeed) {
    const pipeline = translateSql(questions.question().ours, known).pipeline!;
    const { sql, notes } = printSql(usualSurface.parse(pipeline), 'postgresql');
    // A group by what is the same for all rows has no name in SQL.
    if (sql !== undefined) asked.push({ pipeline, written: sql });
    else expect({ pipeline, notes: notes.filter(({ message }) => !message.includes('one value for all')) }).toEqual({ pipeline, notes: [] });
  }
  const answers = postgres(script, asked.map(({ written }) => written)); // prettier-ignore
  for (const [i, { pipeline, written }] of asked.entries()) {
    const { rows, error } = answers[i]!;
    const [a, b] = [inOrder(await rowsOf(engine, pipeline)), inOrder(rows ?? [])];
    expect({ pipeline, written, error, rows: b }).toEqual({ pipeline, written, error: undefined, rows: a });
  }
  await sqlite.close();
}, 120_000); // prettier-ignore
