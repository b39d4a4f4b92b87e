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
  /** The rows that are being written, while further ones are read: one batch at a time. */
  private underway: Promise<void> = Promise.resolve();
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

  /** Takes a document in. @returns what is to be waited for before the next one, where there is anything */
  add(document: Waiting): Promise<void> | undefined {
    this.waiting.push(document);
    return this.waiting.length < rowsAtOnce ? undefined : this.begin();
  }

  async finish(): Promise<void> {
    await this.begin();
    await this.underway;
    await this.release();
  }

  /** Lets go of what it holds of the connection, whatever came of it. */
  async release(): Promise<void> {
    await this.underway.catch(() => undefined);
    await this.full?.finish();
    this.full = undefined;
  }

  /** Begins to write what waits, once what is underway has been written. @throws where that could not be */
  private async begin(): Promise<void> {
    await this.underway;
    this.underway = this.flush();
    // Whoever waits for it next is told.
    this.underway.catch(() => undefined);
  }

  /** Inserts so many rows, whose positions follow from the first, which is given once: what is bound takes longer than SQLite does. */
  private insertOf(count: number): string {
    const places = Array.from({ length: count }, (_, i) => `(?1 + ${i},?,?)`).join(',');
    return `INSERT OR IGNORE INTO ${this.table} (position, identity, body) VALUES ${places}`;
  }

  private async flush(): Promise<void> {
    const batch = this.waiting;
    this.waiting = [];
    if (batch.length === 0) return;
    const first = this.nextPosition;
    this.nextPosition += batch.length;
    const values: unknown[] = [first];
    for (const { identity, text } of batch) values.push(identity, text);
    let added: number;
    if (batch.length === rowsAtOnce) {
      this.full ??= this.database.prepare(this.insertOf(rowsAtOnce));
      added = await this.full.run(values);
    } else {
      added = await this.database.run(this.insertOf(batch.length), values);
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
