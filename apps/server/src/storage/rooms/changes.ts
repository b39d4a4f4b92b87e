import type { ChangeAnswer, ChangedDocumentInfo, ChangeInfo } from '@zesty-sieve/contract';
import { reply, type Reply } from '../../problem.ts';
import { changedDocuments, describeChange, findChange, listChanges, OpenChange, undoChange, type ChangeToMake } from '../changeStore.ts';
import type { Collections } from '../collections.ts';
import type { Connections } from '../connections.ts';
import { ask, type Check, type StoredCollection, type TextPut } from '../stored.ts';

/** Changes of many documents, and their undo. */
export class Changes {
  private readonly connections: Connections;
  private readonly stored: Collections;
  private readonly undoBytes: number;

  constructor(connections: Connections, stored: Collections, undoBytes: number) {
    this.connections = connections;
    this.stored = stored;
    this.undoBytes = undoBytes;
  }

  /**
   * Makes a change in one transaction, asking for its documents in parts until there are no more. Other writers wait.
   * @returns what is told of it, so that it can be told again
   */
  makeChange(
    collection: StoredCollection,
    { identities, ...made }: ChangeToMake & { readonly identities: string[] },
    nextPart: () => Promise<readonly TextPut[] | null>,
  ): Promise<Reply<ChangeAnswer>> {
    return this.connections.write(async () => {
      const { writing } = this.connections;
      const change = new OpenChange(writing, collection, this.undoBytes, await this.stored.expectedOf(collection.id));
      await change.begin(made);
      for (let part = await nextPart(); part !== null; part = await nextPart()) await change.push(part);
      const { kept } = await change.finish();
      return { changeId: change.id, matched: made.matched, changed: made.changed, identities, kept };
    });
  }

  changes(collectionId: number | null): Promise<ChangeInfo[]> {
    return listChanges(this.connections.readingScratch, collectionId);
  }

  change(id: string): Promise<Reply<ChangeInfo>> {
    return reply(() => describeChange(this.connections.readingScratch, id));
  }

  changedDocuments(id: string, offset: number, size: number): Promise<Reply<{ documents: ChangedDocumentInfo[]; hasMore: boolean }>> {
    return reply(() => changedDocuments(this.connections.readingScratch, id, offset, size));
  }

  undoChange(id: string, check: Check | null): Promise<Reply<{ puts: TextPut[]; restored: number }>> {
    return this.connections.write(async () => {
      const puts = await undoChange(this.connections.writing, await findChange(this.connections.writing, id));
      await ask(check, puts);
      return { puts, restored: puts.length };
    });
  }
}
