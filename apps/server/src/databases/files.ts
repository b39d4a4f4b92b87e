import { existsSync, renameSync, rmSync } from 'node:fs';

/** What belongs to a database file: SQLite's log and its index stand beside it until they have been worked in. */
const parts = ['', '-wal', '-shm'];

export function moveDatabase(from: string, to: string): void {
  for (const part of parts) if (existsSync(from + part)) renameSync(from + part, to + part);
}

export function removeDatabase(file: string): void {
  for (const part of [...parts, '.uploads']) rmSync(file + part, { recursive: true, force: true });
}
