import { Database } from './database.ts';

/**
 * Opens a database that is seen to be whole.
 * @throws Error that says what is wrong with the file, and what to do
 */
export async function openSound(file: string): Promise<Database> {
  const advice = 'Start with a backup of it, or name another file in ZESTY_SIEVE_DB. The file was left as it is.';
  try {
    const database = await Database.open(file);
    const found = await database.only<{ quick_check: string }>('PRAGMA main.quick_check(1)');
    if (found.quick_check !== 'ok') throw new Error(`${file} is damaged: ${found.quick_check}. ${advice}`);
    return database;
  } catch (error) {
    const { code, message } = error as Error & { code?: string };
    if (code === 'SQLITE_NOTADB') throw new Error(`${file} is no database, or is encrypted. ${advice}`, { cause: error });
    if (code === 'SQLITE_CORRUPT') throw new Error(`${file} is damaged: ${message}. ${advice}`, { cause: error });
    throw error;
  }
}
