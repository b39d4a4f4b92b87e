import { existsSync, rmSync, statSync } from 'node:fs';
import { Mutex } from 'async-mutex';
import type { Router } from 'express';
import type { DatabaseInfo } from '@zesty-sieve/contract';
import { Hub, type HubOptions } from '../hub.ts';
import { Uploads } from '../http/upload.ts';
import { ServerProblem } from '../problem.ts';
import { moveDatabase, removeDatabase } from './files.ts';
import { bytesOf, Folder, headProblem, ofFolder, type FoundDatabase } from './folder.ts';

/** What is answered of one database. */
export interface Served {
  readonly api: Router;
  readonly publishedHere: Router;
  readonly publishedToAll: Router;
}

/** A database that is open. */
export interface OpenDatabase extends Served {
  readonly file: string;
  readonly hub: Hub;
  readonly uploads: Uploads;
  /** Requests that are under way. */
  active: number;
  lastUsedAt: number;
}

export interface DatabasesOptions extends Omit<HubOptions, 'file'> {
  readonly folder: Folder;
  /** Makes what is answered of a database that has been opened. */
  readonly serve: (hub: Hub, uploads: Uploads) => Served;
  /** One that nobody has asked for so long is closed; the default one stays open. */
  readonly idleMs?: number;
}

const idleByDefault = 10 * 60_000;
const triedAgainMs = 30_000;
/** How long requests that are under way are waited for: where a database is renamed or removed, and where the server stops. */
const drainMs = 5_000;
const stopMs = 2_000;

/** Databases: opened when they are asked for, closed when nobody asks; all of them share one memory budget. */
export class Databases {
  readonly folder: Folder;
  private readonly options: DatabasesOptions;
  /** By file: names can be given to others. */
  private readonly opened = new Map<string, Promise<OpenDatabase>>();
  private readonly ready = new Map<string, OpenDatabase>();
  /** What could not be opened, and as what it was seen then. It is tried again after a while: not all of it is the file's fault. */
  private readonly failed = new Map<string, { readonly seen: string; readonly reason: string; readonly at: number }>();
  /** Files that something is being done with: whoever asks for one waits, so that none is moved from under whoever writes it. */
  private readonly held = new Map<string, Promise<unknown>>();
  /** One thing at a time is done with files. */
  readonly turn = new Mutex();
  private readonly idleTimer: NodeJS.Timeout;

  constructor(options: DatabasesOptions) {
    this.options = options;
    this.folder = options.folder;
    const idleMs = options.idleMs ?? idleByDefault;
    this.idleTimer = setInterval(() => void this.closeIdle(idleMs), Math.min(idleMs, 30_000)).unref();
  }

  async list(): Promise<DatabaseInfo[]> {
    return Promise.all(this.folder.list().map((one) => this.infoOf(one)));
  }

  async infoOf({ name, file, isDefault }: FoundDatabase): Promise<DatabaseInfo> {
    const isOpen = this.ready.has(file);
    const known = this.failed.get(file);
    const damaged = isOpen ? null : known?.seen === seenOf(file) ? known.reason : await headProblem(file);
    return { name, file, bytes: bytesOf(file), isOpen, isDefault, damaged };
  }

  /** The default one, which is open as long as the server is. */
  get main(): Promise<OpenDatabase> {
    return this.openUnheld(() => this.folder.defaultFile);
  }

  /** The one that is open already; undefined while it is being opened. */
  get mainNow(): OpenDatabase | undefined {
    return this.ready.get(this.folder.defaultFile);
  }

  /** @throws ServerProblem where there is none of the name, or it cannot be opened */
  open(name: string): Promise<OpenDatabase> {
    return this.openUnheld(() => this.folder.find(name).file);
  }

  /** @param fileOf asked again after waiting: what was waited for may have given the name to another, or to none */
  private async openUnheld(fileOf: () => string): Promise<OpenDatabase> {
    for (;;) {
      const file = fileOf();
      const held = this.held.get(file);
      if (held === undefined) return this.openFile(file);
      await held.catch(() => undefined);
    }
  }

  private openFile(file: string): Promise<OpenDatabase> {
    let there = this.opened.get(file);
    if (there === undefined) {
      there = this.begin(file);
      this.opened.set(file, there);
      there.catch(() => this.opened.delete(file));
    }
    return there;
  }

  private async begin(file: string): Promise<OpenDatabase> {
    const seen = seenOf(file);
    const known = this.failed.get(file);
    if (known?.seen === seen && Date.now() - known.at < triedAgainMs) throw new ServerProblem('/damaged', known.reason);
    try {
      const wrong = existsSync(file) ? await headProblem(file) : null;
      if (wrong !== null) throw new ServerProblem('/damaged', `${file}: ${wrong}`);
      const uploads = new Uploads(`${file}.uploads`);
      await uploads.begin();
      const hub = await Hub.open({ ...this.options, file });
      const open = { file, hub, uploads, active: 0, lastUsedAt: Date.now(), ...this.options.serve(hub, uploads) };
      this.ready.set(file, open);
      this.failed.delete(file);
      void hub.checks.runPending(hub.log);
      await this.share();
      return open;
    } catch (error) {
      const reason = error instanceof ServerProblem ? (error.problem.detail ?? error.message) : (error as Error).message;
      this.failed.set(file, { seen: seenOf(file), reason, at: Date.now() });
      throw file === this.folder.defaultFile ? error : new ServerProblem('/damaged', reason);
    }
  }

  /** One budget for all: each that is open may have as much as any other. */
  private async share(): Promise<void> {
    const each = Math.floor(this.options.memoryBytes / Math.max(1, this.ready.size));
    await Promise.all([...this.ready.values()].map(({ hub }) => hub.setMemory(each).catch(() => undefined)));
  }

  /** A new one, empty. @throws ServerProblem where the name is taken, or the folder cannot be written */
  async create(name: string): Promise<DatabaseInfo> {
    return this.turn.runExclusive(async () => {
      this.refuseTaken(name);
      const file = this.folder.fileFor(name);
      this.folder.writable(() => undefined);
      try {
        await this.openFile(file);
      } catch (error) {
        throw ofFolder(error, this.folder.path);
      }
      return this.infoOf(this.folder.find(name));
    });
  }

  async rename(name: string, next: string): Promise<DatabaseInfo> {
    return this.turn.runExclusive(async () => {
      const found = this.folder.find(name);
      if (next === name) return this.infoOf(found);
      this.refuseTaken(next);
      if (this.folder.staysInPlace(found)) this.folder.noteName(found.file, next);
      else {
        const file = this.folder.fileFor(next);
        await this.whileClosed(found.file, () => {
          this.folder.writable(() => moveDatabase(found.file, file));
          if (found.isDefault) this.folder.noteDefault(file);
        });
        if (found.isDefault) await this.main;
      }
      this.folder.renamed(name, next);
      return this.infoOf(this.folder.find(next));
    });
  }

  /** @param again the name once more @throws ServerProblem where that is not it, or it is the default one */
  async remove(name: string, again: string | undefined): Promise<void> {
    return this.turn.runExclusive(async () => {
      const found = this.folder.find(name);
      if (found.isDefault) throw new ServerProblem('/in-use', `${name} is the database that the server was started on. It is not removed while it runs.`);
      if (again !== name) throw new ServerProblem('/request', `All that is in ${name} goes with it: say its name once more, as ?name=${name}.`);
      await this.whileClosed(found.file, () => this.folder.writable(() => removeDatabase(found.file)));
    }); // prettier-ignore
  }

  /** Closes a database and works with its file, which nobody opens before that is done. */
  async whileClosed<T>(file: string, work: () => T | Promise<T>): Promise<T> {
    const done = (async () => {
      await this.closeFile(file);
      return work();
    })();
    this.held.set(file, done);
    try {
      return await done;
    } finally {
      this.held.delete(file);
    }
  }

  private async closeFile(file: string): Promise<void> {
    const there = await this.opened.get(file)?.catch(() => undefined);
    this.opened.delete(file);
    this.ready.delete(file);
    this.failed.delete(file);
    if (there === undefined) return;
    await closed(there, drainMs);
    rmSync(`${file}.uploads`, { recursive: true, force: true });
    await this.share();
  }

  private refuseTaken(name: string): void {
    if (this.folder.list().some((one) => one.name === name) || existsSync(this.folder.fileFor(name)))
      throw new ServerProblem('/exists', `There is a database ${name} already.`);
  }

  private async closeIdle(idleMs: number): Promise<void> {
    const isIdle = ({ file, active, lastUsedAt }: OpenDatabase) =>
      file !== this.folder.defaultFile && active === 0 && Date.now() - lastUsedAt > idleMs;
    for (const open of [...this.ready.values()].filter(isIdle))
      await this.turn.runExclusive(async () => {
        // Somebody may have asked for it while others had their turn.
        if (this.ready.get(open.file) === open && isIdle(open)) await this.whileClosed(open.file, () => undefined);
      });
  }

  async close(): Promise<void> {
    clearInterval(this.idleTimer);
    await Promise.all([...this.ready.values()].map((open) => closed(open, stopMs)));
  }
}

/** Closes a database once the requests that are under way have their answers; those that take longer are told that it has been closed. */
async function closed(open: OpenDatabase, mostMs: number): Promise<void> {
  open.hub.events.end();
  for (const until = Date.now() + mostMs; open.active > 0 && Date.now() < until;) await new Promise((resolve) => setTimeout(resolve, 20));
  await open.hub.close();
}

/** Tells one state of a file from another. */
function seenOf(file: string): string {
  if (!existsSync(file)) return 'not there';
  const { size, mtimeMs, ino } = statSync(file);
  return `${ino} ${size} ${mtimeMs}`;
}
