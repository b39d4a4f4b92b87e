import { reply, ServerProblem, type Reply } from '../problem.ts';
import { patched, readAll, type PatchKind } from './bodies.ts';
import type { Collections } from './collections.ts';
import type { Connections } from './connections.ts';
import type { Database } from './database.ts';
import { IdentityReader, type ReadyDocument } from './identity.ts';
import { ask, etagOf, type Check, type ReadDocument, type StoredCollection, type TextPut } from './stored.ts';
import { tableOf } from './table.ts';
import { DocumentWriter } from './writer.ts';

/** The documents of collections, one by one or a few at a time. */
export class Documents {
  private readonly connections: Connections;
  private readonly collections: Collections;

  constructor(connections: Connections, collections: Collections) {
    this.connections = connections;
    this.collections = collections;
  }

  /** Adds documents of a JSON text, one or an array: all or none. */
  insert(
    collection: StoredCollection,
    body: Uint8Array,
    check: Check | null,
  ): Promise<Reply<{ identities: string[]; puts: TextPut[]; warnings: string[] }>> {
    return this.connections.write(async () => {
      const documents = readAll(body, new IdentityReader(collection.identity));
      const expected = await this.collections.expectedOf(collection.id);
      for (const { parsed, identity } of documents) expected?.refuse(parsed, identity);
      const nextPosition = await this.collections.nextPosition(collection.id);
      const writer = new DocumentWriter(this.connections.writing, collection.id, nextPosition, 'reject', (_line, identity) => {
        throw new ServerProblem(
          '/duplicate-identity',
          `There is a document ${JSON.stringify(identity)} in ${collection.name} already. Nothing was stored.`,
          { identity },
        );
      });
      for (const document of documents) await writer.add({ ...document, line: 0 });
      await writer.finish();
      const puts = documents.map(({ text }, i): TextPut => ({ position: nextPosition + i, text }));
      await ask(check, puts);
      await this.collections.account(collection.id, writer);
      const warnings = documents.flatMap(({ identity, parsed }) =>
        (expected?.problemsOf(parsed) ?? []).map((problem) => `${identity}: ${problem}`),
      );
      return { identities: documents.map(({ identity }) => identity), puts, warnings: warnings.slice(0, 100) };
    });
  }

  /** Replaces whole documents by identity, adding those that are not there. */
  replace(
    collection: StoredCollection,
    body: Uint8Array,
    only: { identity: string; ifMatch: string | null } | null,
    check: Check | null,
  ): Promise<Reply<{ inserted: number; replaced: number; puts: TextPut[]; etag: string }>> {
    return this.connections.write(async () => {
      const documents = readAll(body, new IdentityReader(collection.identity));
      if (only !== null) await this.expectOne(collection, documents, only);
      const expected = await this.collections.expectedOf(collection.id);
      for (const { parsed, identity } of documents) expected?.refuse(parsed, identity);
      const table = tableOf(collection.id);
      let next = await this.collections.nextPosition(collection.id);
      const puts: TextPut[] = [];
      let replaced = 0;
      let bytes = 0;
      for (const { identity, text } of documents) {
        const before = await this.connections.writing.first<{ position: number; size: number }>(
          `SELECT position, length(body) AS size FROM ${table} WHERE identity = ?`,
          [identity],
        );
        const position = before?.position ?? next++;
        if (before) await this.connections.writing.run(`UPDATE ${table} SET body = ? WHERE position = ?`, [text, position]);
        else
          await this.connections.writing.run(`INSERT INTO ${table} (position, identity, body) VALUES (?, ?, ?)`, [
            position,
            identity,
            text,
          ]);
        replaced += before ? 1 : 0;
        bytes += text.length - (before?.size ?? 0);
        puts.push({ position, text });
      }
      await ask(check, puts);
      const inserted = documents.length - replaced;
      await this.collections.adjust(collection.id, inserted, bytes, next);
      return { inserted, replaced, puts, etag: etagOf(documents[0]?.text ?? '') };
    });
  }

  private async expectOne(
    collection: StoredCollection,
    documents: readonly ReadyDocument[],
    only: { identity: string; ifMatch: string | null },
  ): Promise<void> {
    if (documents.length !== 1) throw new ServerProblem('/document', 'One document is wanted here.');
    if (documents[0]!.identity !== only.identity) {
      throw new ServerProblem(
        '/document',
        `The document’s identity is ${JSON.stringify(documents[0]!.identity)}, and the address names ${JSON.stringify(only.identity)}. An identity is not changed by replacing.`,
      );
    }
    await this.expectMatch(collection, only);
  }

  private async expectMatch(
    collection: StoredCollection,
    { identity, ifMatch }: { identity: string; ifMatch: string | null },
  ): Promise<void> {
    if (ifMatch === null) return;
    const now = await this.bodyOf(this.connections.writing, collection, identity);
    const matches = now !== undefined && (ifMatch.trim() === '*' || ifMatch.split(',').some((tag) => tag.trim() === etagOf(now)));
    if (!matches)
      throw new ServerProblem(
        '/precondition',
        `The document ${JSON.stringify(identity)} has changed since it was read. Read it again, and change that.`,
      );
  }

  /** Changes one document by a JSON Patch (RFC 6902) or a JSON Merge Patch (RFC 7396). */
  patch(
    collection: StoredCollection,
    identity: string,
    { body, kind }: { readonly body: string; readonly kind: PatchKind },
    ifMatch: string | null,
    check: Check | null,
  ): Promise<Reply<{ puts: TextPut[] } & ReadDocument>> {
    return this.connections.write(async () => {
      const text = await this.bodyOf(this.connections.writing, collection, identity);
      if (text === undefined) throw missing(collection, identity);
      await this.expectMatch(collection, { identity, ifMatch });
      const changed = patched(text, body, kind);
      const ready = new IdentityReader(collection.identity).ready(changed);
      if ('problem' in ready) throw new ServerProblem('/document', `The changed document cannot be stored: ${ready.problem}.`);
      (await this.collections.expectedOf(collection.id))?.refuse(ready.parsed, identity);
      if (ready.identity !== identity) throw new ServerProblem('/document', 'A patch may not change the identity of a document.');
      const table = tableOf(collection.id);
      const row = await this.connections.writing.first<{ position: number }>(`SELECT position FROM ${table} WHERE identity = ?`, [
        identity,
      ]);
      const puts: TextPut[] = [{ position: row?.position ?? 0, text: changed }];
      await ask(check, puts);
      await this.connections.writing.run(`UPDATE ${table} SET body = ? WHERE identity = ?`, [changed, identity]);
      await this.collections.adjust(collection.id, 0, changed.length - text.length);
      return { puts, text: changed, etag: etagOf(changed) };
    });
  }

  remove(collection: StoredCollection, identity: string, ifMatch: string | null): Promise<Reply<{ puts: TextPut[] }>> {
    return this.connections.write(async () => {
      const table = tableOf(collection.id);
      const row = await this.connections.writing.first<{ position: number; size: number }>(
        `SELECT position, length(body) AS size FROM ${table} WHERE identity = ?`,
        [identity],
      );
      if (row === undefined) throw missing(collection, identity);
      await this.expectMatch(collection, { identity, ifMatch });
      await this.connections.writing.run(`DELETE FROM ${table} WHERE position = ?`, [row.position]);
      await this.collections.adjust(collection.id, -1, -row.size);
      return { puts: [{ position: row.position, text: null }] };
    });
  }

  read(collection: StoredCollection, identity: string): Promise<Reply<ReadDocument>> {
    return reply(async () => {
      const text = await this.bodyOf(this.connections.readingOf(collection), collection, identity);
      if (text === undefined) throw missing(collection, identity);
      return { text, etag: etagOf(text) };
    });
  }

  /** The texts of many documents, in the order asked for; those that are not there are named. */
  readMany(collection: StoredCollection, identities: readonly string[]): Promise<Reply<{ texts: string[]; missing: string[] }>> {
    return reply(async () => {
      const found = new Map<string, string>();
      for (let i = 0; i < identities.length; i += 500) {
        const part = identities.slice(i, i + 500);
        const rows = await this.connections
          .readingOf(collection)
          .all<{ identity: string; body: string }>(
            `SELECT identity, body FROM ${tableOf(collection.id)} WHERE identity IN (${part.map(() => '?').join(',')})`,
            part,
          );
        for (const { identity, body } of rows) found.set(identity, body);
      }
      return {
        texts: identities.flatMap((identity) => found.get(identity) ?? []),
        missing: identities.filter((identity) => !found.has(identity)),
      };
    });
  }

  /** A page of documents in insertion order, and the position after which the next begins. */
  async page(collection: StoredCollection, after: number, size: number): Promise<{ texts: string[]; last: number | null }> {
    const rows = await this.connections
      .readingOf(collection)
      .all<{ position: number; body: string }>(
        `SELECT position, body FROM ${tableOf(collection.id)} WHERE position > ? ORDER BY position LIMIT ?`,
        [after, size],
      );
    return { texts: rows.map(({ body }) => body), last: rows.length < size ? null : rows[rows.length - 1]!.position };
  }

  private async bodyOf(database: Database, collection: StoredCollection, identity: string): Promise<string | undefined> {
    return (await database.first<{ body: string }>(`SELECT body FROM ${tableOf(collection.id)} WHERE identity = ?`, [identity]))?.body;
  }
}

function missing(collection: StoredCollection, identity: string): ServerProblem {
  return new ServerProblem('/not-found', `There is no document ${JSON.stringify(identity)} in ${collection.name}.`);
}
