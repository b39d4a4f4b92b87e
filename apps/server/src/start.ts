import { chmodSync, existsSync, mkdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Logger } from 'pino';
import { makeApp } from './app.ts';
import { accessFor } from './http/access.ts';
import { usualPatience, type Patience } from './http/patience.ts';
import { Uploads } from './http/upload.ts';
import { Hub, type HubOptions } from './hub.ts';

export interface StartOptions extends HubOptions {
  readonly host: string;
  /** 0 takes one that is free. */
  readonly port: number;
  readonly log: Logger;
  readonly patience?: Partial<Patience>;
}

export interface Started {
  /** Where it can be reached, with the token where one is wanted. */
  readonly address: string;
  /** Where the token lies; null where none is wanted. */
  readonly tokenFile: string | null;
  readonly hub: Hub;
  readonly close: () => Promise<void>;
}

/** Starts the server over a file. @throws Error that says what is wrong with it, ServerProblem */
export async function start({ host, port, log, patience, ...options }: StartOptions): Promise<Started> {
  const { file } = options;
  // Files that are made from now on are their owner's alone, SQLite's among them.
  process.umask(0o077);
  mkdirSync(dirname(file), { recursive: true });
  for (const part of ['', '-wal', '-shm']) if (existsSync(file + part)) chmodSync(file + part, 0o600);
  const tokenFile = `${file}.token`;
  const access = accessFor(host, tokenFile);
  const uploads = new Uploads(`${file}.uploads`);
  await uploads.begin();
  const hub = await Hub.open({ ...options, log });
  const webDirectory = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const app = makeApp({ hub, log, access, uploads, webDirectory, patience: { ...usualPatience, ...patience } });
  const server = app.listen(port, host);
  // A large file takes as long as it takes, as long as it comes.
  server.requestTimeout = 0;
  await new Promise((ready, fail) => server.once('listening', ready).once('error', fail));
  void hub.checks.runPending(log);
  const { port: actual } = server.address() as AddressInfo;
  const address = `http://${host.includes(':') ? `[${host}]` : host}:${actual}`;
  return {
    address: access.token === null ? address : `${address}/?token=${access.token}`,
    tokenFile: access.token === null ? null : tokenFile,
    hub,
    close: async () => {
      server.close();
      server.closeAllConnections();
      await hub.close();
    },
  };
}
