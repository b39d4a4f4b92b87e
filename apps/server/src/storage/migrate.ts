import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { SequelizeStorage, Umzug } from 'umzug';
import type { Database } from './database.ts';
import { beginning } from './migrations/001-beginning.ts';
import { changes } from './migrations/002-changes.ts';
import { runs } from './migrations/003-runs.ts';
import { checks } from './migrations/004-checks.ts';
import { answers } from './migrations/005-answers.ts';
import { sql } from './migrations/006-sql.ts';
import { recall } from './migrations/007-recall.ts';
import { views } from './migrations/008-views.ts';
import { publications } from './migrations/009-publications.ts';
import { usedViews } from './migrations/010-used-views.ts';
import { wholeSums } from './migrations/011-whole-sums.ts';
import type { Migration } from './migrations/migration.ts';

export const migrations: readonly Migration[] = [
  beginning,
  changes,
  runs,
  checks,
  answers,
  sql,
  recall,
  views,
  publications,
  usedViews,
  wholeSums,
];

/** The file was written by a later version of the program. */
export class NewerDatabase extends Error {}

/** Where the file lies as it was before it was brought up to this version. */
export const copyBefore = (file: string): string => `${file}.before-upgrade`;

/**
 * Brings the file's tables up to this version, each step in a transaction of its own, so that one that is cut off has not
 * been made. Before the first of a start the file is copied; the copy stays until a start has succeeded that had nothing to bring up.
 * @throws NewerDatabase where the file has steps that this version does not know
 */
export async function migrate(database: Database, file: string, steps: readonly Migration[] = migrations): Promise<void> {
  const { sequelize } = database;
  const storage = new SequelizeStorage({ sequelize, modelName: 'migrations' });
  const umzug = new Umzug({ migrations: [...steps], context: sequelize.getQueryInterface(), storage, logger: undefined });
  const known = new Set(steps.map(({ name }) => name));
  const executed = await storage.executed();
  const unknown = executed.find((name) => !known.has(name));
  if (unknown !== undefined) {
    throw new NewerDatabase(
      `This database was written by a newer version of Zesty Sieve (it has the step ${unknown}). Start that version, or name another file in ZESTY_SIEVE_DB.`,
    );
  }
  const pending = await umzug.pending();
  const copy = copyBefore(file);
  if (pending.length === 0) await rm(copy, { force: true });
  // A copy from a start that was cut off is of the older version still: it is the one to keep.
  else if (executed.length > 0 && !existsSync(copy)) await database.copyTo(copy);
  for (const { name } of pending) await database.transaction(async () => void (await umzug.up({ migrations: [name] })));
}
