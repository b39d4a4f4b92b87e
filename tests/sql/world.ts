import { Engine, fieldTree, translateSql, type FieldTree, type Json, type Known } from '@zesty-sieve/core';
import { Random } from '../torture/random.ts';
import { documentsOf, tables } from './data.ts';
import { Sqlite } from './sqlite.ts';

/** Rows in an order of their own, numbers to what two sums of the same terms in other orders agree on. */
export const inOrder = (rows: readonly Json[]): string[] => rows.map((row) => JSON.stringify(row, rounded)).sort();
const rounded = (_: string, value: unknown): unknown =>
  typeof value === 'number' ? (value === 0 ? 0 : Number(value.toPrecision(12))) : typeof value === 'boolean' ? Number(value) : value;

/** Collections in the engine, and the same documents in SQLite; `hasNulls` where null is in them beside what is missing. */
export async function world(seed: number, hasNulls = true) {
  const random = new Random(seed);
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) });
  const sqlite = new Sqlite();
  const all = new Map<string, Record<string, Json>[]>();
  for (const table of tables) {
    const made = documentsOf(table, random, 5 + random.below(25));
    const documents = hasNulls ? made : made.map((one) => withoutNulls(one) as Record<string, Json>);
    all.set(table.name, documents);
    const { store } = engine.define(table.name, '@.id');
    documents.forEach((document, i) => store.put(i, document));
    await sqlite.fill(table.name, documents);
  }
  return { random, engine, sqlite, documents: all };
}

function withoutNulls(value: Json): Json {
  if (Array.isArray(value)) return value.filter((one) => one !== null).map(withoutNulls);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).flatMap(([name, one]) => (one === null ? [] : [[name, withoutNulls(one)]])));
}

const shapeOf = async (engine: Engine, name: string) => fieldTree(await engine.collections.get(name)!.shape(() => Promise.resolve()));

export async function knownOf(engine: Engine, isShaped: boolean): Promise<Known> {
  const shapes = new Map<string, FieldTree>();
  if (isShaped) for (const { name } of tables) shapes.set(name, await shapeOf(engine, name));
  return { collections: tables.map(({ name }) => name), shapeOf: (name: string) => shapes.get(name), identityOf: () => ['id'] };
}

export async function ours(engine: Engine, sql: string): Promise<{ rows: readonly Json[]; pipeline: string }> {
  // Half of the questions are asked by someone who does not know what documents look like.
  const { pipeline, diagnostics } = translateSql(sql, await knownOf(engine, sql.length % 2 === 0));
  if (pipeline === undefined) throw new Error(diagnostics.map(({ message }) => message).join(' '));
  return { rows: await rowsOf(engine, pipeline), pipeline };
}

export async function rowsOf(engine: Engine, pipeline: string): Promise<readonly Json[]> {
  const answer = await engine.query({ pipeline, pageSize: 1e6 });
  if (!answer.ok) throw new Error(`${pipeline}\n${answer.problem.message}`);
  return answer.value.documents;
}
