import { chmod, rename, rm } from 'node:fs/promises';
import { Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';

export type Row = Record<string, string | number | null>;

/**
 * Where collections lie that are only to be looked at: in the memory of this process, shared by its connections, and
 * gone with it. Whoever writes there locks readers out until the end of the transaction; they wait.
 */
const scratchMemory = `file:/zesty-sieve-scratch-${process.pid}?vfs=memdb`;
const openMode = sqlite3.OPEN_READWRITE | sqlite3.OPEN_CREATE | sqlite3.OPEN_URI;

/**
 * One connection to the database file. Statements on documents go through it as they are, since they are many
 * and large; everything else goes through Sequelize's models.
 */
export class Database {
  readonly sequelize: Sequelize;
  private readonly connection: sqlite3.Database;

  private constructor(sequelize: Sequelize, connection: sqlite3.Database) {
    this.sequelize = sequelize;
    this.connection = connection;
  }

  /** Opens the file, and makes it where it is missing. Writers wait for each other up to half a minute. */
  static async open(file: string): Promise<Database> {
    const sequelize = new Sequelize({
      dialect: 'sqlite',
      storage: file,
      logging: false,
      pool: { max: 1 },
      dialectOptions: { mode: openMode },
    });
    const connection = (await sequelize.connectionManager.getConnection({ type: 'write' })) as unknown as sqlite3.Database;
    const database = new Database(sequelize, connection);
    for (const pragma of [
      'journal_mode = WAL',
      'synchronous = FULL',
      'foreign_keys = ON',
      'busy_timeout = 30000',
      'cache_size = -65536',
      'temp_store = MEMORY',
    ]) {
      await database.run(`PRAGMA ${pragma}`);
    }
    await database.run('ATTACH DATABASE ? AS scratch', [scratchMemory]);
    return database;
  }

  /** Runs a statement; gives how many rows it changed. */
  run(sql: string, values: readonly unknown[] = []): Promise<number> {
    return new Promise((resolve, reject) => {
      this.connection.run(sql, values, function (error) {
        if (error) reject(error);
        else resolve(this.changes);
      });
    });
  }

  all<R extends Row = Row>(sql: string, values: readonly unknown[] = []): Promise<R[]> {
    return new Promise((resolve, reject) => {
      this.connection.all(sql, values, (error, rows) => (error ? reject(error) : resolve(rows as R[])));
    });
  }

  async first<R extends Row = Row>(sql: string, values: readonly unknown[] = []): Promise<R | undefined> {
    return (await this.all<R>(sql, values))[0];
  }

  /** The row of a question that always has one, as a count does. */
  async only<R extends Row = Row>(sql: string, values: readonly unknown[] = []): Promise<R> {
    const row = await this.first<R>(sql, values);
    if (row === undefined) throw new Error(`there is no row for ${sql}`);
    return row;
  }

  /** A statement that is used many times. */
  prepare(sql: string): Prepared {
    return new Prepared(this.connection.prepare(sql));
  }

  /** The same, known to be right before it is used: what is asked of one that is wrong is never answered. */
  prepared(sql: string): Promise<Prepared> {
    return new Promise((resolve, reject) => {
      const statement = this.connection.prepare(sql, (error) => (error ? reject(error) : resolve(new Prepared(statement))));
    });
  }

  /**
   * Begins a transaction. It locks what it writes when it first does, not before: an immediate one would lock the
   * scratch collections' readers out too. With one connection that writes, nothing can come in between.
   */
  async begin(): Promise<void> {
    await this.run('BEGIN');
  }

  /** Runs work in one transaction: all of it, or none where it throws. */
  async transaction<T>(work: () => Promise<T>): Promise<T> {
    await this.begin();
    try {
      const result = await work();
      await this.run('COMMIT');
      return result;
    } catch (error) {
      await this.run('ROLLBACK').catch(() => undefined);
      throw error;
    }
  }

  /** Copies the file as it is at one moment into another, which appears under its name when it is whole. Its owner alone may read it. */
  async copyTo(file: string): Promise<void> {
    const part = `${file}.part`;
    await rm(part, { force: true });
    try {
      await this.run('VACUUM main INTO ?', [part]);
      await chmod(part, 0o600);
      await rename(part, file);
    } finally {
      await rm(part, { force: true });
    }
  }

  async close(): Promise<void> {
    await new Promise<void>((resolve, reject) => this.connection.close((error) => (error ? reject(error) : resolve())));
  }
}

export class Prepared {
  private readonly statement: sqlite3.Statement;
  constructor(statement: sqlite3.Statement) {
    this.statement = statement;
  }

  run(values: readonly unknown[]): Promise<number> {
    return new Promise((resolve, reject) => {
      this.statement.run(values, function (error) {
        if (error) reject(error);
        else resolve(this.changes);
      });
    });
  }

  /** Begins at once, on a thread of its own, whatever is done here meanwhile; what is not prepared waits for this one first. */
  all<R>(values: readonly unknown[]): Promise<R[]> {
    return new Promise((resolve, reject) => {
      this.statement.all(values, (error, rows) => (error ? reject(error) : resolve(rows as R[])));
    });
  }

  finish(): Promise<void> {
    return new Promise((resolve) => this.statement.finalize(() => resolve()));
  }
}
