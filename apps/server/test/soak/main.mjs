import { pino } from 'pino';
import { start } from '../../dist/start.js';
import { collected } from './service.mjs';

/** The server as it is, which tells by a message what it holds after collection. */
const megabyte = 1024 * 1024;
const { address, databases, close } = await start({
  host: '127.0.0.1',
  port: 0,
  file: process.env.ZESTY_SIEVE_DB,
  // So little that the rows that are kept reach their bound soon.
  memoryBytes: 72 * megabyte,
  undoBytes: 16 * megabyte,
  log: pino({ level: 'error' }, pino.destination({ fd: 2, sync: true })),
  workers: { storage: new URL('./storage.mjs', import.meta.url), engine: new URL('./engine.mjs', import.meta.url) },
});
const { hub } = await databases.main;
process.on('message', async () => {
  const [storage, engine] = await Promise.all([hub.storage.call((one) => one.collected()), hub.engine.call((one) => one.collected())]);
  process.send({ main: collected(), storage, engine });
});
process.stdout.write(`Zesty Sieve listens on ${address}\n`);
process.once('SIGTERM', () => void close().finally(() => process.exit(0)));
