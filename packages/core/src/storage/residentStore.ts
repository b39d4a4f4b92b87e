import type { JsonObject } from '../values/json.ts';
import type { DocumentStore } from './store.ts';

/** A change of one document, by position. `before` or `after` is undefined where it was added or removed. */
export interface DocumentChange {
  readonly position: number;
  readonly before: JsonObject | undefined;
  readonly after: JsonObject | undefined;
}

/** Parsed documents in memory, in insertion order. */
export class ResidentStore implements DocumentStore {
  readonly documents: (JsonObject | undefined)[] = [];
  count = 0;
  version = 0;

  /** Puts a document at a position: adds, replaces or, with undefined, removes it. */
  put(position: number, document: JsonObject | undefined): DocumentChange {
    while (this.documents.length < position) this.documents.push(undefined);
    const before = this.documents[position];
    this.documents[position] = document;
    this.count += Number(document !== undefined) - Number(before !== undefined);
    this.version++;
    return { position, before, after: document };
  }

  clear(): void {
    this.documents.length = 0;
    this.count = 0;
    this.version++;
  }
}
