import { chmodSync, existsSync, mkdirSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Express } from 'express';
import type { Logger } from 'pino';
import { apiOf } from './api.ts';
import { makeApp } from './app.ts';
import { Databases } from './databases/databases.ts';
import { Folder } from './databases/folder.ts';
import { accessFor } from './http/access.ts';
import { usualPatience, type Patience } from './http/patience.ts';
import { ServerProblem } from './problem.ts';
import { makePublicApp } from './publicApp.ts';
import type { HubOptions } from './hub.ts';

export interface StartOptions extends HubOptions {
  readonly host: string;
  /** 0 takes one that is free. */
  readonly port: number;
  readonly log: Logger;
  readonly patience?: Partial<Patience>;
  /** Where other databases lie; beside this one unless it is said. */
  readonly folder?: string;
  /** Whether somebody named the file, so that it stays where it is when the database is renamed. */
  readonly isNamed?: boolean;
  /** A second listener, for published answers and pages alone. */
  readonly published?: { readonly host: string; readonly port: number };
}

export interface Started {
  /** Where it can be reached, with the token where one is wanted. */
  readonly address: string;
  /** Where the token lies; null where none is wanted. */
  readonly tokenFile: string | null;
  /** Where others reach what is published; null where no listener is theirs. */
  readonly publicAddress: string | null;
  readonly databases: Databases;
  readonly close: () => Promise<void>;
}

/** Starts the server over a file. @throws Error that says what is wrong with it, ServerProblem */
export async function start({ host, port, log, patience, published, folder, isNamed = true, ...options }: StartOptions): Promise<Started> {
  const databaseFolder = new Folder(folder ?? dirname(options.file), options.file, isNamed);
  const file = databaseFolder.defaultFile;
  // Files that are made from now on are their owner's alone, SQLite's among them.
  process.umask(0o077);
  mkdirSync(dirname(file), { recursive: true });
  for (const part of ['', '-wal', '-shm']) if (existsSync(file + part)) chmodSync(file + part, 0o600);
  const tokenFile = `${file}.token`;
  const access = accessFor(host, tokenFile);
  const databases = new Databases({ ...options, log, folder: databaseFolder, serve: (hub, uploads) => apiOf(hub, uploads, access) });
  await databases.main;
  const webDirectory = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const patient = { ...usualPatience, ...patience };
  const server = await listening(makeApp({ databases, log, access, webDirectory, patience: patient }), host, port);
  const others =
    published && (await listening(makePublicApp({ databases, log, webDirectory, patience: patient }), published.host, published.port));
  const address = addressOf(server, host);
  return {
    address: access.token === null ? address : `${address}/?token=${access.token}`,
    tokenFile: access.token === null ? null : tokenFile,
    publicAddress: others === undefined || published === undefined ? null : addressOf(others, published.host),
    databases,
    close: async () => {
      const servers = [server, ...(others === undefined ? [] : [others])];
      for (const one of servers) turnAway(one);
      await databases.close();
      for (const one of servers) one.closeAllConnections();
    },
  };
}

async function listening(app: Express, host: string, port: number): Promise<Server> {
  const server = app.listen(port, host);
  // A large file takes as long as it takes, as long as it comes.
  server.requestTimeout = 0;
  await new Promise((ready, fail) => server.once('listening', ready).once('error', fail));
  return server;
}

/** Takes no connection any more, and tells who has one and asks that it is being stopped; those who have asked are answered. */
function turnAway(server: Server): void {
  server.close();
  const { problem } = new ServerProblem('/restarted', 'The server is being stopped.');
  const headers = { connection: 'close', 'content-type': 'application/problem+json' };
  server
    .removeAllListeners('request')
    .on('request', (_request, response) => response.writeHead(problem.status, headers).end(JSON.stringify(problem)));
}

function addressOf(server: Server, host: string): string {
  const { port } = server.address() as AddressInfo;
  return `http://${host.includes(':') ? `[${host}]` : host}:${port}`;
}
