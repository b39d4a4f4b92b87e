import type { IndexInfo } from '@zesty-sieve/contract';
import type { KeptRecall } from '@zesty-sieve/core';
import type { Reply } from '../../problem.ts';
import type { Connections } from '../connections.ts';
import type { StoredIndex } from '../stored.ts';

/** Which indexes there are; the engine builds them. */
export class Indexes {
  private readonly connections: Connections;

  constructor(connections: Connections) {
    this.connections = connections;
  }

  /** @returns what is told of it, so that it can be told again */
  addIndex(collectionId: number, index: Omit<StoredIndex, 'recall'>, told: IndexInfo): Promise<Reply<IndexInfo>> {
    return this.connections.write(async () => {
      await this.connections.models.indexes.create({ collectionId, ...index });
      return told;
    });
  }

  /** Keeps what was measured of an index, in place of what was before. */
  keepRecall(collectionId: number, name: string, recall: KeptRecall): Promise<Reply<null>> {
    return this.connections.write(async () => {
      await this.connections.writing.run('UPDATE indexes SET recall = ? WHERE collectionId = ? AND name = ?', [
        JSON.stringify(recall),
        collectionId,
        name,
      ]);
      return null;
    });
  }

  removeIndex(collectionId: number, name: string): Promise<Reply<null>> {
    return this.connections.write(async () => {
      await this.connections.writing.run('DELETE FROM indexes WHERE collectionId = ? AND name = ?', [collectionId, name]);
      await this.connections.writing.run('DELETE FROM indexUse WHERE collectionId = ? AND name = ?', [collectionId, name]);
      return null;
    });
  }
}
