import type { OnDuplicate } from '@zesty-sieve/contract';
import type { Database, Prepared } from './database.ts';
import type { ReadyDocument } from './identity.ts';
import { tableOf } from './table.ts';

export interface Written {
  inserted: number;
  skipped: number;
  replaced: number;
  bytes: number;
  /** Positions of documents that stood there before. */
  readonly replacedPositions: number[];
}

interface Waiting extends ReadyDocument {
  readonly line: number;
}

const rowsAtOnce = 400;

/**
 * Writes documents of one collection, several rows a statement, inside a transaction that the caller holds. An
 * identity that is taken is refused, passed over, or has its document replaced in its place.
 */
export class DocumentWriter {
  readonly written: Written = { inserted: 0, skipped: 0, replaced: 0, bytes: 0, replacedPositions: [] };
  nextPosition: number;
  private waiting: Waiting[] = [];
  private full: Prepared | undefined;
  private readonly table: string;
  private readonly database: Database;
  private readonly onDuplicate: OnDuplicate;
  private readonly refuse: (line: number, identity: string) => void;

  constructor(
    database: Database,
    collectionId: number,
    nextPosition: number,
    onDuplicate: OnDuplicate,
    refuse: (line: number, identity: string) => void,
  ) {
    this.database = database;
    this.table = tableOf(collectionId);
    this.nextPosition = nextPosition;
    this.onDuplicate = onDuplicate;
    this.refuse = refuse;
  }

  async add(document: Waiting): Promise<void> {
    this.waiting.push(document);
    if (this.waiting.length === rowsAtOnce) await this.flush();
  }

  async finish(): Promise<void> {
    await this.flush();
    await this.release();
  }

  /** Lets go of what it holds of the connection, whatever came of it. */
  async release(): Promise<void> {
    await this.full?.finish();
    this.full = undefined;
  }

  private async flush(): Promise<void> {
    const batch = this.waiting;
    this.waiting = [];
    if (batch.length === 0) return;
    const first = this.nextPosition;
    this.nextPosition += batch.length;
    const values: unknown[] = [];
    batch.forEach(({ identity, text }, i) => values.push(first + i, identity, text));
    const sql = `INSERT OR IGNORE INTO ${this.table} (position, identity, body) VALUES ${Array(batch.length).fill('(?,?,?)').join(',')}`;
    let added: number;
    if (batch.length === rowsAtOnce) {
      this.full ??= this.database.prepare(sql);
      added = await this.full.run(values);
    } else {
      added = await this.database.run(sql, values);
    }
    const taken = added === batch.length ? undefined : await this.takenOf(batch, first);
    for (let i = 0; i < batch.length; i++) {
      if (taken?.has(i)) await this.duplicate(batch[i]!);
      else {
        this.written.inserted++;
        this.written.bytes += batch[i]!.text.length;
      }
    }
  }

  /** Which documents of a batch were not written, since their identity was taken. */
  private async takenOf(batch: readonly Waiting[], first: number): Promise<Set<number>> {
    const rows = await this.database.all<{ position: number }>(`SELECT position FROM ${this.table} WHERE position >= ?`, [first]);
    const present = new Set(rows.map(({ position }) => position - first));
    return new Set(batch.map((_, i) => i).filter((i) => !present.has(i)));
  }

  private async duplicate({ line, identity, text }: Waiting): Promise<void> {
    if (this.onDuplicate === 'skip') {
      this.written.skipped++;
    } else if (this.onDuplicate === 'reject') {
      this.refuse(line, identity);
    } else {
      const before = await this.database.first<{ position: number; size: number }>(
        `SELECT position, length(body) AS size FROM ${this.table} WHERE identity = ?`,
        [identity],
      );
      if (before === undefined) return;
      await this.database.run(`UPDATE ${this.table} SET body = ? WHERE position = ?`, [text, before.position]);
      this.written.replaced++;
      this.written.bytes += text.length - before.size;
      this.written.replacedPositions.push(before.position);
    }
  }
}
