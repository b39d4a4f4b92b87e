import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import type { Json } from '@zesty-sieve/core';

interface Answer {
  readonly rows?: readonly Record<string, Json>[];
  readonly error?: string;
}

/** Runs a script and questions in a PostgreSQL of their own. */
export function postgres(script: string, questions: readonly string[]): readonly Answer[] {
  const done = spawnSync(process.execPath, [join(__dirname, 'postgres.mjs')], {
    input: JSON.stringify({ script, questions }),
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  });
  if (done.status !== 0) throw new Error(done.stderr);
  return JSON.parse(done.stdout) as Answer[];
}
