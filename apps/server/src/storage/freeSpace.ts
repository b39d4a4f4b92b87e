import type { Database } from './database.ts';

/** A file up to this size is written anew once, so that it can give space back; a larger one uses its free space itself. */
const rewrittenUpTo = 256 * 1024 * 1024;
const pagesAtOnce = 2_000;

async function valueOf(database: Database, pragma: string): Promise<number> {
  const row = await database.first(`PRAGMA main.${pragma}`);
  return Number(Object.values(row ?? {})[0] ?? 0);
}

/** Sees to it that a file can give back the space of what was removed (SQLite, PRAGMA auto_vacuum), and that its journal stays small. */
export async function keepFreeSpaceSmall(database: Database): Promise<void> {
  await database.run('PRAGMA main.journal_size_limit = 67108864');
  const incremental = 2;
  if ((await valueOf(database, 'auto_vacuum')) === incremental) return;
  const bytes = (await valueOf(database, 'page_count')) * (await valueOf(database, 'page_size'));
  if (bytes > rewrittenUpTo) return;
  await database.run('PRAGMA main.auto_vacuum = INCREMENTAL');
  await database.run('VACUUM main');
}

/** @returns whether there may be more to give back */
export async function giveBack(database: Database): Promise<boolean> {
  if ((await valueOf(database, 'freelist_count')) === 0) return false;
  const before = await valueOf(database, 'freelist_count');
  // The pragma frees a page each time it is stepped.
  await database.all(`PRAGMA main.incremental_vacuum(${pagesAtOnce})`);
  return (await valueOf(database, 'freelist_count')) < before;
}
