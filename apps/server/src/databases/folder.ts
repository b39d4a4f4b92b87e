import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import { ServerProblem } from '../problem.ts';

/** A database as it lies on the disk. */
export interface FoundDatabase {
  readonly name: string;
  readonly file: string;
  readonly isDefault: boolean;
}

const fileName = /^([A-Za-z][A-Za-z0-9_-]{0,63})\.db$/;
/** How databases are called whose files are not called so, and which one is the default. */
interface Notes {
  readonly names: Readonly<Record<string, string>>;
  readonly defaultFile?: string;
}

/** The folder in which databases lie, and the one that the server was started on, wherever that is. */
export class Folder {
  readonly path: string;
  private readonly notesFile: string;
  private notes: Notes;
  private readonly startedOn: string;
  /** Whether somebody named the file, so that it stays where it is. */
  private readonly isNamed: boolean;

  /** @param startedOn the file of the default database */
  /** Names that databases have had since the server was started, and what they were called next. */
  private readonly formerly = new Map<string, string>();

  constructor(path: string, startedOn: string, isNamed: boolean) {
    this.path = resolve(path);
    this.startedOn = resolve(startedOn);
    this.isNamed = isNamed;
    this.notesFile = join(this.path, 'databases.json');
    this.notes = readNotes(this.notesFile);
  }

  /** The file of the default database: the one that it was renamed to, where nobody names another. */
  get defaultFile(): string {
    const { defaultFile } = this.notes;
    return !this.isNamed && defaultFile !== undefined && existsSync(defaultFile) ? defaultFile : this.startedOn;
  }

  /** Every database, the default one first. Files that were put in meanwhile are among them. */
  list(): FoundDatabase[] {
    const own = this.defaultFile;
    const inFolder = this.isThere() ? readdirSync(this.path).filter((name) => fileName.test(name)).sort() : []; // prettier-ignore
    const others = inFolder.map((name) => join(this.path, name)).filter((file) => file !== own && !file.endsWith('.restoring.db'));
    const taken = new Set(others.map((file) => this.nameOf(file)));
    let name = this.nameOf(own);
    for (let n = 2; taken.has(name); n++) name = `${this.nameOf(own).slice(0, 60)}-${n}`;
    return [{ name, file: own, isDefault: true }, ...others.map((file) => ({ name: this.nameOf(file), file, isDefault: false }))];
  }

  private isThere(): boolean {
    return existsSync(this.path) && statSync(this.path).isDirectory();
  }

  /** @throws ServerProblem where there is none */
  /** @throws ServerProblem where there is none of the name; it says what one is called now that had it */
  find(name: string): FoundDatabase {
    const all = this.list();
    const found = all.find((one) => one.name === name);
    if (found !== undefined) return found;
    const calledNow = this.calledNow(name, all);
    throw calledNow === undefined
      ? new ServerProblem('/not-found', `There is no database ${name}.`)
      : new ServerProblem('/not-found', `There is no database ${name}: it is called ${calledNow} now.`, { calledNow });
  }

  /** To be told of every renaming, for those who know the database by the name that it had. */
  renamed(from: string, to: string): void {
    this.formerly.delete(to);
    this.formerly.set(from, to);
  }

  /** What has been renamed once more since is followed on. */
  private calledNow(name: string, all: readonly FoundDatabase[]): string | undefined {
    let now = this.formerly.get(name);
    for (let steps = 0; now !== undefined && steps < this.formerly.size; steps++) {
      if (all.some((one) => one.name === now)) return now;
      now = this.formerly.get(now);
    }
    return undefined;
  }

  fileFor(name: string): string {
    return join(this.path, `${name}.db`);
  }

  /** Whether the file keeps its place when its database is renamed. */
  staysInPlace({ file, isDefault }: FoundDatabase): boolean {
    return dirname(file) !== this.path || (isDefault && this.isNamed);
  }

  /** @throws ServerProblem where the folder cannot be written */
  noteName(file: string, name: string): void {
    this.keep({ ...this.notes, names: { ...this.notes.names, [file]: name } });
  }

  noteDefault(file: string): void {
    this.keep({ ...this.notes, defaultFile: file });
  }

  /** @throws ServerProblem where it cannot be written */
  writable<T>(work: () => T): T {
    try {
      mkdirSync(this.path, { recursive: true });
      return work();
    } catch (error) {
      throw ofFolder(error, this.path);
    }
  }

  private keep(notes: Notes): void {
    this.writable(() => writeFileSync(this.notesFile, JSON.stringify(notes, null, 1), { mode: 0o600 }));
    this.notes = notes;
  }

  private nameOf(file: string): string {
    const noted = this.notes.names[file];
    if (noted !== undefined) return noted;
    const name = basename(file).replace(/\.[^.]*$/, '').replace(/[^A-Za-z0-9_-]/g, '-').slice(0, 64); // prettier-ignore
    return /^[A-Za-z]/.test(name) ? name : 'main';
  }
}

/** A failure of the file system as one that is told; any other as it is. */
export function ofFolder(error: unknown, path: string): unknown {
  const { code } = error as { code?: string };
  const words: Record<string, string> = { EACCES: 'may not be written', EPERM: 'may not be written', EROFS: 'may only be read', ENOSPC: 'has no room left', ENOTDIR: 'is no folder', EEXIST: 'is no folder' }; // prettier-ignore
  const word = code === undefined ? undefined : words[code];
  return word === undefined ? error : new ServerProblem('/folder', `${path} ${word}. Name another folder in ZESTY_SIEVE_DATABASES.`);
}

function readNotes(file: string): Notes {
  try {
    const read = JSON.parse(readFileSync(file, 'utf8')) as Partial<Notes>;
    return { names: read.names ?? {}, ...(read.defaultFile !== undefined && { defaultFile: read.defaultFile }) };
  } catch {
    // None yet, or one that says nothing: files are called as they are.
    return { names: {} };
  }
}

export function bytesOf(file: string): number {
  return ['', '-wal'].reduce((sum, part) => sum + (existsSync(file + part) ? statSync(file + part).size : 0), 0);
}

/** What is wrong with a file at first sight; null where nothing is. SQLite's files begin with sixteen bytes of their own. */
export async function headProblem(file: string): Promise<string | null> {
  if (!existsSync(file)) return 'The file is not there.';
  const handle = await open(file, 'r').catch(() => undefined);
  if (handle === undefined) return 'The file cannot be read.';
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(16), 0, 16, 0);
    // One that was never written is a database without anything in it.
    return bytesRead === 0 || buffer.toString('latin1') === 'SQLite format 3\0' ? null : 'The file is no database, or is encrypted.';
  } finally {
    await handle.close();
  }
}
