import { createRequire } from 'node:module';
import type { Database } from 'sqlite3';
import type { Json } from '@zesty-sieve/core';

const sqlite3 = createRequire(__filename)('sqlite3') as typeof import('sqlite3');

/** A database in memory, whose tables hold documents as JSON: `name(id, body)`. */
export class Sqlite {
  private readonly database: Database;

  constructor() {
    this.database = new sqlite3.Database(':memory:');
  }

  all(text: string, values: readonly unknown[] = []): Promise<Record<string, Json>[]> {
    return new Promise((resolve, reject) => {
      this.database.all(text, values, (error, rows) => (error ? reject(error) : resolve(rows as Record<string, Json>[])));
    });
  }

  /** Runs a script of several statements. */
  run(script: string): Promise<void> {
    return new Promise((resolve, reject) => this.database.exec(script, (error) => (error ? reject(error) : resolve())));
  }

  async fill(name: string, documents: readonly Record<string, Json>[]): Promise<void> {
    await this.all('PRAGMA case_sensitive_like = ON');
    await this.all(`CREATE TABLE ${name} (id INTEGER PRIMARY KEY, body TEXT NOT NULL)`);
    for (const document of documents) await this.all(`INSERT INTO ${name} VALUES (?, ?)`, [document['id'], JSON.stringify(document)]);
  }

  close(): Promise<void> {
    return new Promise((resolve) => this.database.close(() => resolve()));
  }
}
