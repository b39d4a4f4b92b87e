import type { Database } from './database.ts';

/**
 * The table of one collection's documents. Its name is made of the collection's number alone. A position is given
 * once and never again, so that insertion order is the order of positions.
 */
export function tableOf(collectionId: number): string {
  if (!Number.isSafeInteger(collectionId)) throw new Error('a collection has a whole number');
  return `documents_${collectionId}`;
}

/** @param scratch in memory, gone with the server */
export async function createTable(database: Database, collectionId: number, scratch = false): Promise<void> {
  await database.run(
    `CREATE TABLE ${scratch ? 'scratch' : 'main'}.${tableOf(collectionId)} (position INTEGER PRIMARY KEY, identity TEXT NOT NULL UNIQUE, body TEXT NOT NULL) STRICT`,
  );
}

export async function dropTable(database: Database, collectionId: number): Promise<void> {
  await database.run(`DROP TABLE IF EXISTS ${tableOf(collectionId)}`);
}
