import type { ImportOptions, ImportPreview, ImportProgress, ImportResult } from '@zesty-sieve/contract';
import { previewImport } from '../formats/preview.ts';
import { reply, ServerProblem, type Reply } from '../problem.ts';
import type { Collections } from './collections.ts';
import type { Connections } from './connections.ts';
import { IdentityReader } from './identity.ts';
import { Importer, type ImportFormat, type Refusals } from './importer.ts';
import type { StoredCollection } from './stored.ts';
import { tableOf } from './table.ts';
import { DocumentWriter } from './writer.ts';

interface OpenImport {
  readonly importer: Importer;
  readonly writer: DocumentWriter;
  readonly collectionId: number;
  readonly release: () => void;
}

/** Files that are being loaded. */
export class Imports {
  private readonly connections: Connections;
  private readonly collections: Collections;
  private readonly open = new Map<number, OpenImport>();
  private nextHandle = 1;

  constructor(connections: Connections, collections: Collections) {
    this.connections = connections;
    this.collections = collections;
  }

  /** Begins an import: one transaction until it is finished or given up. Other writers wait. */
  begin(
    collection: StoredCollection,
    format: ImportFormat,
    zipped: boolean,
    options: ImportOptions,
    refusals: Refusals | null,
    clearsFirst = false,
  ): Promise<Reply<number>> {
    return reply(async () => {
      const release = await this.connections.turn.acquire();
      try {
        const identity = new IdentityReader(collection.identity);
        const nextPosition = await this.collections.nextPosition(collection.id);
        await this.connections.writing.begin();
        if (clearsFirst) {
          await this.connections.writing.run(`DELETE FROM ${tableOf(collection.id)}`);
          await this.connections.models.collections.update({ count: 0, bytes: 0 }, { where: { id: collection.id } });
        }
        const refuse = (line: number, taken: string) => importer.reject(line, `the identity ${JSON.stringify(taken)} is taken`);
        const writer = new DocumentWriter(this.connections.writing, collection.id, nextPosition, options.onDuplicate, refuse);
        const expected = await this.collections.expectedOf(collection.id);
        const importer = new Importer(identity, writer, format, zipped, options, refusals ?? undefined, expected);
        const handle = this.nextHandle++;
        this.open.set(handle, { importer, writer, collectionId: collection.id, release });
        return handle;
      } catch (error) {
        release();
        throw error;
      }
    });
  }

  preview(
    bytes: Uint8Array,
    isWhole: boolean,
    zipped: boolean,
    format: ImportFormat,
    options: ImportOptions,
  ): Promise<Reply<ImportPreview>> {
    return reply(() => previewImport(bytes, isWhole, zipped, format, options));
  }

  push(handle: number, bytes: Uint8Array): Promise<Reply<ImportProgress>> {
    return reply(async () => {
      const { importer } = this.openAt(handle);
      await importer.push(bytes);
      return { ...importer.progress };
    });
  }

  /** Commits an import. */
  finish(
    handle: number,
    /** Whether one line that is rejected makes all of it void. */
    isStrict = false,
  ): Promise<Reply<{ result: ImportResult; firstPosition: number; nextPosition: number; replacedPositions: number[] }>> {
    return reply(async () => {
      const open = this.openAt(handle);
      const { importer, writer, collectionId } = open;
      const firstPosition = await this.collections.nextPosition(collectionId);
      const result = await importer.end();
      const [rejected] = result.rejected;
      if (isStrict && rejected !== undefined)
        throw new ServerProblem(
          rejected.reason.includes('unique index') ? '/unique' : '/duplicate-identity',
          `Row ${rejected.line} cannot be stored: ${rejected.reason.replace(/\.$/, '')}. Nothing was stored.`,
        );
      await this.collections.account(collectionId, writer);
      await this.connections.writing.run('COMMIT');
      this.open.delete(handle);
      open.release();
      return { result, firstPosition, nextPosition: writer.nextPosition, replacedPositions: writer.written.replacedPositions };
    });
  }

  /** Gives an import up: nothing of it stays. */
  async abandon(handle: number): Promise<void> {
    const open = this.open.get(handle);
    if (open === undefined) return;
    this.open.delete(handle);
    await open.writer.finish().catch(() => undefined);
    await this.connections.writing.run('ROLLBACK').catch(() => undefined);
    open.release();
  }

  private openAt(handle: number): OpenImport {
    const open = this.open.get(handle);
    if (open === undefined) throw new ServerProblem('/internal', 'This import has ended.');
    return open;
  }
}
