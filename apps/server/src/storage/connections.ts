import { Mutex } from 'async-mutex';
import { reply, type Reply } from '../problem.ts';
import { currentOnce } from '../threads/serve.ts';
import { answered, keepAnswer } from './answerStore.ts';
import { Database } from './database.ts';
import { giveBack, keepFreeSpaceSmall } from './freeSpace.ts';
import { migrate } from './migrate.ts';
import { defineModels, type Models } from './models.ts';
import { openSound } from './openSound.ts';

/** One connection that writes, one operation at a time, and another that reads what is committed, and waits for no writer. */
export class Connections {
  readonly writing: Database;
  readonly reading: Database;
  /**
   * Reads where scratch collections may be read, or the changes of them: whoever reads those while one is being written waits
   * for the writer, since they lie in shared memory, and all that goes over the same connection waits with him.
   */
  readonly readingScratch: Database;
  readonly models: Models;
  private readonly file: string;
  /** Whose turn it is to write. */
  private readonly turn = new Mutex();

  private constructor(file: string, writing: Database, reading: Database, readingScratch: Database) {
    this.file = file;
    this.writing = writing;
    this.reading = reading;
    this.readingScratch = readingScratch;
    this.models = defineModels(writing.sequelize);
  }

  static async open(file: string): Promise<Connections> {
    const writing = await openSound(file);
    await keepFreeSpaceSmall(writing);
    await migrate(writing, file);
    return new Connections(file, writing, await Database.open(file), await Database.open(file));
  }

  async close(): Promise<void> {
    await this.turn.runExclusive(async () => {
      await this.reading.close();
      await this.readingScratch.close();
      await this.writing.close();
    });
  }

  /**
   * Does some work in a transaction of its own, when its turn comes. Where the call is one that is made once and has been made,
   * what it gave then is given again.
   */
  write<T>(work: () => Promise<T>): Promise<Reply<T>> {
    const once = currentOnce();
    return reply(() =>
      this.turn.runExclusive(() =>
        this.writing.transaction(async () => {
          if (once === undefined) return work();
          const before = await answered(this.writing, once);
          if (before !== undefined) return before.value as T;
          const value = await work();
          await keepAnswer(this.writing, once, value);
          return value;
        }),
      ),
    );
  }

  /** Gives pages that hold nothing any more back to the file system, a few at a time, when nobody writes. */
  async giveBack(): Promise<void> {
    while (!this.turn.isLocked() && (await this.turn.runExclusive(() => giveBack(this.writing))));
  }

  /** Reads the documents of a collection. */
  readingOf({ scratch }: { readonly scratch: boolean }): Database {
    return scratch ? this.readingScratch : this.reading;
  }

  /** A connection of its own that sees the file as it is now until it is closed, whatever is written meanwhile. */
  async snapshot(): Promise<Database> {
    const database = await Database.open(this.file);
    try {
      await database.run('BEGIN');
      // A transaction sees what is there when it first reads.
      await database.first('SELECT count(*) FROM collections');
      return database;
    } catch (error) {
      await database.close().catch(() => undefined);
      throw error;
    }
  }

  /** Copies the file as it is at one moment into another, which appears under its name when it is whole. */
  async copyTo(file: string): Promise<void> {
    const database = await Database.open(this.file);
    try {
      await database.copyTo(file);
    } finally {
      await database.close();
    }
  }
}
