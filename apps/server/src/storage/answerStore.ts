import { ServerProblem } from '../problem.ts';
import type { Once } from '../threads/messages.ts';
import type { Database } from './database.ts';

/** So long a key stands for its first answer. */
const keptMs = 24 * 3600 * 1000;

/**
 * What the write of a key gave; undefined where it has not been made.
 * @throws ServerProblem where the key stands for something else
 */
export async function answered(database: Database, { key, fingerprint }: Once): Promise<{ readonly value: unknown } | undefined> {
  const row = await database.first<{ fingerprint: string; value: string }>(
    'SELECT fingerprint, value FROM answers WHERE key = ? AND at >= ?',
    [key, new Date(Date.now() - keptMs).toISOString()],
  );
  if (row === undefined) return undefined;
  if (row.fingerprint !== fingerprint)
    throw new ServerProblem(
      '/idempotency',
      `The Idempotency-Key ${JSON.stringify(key)} was used for another request. Give this one a key of its own.`,
    );
  return { value: JSON.parse(row.value) };
}

/** Keeps what a write gave, in its own transaction. Documents that were put have been put: they are not told again. */
export async function keepAnswer(database: Database, { key, fingerprint }: Once, value: unknown): Promise<void> {
  const now = Date.now();
  await database.run('DELETE FROM answers WHERE at < ?', [new Date(now - keptMs).toISOString()]);
  await database.run('INSERT OR REPLACE INTO answers (key, fingerprint, value, at) VALUES (?, ?, ?, ?)', [
    key,
    fingerprint,
    JSON.stringify(value ?? null, (name, part: unknown) => (name === 'puts' ? [] : part)),
    new Date(now).toISOString(),
  ]);
}
