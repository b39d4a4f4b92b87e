import { createReadStream } from 'node:fs';
import type { ImportOptions, ImportPreview, ImportProgress, ImportResult } from '@zesty-sieve/contract';
import { previewImport } from '../formats/preview.ts';
import { reply, ServerProblem, type Reply } from '../problem.ts';
import type { Collections } from './collections.ts';
import type { Connections } from './connections.ts';
import { IdentityReader } from './identity.ts';
import type { ImportFormat } from '../formats/readerFor.ts';
import { Importer, type Refusals } from './importer.ts';
import type { StoredCollection } from './stored.ts';
import { tableOf } from './table.ts';
import { DocumentWriter } from './writer.ts';

export interface ImportHow {
  readonly format: ImportFormat;
  readonly zipped: boolean;
  readonly options: ImportOptions;
  /** Whether what is there goes first. */
  readonly clearsFirst: boolean;
  /** Whether one line that is rejected makes all of it void. */
  readonly isStrict: boolean;
}

export interface Imported {
  readonly result: ImportResult;
  readonly firstPosition: number;
  readonly nextPosition: number;
  /** Positions of documents that stood there before. */
  readonly replacedPositions: number[];
}

/** Where an import comes from: a file that lies aside, or pieces that are asked for until there are no more. */
export type ImportSource = string | (() => Promise<Uint8Array | null>);

/** Gzip may hold a thousand times what it takes: in small pieces what comes out of one stays small. */
const pieceBytes = { plain: 1024 * 1024, zipped: 16 * 1024 };
const toldEveryMs = 150;

/** Loads files and the like. */
export class Imports {
  private readonly connections: Connections;
  private readonly collections: Collections;

  constructor(connections: Connections, collections: Collections) {
    this.connections = connections;
    this.collections = collections;
  }

  previewImport(
    bytes: Uint8Array,
    isWhole: boolean,
    zipped: boolean,
    format: ImportFormat,
    options: ImportOptions,
  ): Promise<Reply<ImportPreview>> {
    return reply(() => previewImport(bytes, isWhole, zipped, format, options));
  }

  /** Loads all of it in one transaction: read, checked and written in steps, so that it may be large. */
  load(
    collection: StoredCollection,
    source: ImportSource,
    { cancel, ...how }: ImportHow & { readonly cancel: SharedArrayBuffer },
    refusals: Refusals | null,
    tell: (progress: ImportProgress) => unknown,
  ): Promise<Reply<Imported>> {
    const flag = new Int32Array(cancel);
    return this.connections.write(async () => {
      const { zipped, options } = how;
      const { writing } = this.connections;
      const firstPosition = await this.collections.nextPosition(collection.id);
      if (how.clearsFirst) {
        await writing.run(`DELETE FROM ${tableOf(collection.id)}`);
        await this.connections.models.collections.update({ count: 0, bytes: 0 }, { where: { id: collection.id } });
      }
      const refuse = (line: number, taken: string) => importer.reject(line, `the identity ${JSON.stringify(taken)} is taken`);
      const writer = new DocumentWriter(writing, collection.id, firstPosition, options.onDuplicate, refuse);
      const expected = await this.collections.expectedOf(collection.id);
      const identity = new IdentityReader(collection.identity);
      const importer = new Importer(how, identity, writer, { refusals: refusals ?? undefined, expected });
      let told = 0;
      try {
        for await (const piece of piecesOf(source, zipped)) {
          if (Atomics.load(flag, 0) !== 0) throw new ServerProblem('/cancelled', 'The import was cancelled. Nothing was stored.');
          await importer.push(piece);
          if (Date.now() - told < toldEveryMs) continue;
          told = Date.now();
          await tell({ ...importer.progress });
        }
        const result = await importer.end();
        if (how.isStrict) expectAll(result);
        await this.collections.account(collection.id, writer);
        return { result, firstPosition, nextPosition: writer.nextPosition, replacedPositions: writer.written.replacedPositions };
      } finally {
        await writer.release();
      }
    });
  }
}

async function* piecesOf(source: ImportSource, zipped: boolean): AsyncIterable<Uint8Array> {
  if (typeof source === 'string') {
    yield* createReadStream(source, { highWaterMark: zipped ? pieceBytes.zipped : pieceBytes.plain }) as AsyncIterable<Uint8Array>;
    return;
  }
  for (let piece = await source(); piece !== null; piece = await source()) yield piece;
}

/** @throws ServerProblem that names the first row that was rejected */
function expectAll({ rejected: [rejected] }: ImportResult): void {
  if (rejected === undefined) return;
  throw new ServerProblem(
    rejected.reason.includes('unique index') ? '/unique' : '/duplicate-identity',
    `Row ${rejected.line} cannot be stored: ${rejected.reason.replace(/\.$/, '')}. Nothing was stored.`,
  );
}
