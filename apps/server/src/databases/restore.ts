import { existsSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Request } from 'express';
import { ServerProblem } from '../problem.ts';
import { Connections } from '../storage/connections.ts';
import { Database } from '../storage/database.ts';
import { Uploads } from '../http/upload.ts';
import type { Databases } from './databases.ts';
import { moveDatabase } from './files.ts';
import { headProblem } from './folder.ts';

/**
 * Puts a backup in the place of a database. It is looked through from beginning to end before anything is replaced, and brought up to this
 * version; what was there is kept beside it.
 * @returns the name of what was there
 */
export async function restore(databases: Databases, name: string, request: Request): Promise<{ readonly name: string; readonly before: string }> {
  const { file } = databases.folder.find(name);
  const uploads = new Uploads(`${file}.restoring`);
  await uploads.begin();
  try {
    return await uploads.aside(request, () => undefined, async (given) => {
      await checkBackup(given);
      return databases.turn.runExclusive(async () => {
        const { file: place, isDefault } = databases.folder.find(name);
        const before = beforeName(place, name);
        await databases.whileClosed(place, () => {
          moveDatabase(place, join(dirname(place), `${before}.db`));
          moveDatabase(given, place);
        });
        if (isDefault) await databases.main;
        return { name, before };
      });
    });
  } finally {
    rmSync(`${file}.restoring`, { recursive: true, force: true });
  }
} // prettier-ignore

/** @throws ServerProblem that says what is wrong with it */
async function checkBackup(file: string): Promise<void> {
  const refused = (why: string) => new ServerProblem('/malformed', `This is no backup that can be restored: ${why} Nothing was replaced.`);
  const head = await headProblem(file);
  if (head !== null) throw refused(head);
  try {
    const database = await Database.open(file);
    try {
      const found = await database.all<{ name: string }>("SELECT name FROM sqlite_master WHERE name IN ('collections', 'pipelines')");
      if (found.length < 2) throw refused('it is a database of something else.');
      const { integrity_check: told } = await database.only<{ integrity_check: string }>('PRAGMA integrity_check(1)');
      if (told !== 'ok') throw refused(`it is damaged: ${told}.`);
    } finally {
      await database.close();
    }
    // Brought up to this version, or refused as of a later one.
    await (await Connections.open(file)).close();
  } catch (error) {
    throw error instanceof ServerProblem ? error : refused((error as Error).message);
  }
}

/** Under what name what was there is kept: that of the database, with the time. */
function beforeName(file: string, name: string): string {
  const time = new Date().toISOString().replace(/[-:]|\.\d+/g, '');
  const base = `${name.slice(0, 64 - '-before-20000101T000000Z'.length)}-before-${time}`;
  let free = base;
  for (let n = 2; existsSync(join(dirname(file), `${free}.db`)); n++) free = `${base.slice(0, 60)}-${n}`;
  return free;
}
