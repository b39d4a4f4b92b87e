import { SequelizeStorage, Umzug } from 'umzug';
import type { Database } from './database.ts';
import { beginning } from './migrations/001-beginning.ts';
import { changes } from './migrations/002-changes.ts';
import { runs } from './migrations/003-runs.ts';
import { checks } from './migrations/004-checks.ts';

const migrations = [beginning, changes, runs, checks];

/** The file was written by a later version of the program. */
export class NewerDatabase extends Error {}

/**
 * Brings the file's tables up to this version.
 * @throws NewerDatabase where the file has steps that this version does not know
 */
export async function migrate({ sequelize }: Database): Promise<void> {
  const storage = new SequelizeStorage({ sequelize, modelName: 'migrations' });
  const umzug = new Umzug({ migrations, context: sequelize.getQueryInterface(), storage, logger: undefined });
  const known = new Set(migrations.map(({ name }) => name));
  const unknown = (await storage.executed()).find((name) => !known.has(name));
  if (unknown !== undefined) {
    throw new NewerDatabase(
      `This database was written by a newer version of Zesty Sieve (it has the step ${unknown}). Start that version, or name another file in ZESTY_SIEVE_DB.`,
    );
  }
  await umzug.up();
}
