import { Mutex } from 'async-mutex';
import { reply, type Reply } from '../problem.ts';
import { Database } from './database.ts';
import { migrate } from './migrate.ts';
import { defineModels, type Models } from './models.ts';
import { openSound } from './openSound.ts';

/** One connection that writes, one operation at a time, and another that reads what is committed. */
export class Connections {
  readonly writing: Database;
  readonly reading: Database;
  readonly models: Models;
  /** Whose turn it is to write. */
  readonly turn = new Mutex();

  private constructor(writing: Database, reading: Database) {
    this.writing = writing;
    this.reading = reading;
    this.models = defineModels(writing.sequelize);
  }

  static async open(file: string): Promise<Connections> {
    const writing = await openSound(file);
    await migrate(writing);
    return new Connections(writing, await Database.open(file));
  }

  async close(): Promise<void> {
    await this.turn.runExclusive(async () => {
      await this.reading.close();
      await this.writing.close();
    });
  }

  /** Does some work in a transaction of its own, when its turn comes. */
  write<T>(work: () => Promise<T>): Promise<Reply<T>> {
    return reply(() => this.turn.runExclusive(() => this.writing.transaction(work)));
  }
}
