import { chmodSync, existsSync, mkdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { totalmem } from 'node:os';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { makeApp } from './app.ts';
import { accessFor } from './http/access.ts';
import { Uploads } from './http/upload.ts';
import { Hub } from './hub.ts';
import { ServerProblem } from './problem.ts';

const log = pino({ level: process.env.ZESTY_SIEVE_LOG ?? 'warn' }, pino.destination({ fd: 2, sync: true }));
const host = process.env.HOST ?? '127.0.0.1';
const port = Number(process.env.PORT ?? 4747);
const file = resolve(process.env.ZESTY_SIEVE_DB ?? 'data/zesty-sieve.db');
const megabyte = 1024 * 1024;
const memoryMegabytes = Number(process.env.ZESTY_SIEVE_MEMORY_MB ?? Math.min(4_096, Math.floor(totalmem() / megabyte / 2)));

const undoMegabytes = Number(process.env.ZESTY_SIEVE_UNDO_MB ?? 256);

// Files that are made from now on are their owner's alone, SQLite's among them.
process.umask(0o077);

try {
  mkdirSync(dirname(file), { recursive: true });
  for (const part of ['', '-wal', '-shm']) if (existsSync(file + part)) chmodSync(file + part, 0o600);
  const access = accessFor(host, `${file}.token`);
  const uploads = new Uploads(`${file}.uploads`);
  await uploads.begin();
  const hub = await Hub.open({ file, memoryBytes: memoryMegabytes * megabyte, undoBytes: undoMegabytes * megabyte, log });
  const webDirectory = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const server = makeApp({ hub, log, access, uploads, webDirectory }).listen(port, host);
  // A large file takes as long as it takes, as long as it comes.
  server.requestTimeout = 0;
  await new Promise((ready, fail) => server.once('listening', ready).once('error', fail));
  const { port: actual } = server.address() as AddressInfo;
  const address = `http://${host.includes(':') ? `[${host}]` : host}:${actual}`;
  if (access.token === null) process.stdout.write(`Zesty Sieve listens on ${address}\n`);
  else {
    process.stdout.write(`Zesty Sieve listens on ${address}/?token=${access.token}\n`);
    process.stderr.write(
      `Others can reach this address. Only those with the token above are answered (it lies in ${file}.token); what is sent is not encrypted: put a proxy with TLS before it, or use an SSH tunnel.\n`,
    );
  }

  void hub.checks.runPending(log);

  const stop = (): void => {
    server.close();
    server.closeAllConnections();
    void hub.close().finally(() => process.exit(0));
  };
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
} catch (error) {
  process.stderr.write(
    `Zesty Sieve could not start: ${error instanceof ServerProblem ? error.problem.detail : (error as Error).message}\n`,
  );
  process.exit(1);
}
