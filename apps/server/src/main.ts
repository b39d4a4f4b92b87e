import { totalmem } from 'node:os';
import { join, resolve } from 'node:path';
import { pino } from 'pino';
import { ServerProblem } from './problem.ts';
import { start } from './start.ts';

const megabyte = 1024 * 1024;
const number = (name: string, usual: number): number => Number(process.env[name] ?? usual);
const folder = resolve(process.env.ZESTY_SIEVE_DATABASES ?? 'data');
const log = pino({ level: process.env.ZESTY_SIEVE_LOG ?? 'warn' }, pino.destination({ fd: 2, sync: true }));

try {
  const { address, tokenFile, publicAddress, close } = await start({
    host: process.env.HOST ?? '127.0.0.1',
    port: number('PORT', 4747),
    file: resolve(process.env.ZESTY_SIEVE_DB ?? join(folder, 'zesty-sieve.db')),
    isNamed: process.env.ZESTY_SIEVE_DB !== undefined,
    folder,
    memoryBytes: number('ZESTY_SIEVE_MEMORY_MB', Math.min(4_096, Math.floor(totalmem() / megabyte / 2))) * megabyte,
    undoBytes: number('ZESTY_SIEVE_UNDO_MB', 256) * megabyte,
    ...(process.env.ZESTY_SIEVE_PUBLIC_PORT !== undefined && {
      published: {
        host: process.env.ZESTY_SIEVE_PUBLIC_HOST ?? process.env.HOST ?? '127.0.0.1',
        port: number('ZESTY_SIEVE_PUBLIC_PORT', 0),
      },
    }),
    patience: { silenceMs: number('ZESTY_SIEVE_SILENCE_S', 30) * 1000 },
    log,
  });
  process.stdout.write(`Zesty Sieve listens on ${address}\n`);
  if (publicAddress !== null) process.stdout.write(`What is published, and nothing else, is answered on ${publicAddress}\n`);
  if (tokenFile !== null)
    process.stderr.write(
      `Others can reach this address. Only those with the token above are answered (it lies in ${tokenFile}). What is sent is not encrypted: put a proxy with TLS before it, or use an SSH tunnel.\n`,
    );

  const stop = (): void => void close().finally(() => process.exit(0));
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
} catch (error) {
  process.stderr.write(
    `Zesty Sieve could not start: ${error instanceof ServerProblem ? error.problem.detail : (error as Error).message}\n`,
  );
  process.exit(1);
}
