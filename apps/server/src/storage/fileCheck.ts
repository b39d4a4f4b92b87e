import type { FileCheck } from '@zesty-sieve/contract';
import { unwrap } from '../problem.ts';
import type { Connections } from './connections.ts';
import type { StoredCollection } from './stored.ts';
import { tableOf } from './table.ts';

const listedProblems = 20;

/**
 * Looks through the file (SQLite, PRAGMA integrity_check), and holds what is noted of a collection against its documents.
 * What follows from the documents is mended: the file's own index of identities, and the notes.
 */
export async function checkFile(connections: Connections, collection: StoredCollection): Promise<FileCheck> {
  const mended: string[] = [];
  const table = tableOf(collection.id);
  let problems = await integrityOf(connections);
  if (problems.some((problem) => problem.includes(`autoindex_${table}_`))) {
    await connections.writing.run(`REINDEX ${table}`);
    mended.push('the file’s own index of identities was built anew');
    problems = await integrityOf(connections);
  }
  const unread = await connections
    .readingOf(collection)
    .first<{ n: number }>(`SELECT count(*) AS n FROM ${table} WHERE NOT json_valid(body)`);
  if ((unread?.n ?? 0) > 0) problems.push(`${unread?.n} documents of ${collection.name} are no JSON any more`);
  mended.push(...(await mendNotes(connections, collection, table)));
  return { sound: problems.length === 0, problems, mended };
}

/** From a connection of its own, so that nobody waits for it. */
async function integrityOf(connections: Connections): Promise<string[]> {
  const snapshot = await connections.snapshot();
  try {
    const rows = await snapshot.all<{ integrity_check: string }>(`PRAGMA main.integrity_check(${listedProblems})`);
    return rows.map((row) => row.integrity_check).filter((found) => found !== 'ok');
  } finally {
    await snapshot.close();
  }
}

async function mendNotes(connections: Connections, { id, name }: StoredCollection, table: string): Promise<string[]> {
  const { writing } = connections;
  return unwrap(
    await connections.write(async () => {
      const there = await writing.first<{ count: number; bytes: number; next: number }>(
        `SELECT count(*) AS count, coalesce(sum(length(body)), 0) AS bytes, coalesce(max(position) + 1, 0) AS next FROM ${table}`,
      );
      const noted = await writing.first<{ count: number; nextPosition: number }>(
        'SELECT count, nextPosition FROM collections WHERE id = ?',
        [id],
      );
      if (there === undefined || noted === undefined) return [];
      const mended: string[] = [];
      if (noted.count !== there.count) mended.push(`${name} was noted to have ${noted.count} documents, and has ${there.count}`);
      if (noted.nextPosition < there.next)
        mended.push(`the next place of ${name} was noted as ${noted.nextPosition}, and is ${there.next}`);
      if (mended.length > 0)
        await writing.run('UPDATE collections SET count = ?, bytes = ?, nextPosition = max(nextPosition, ?) WHERE id = ?', [
          there.count,
          there.bytes,
          there.next,
          id,
        ]);
      return mended;
    }),
  );
}
