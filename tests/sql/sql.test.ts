import { Engine, fieldTree, translateSql, type FieldTree, type Json } from '@zesty-sieve/core';
import { Random } from '../torture/random.ts';
import { documentsOf, tables } from './data.ts';
import { Questions, type Both } from './questions.ts';
import { Sqlite } from './sqlite.ts';

const rounds = 25;
const perRound = 40;

/** Rows in an order of their own, numbers to what two sums of the same terms in other orders agree on. */
const inOrder = (rows: readonly Json[]): string[] => rows.map((row) => JSON.stringify(row, rounded)).sort();
const rounded = (_: string, value: unknown): unknown =>
  typeof value === 'number' ? (value === 0 ? 0 : Number(value.toPrecision(12))) : typeof value === 'boolean' ? Number(value) : value;

async function world(seed: number) {
  const random = new Random(seed);
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) });
  const sqlite = new Sqlite();
  for (const table of tables) {
    const documents = documentsOf(table, random, 5 + random.below(25));
    const { store } = engine.define(table.name, '@.id');
    documents.forEach((document, i) => store.put(i, document));
    await sqlite.fill(table.name, documents);
  }
  return { random, engine, sqlite };
}

const shapeOf = async (engine: Engine, name: string) => fieldTree(await engine.collections.get(name)!.shape(() => Promise.resolve()));

async function ours(engine: Engine, sql: string): Promise<{ rows: readonly Json[]; pipeline: string }> {
  const shapes = new Map<string, FieldTree>();
  // Half of the questions are asked by someone who does not know what documents look like.
  if (sql.length % 2 === 0) for (const { name } of tables) shapes.set(name, await shapeOf(engine, name));
  const known = { collections: tables.map(({ name }) => name), shapeOf: (name: string) => shapes.get(name), identityOf: () => ['id'] };
  const { pipeline, diagnostics } = translateSql(sql, known);
  if (pipeline === undefined) throw new Error(diagnostics.map(({ message }) => message).join(' '));
  const answer = await engine.query({ pipeline, pageSize: 1e6 });
  if (!answer.ok) throw new Error(`${pipeline}\n${answer.problem.message}`);
  return { rows: answer.value.documents, pipeline };
}

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

test.each(Array.from({ length: rounds }, (_, i) => Number(process.env['ZESTY_SIEVE_SQL_SEED'] ?? 7_000) + i))('SQLite gives the same rows: seed %d', async (seed) => {
  const { random, engine, sqlite } = await world(seed);
  const questions = new Questions(random);
  for (let i = 0; i < perRound; i++) expect(await faultOf(questions.question(), engine, sqlite)).toBeUndefined();
  await sqlite.close();
}); // prettier-ignore
