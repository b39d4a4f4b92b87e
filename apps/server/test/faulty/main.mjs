import { pino } from 'pino';
import { start } from '../../dist/start.js';

/** The server with threads that can be made to fail, and little patience. */
const megabyte = 1024 * 1024;
const { address, close } = await start({
  host: '127.0.0.1',
  port: 0,
  file: process.env.ZESTY_SIEVE_DB,
  memoryBytes: Number(process.env.ZESTY_SIEVE_MEMORY_MB ?? 512) * megabyte,
  undoBytes: 64 * megabyte,
  writeLimitMs: 3_000,
  stuckMs: { cancelled: 1_500, otherwise: 4_000 },
  patience: { silenceMs: 1_500, discardingMs: 20_000 },
  log: pino({ level: process.env.ZESTY_SIEVE_LOG ?? 'silent' }, pino.destination({ fd: 2, sync: true })),
  workers: { storage: new URL('./storage.mjs', import.meta.url), engine: new URL('./engine.mjs', import.meta.url) },
});
process.stdout.write(`Zesty Sieve listens on ${address}\n`);
process.once('SIGTERM', () => void close().finally(() => process.exit(0)));
