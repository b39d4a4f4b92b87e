import { checkPipeline, type ChangeRequest, type ChangedDocument, usualSurface } from '@zesty-sieve/core';
import { v7 as uuidv7 } from 'uuid';
import { reply, ServerProblem, type Reply } from '../../problem.ts';
import type { StoredCollection, TextPut } from '../../storage/stored.ts';
import { problemOf, valueOf, type JsonText } from '../answers.ts';
import { cancelledBy } from '../cancelling.ts';
import type { EngineRoom } from '../engineRoom.ts';
import { uniqueProblem } from '../indexRequests.ts';

/** Changes of many documents: previewed, worked out, and taken over once they are committed. */
export function manyChanges(room: EngineRoom) {
  const changes = new Map<string, { changed: readonly ChangedDocument[] }>();
  const openChange = (handle: string) => {
    const open = changes.get(handle);
    if (open === undefined) throw new ServerProblem('/restarted', 'The engine was restarted. Nothing was changed.');
    return open;
  };
  const ensureFor = async (stored: StoredCollection | null, names: readonly string[], text: string): Promise<void> => {
    if (stored !== null) {
      await room.residency.ensure(stored);
      return;
    }
    const { diagnostics } = checkPipeline(usualSurface.parse(text), { collections: names, purpose: 'change' });
    throw problemOf({ kind: 'pipeline', message: diagnostics[0]?.message ?? 'The change names no collection.', diagnostics });
  };

  return {
    previewChange(
      sources: readonly StoredCollection[],
      names: readonly string[],
      request: ChangeRequest & { offset: number; size: number },
      undoBytes: number,
      cancel: SharedArrayBuffer,
    ): Promise<Reply<JsonText>> {
      return reply(async () => {
        await ensureFor(sources[0] ?? null, names, request.change);
        const preview = valueOf(await room.engine.previewChange(request, cancelledBy(cancel)));
        return JSON.stringify({ ...preview, plan: preview.plan, weighed: preview.weighed, keeps: preview.bytes <= undoBytes });
      });
    },

    /** Works a change out and keeps it until it is ended. Unique indexes are asked about all of it at once. */
    beginChange(
      sources: readonly StoredCollection[],
      names: readonly string[],
      request: ChangeRequest,
      cancel: SharedArrayBuffer,
    ): Promise<Reply<{ handle: string; matched: number; identities: string[] }>> {
      return reply(async () => {
        await ensureFor(sources[0] ?? null, names, request.change);
        const { collection, matched, changed } = valueOf(await room.engine.computeChange(request, cancelledBy(cancel)));
        for (const index of collection.indexList) {
          const violation = index.violation(changed);
          if (violation) throw uniqueProblem(violation);
        }
        const handle = uuidv7();
        changes.set(handle, { changed });
        return { handle, matched, identities: changed.map(({ identity }) => identity) };
      });
    },

    /** A part of a change as texts to be stored; none after its end. */
    changePart(handle: string, offset: number, size: number): TextPut[] | null {
      const { changed } = openChange(handle);
      if (offset >= changed.length) return null;
      return changed
        .slice(offset, offset + size)
        .map(({ position, after }) => ({ position, text: after === undefined ? null : JSON.stringify(after) }));
    },

    /** Takes a committed change over. */
    async applyChange(stored: StoredCollection, handle: string): Promise<void> {
      const { changed } = openChange(handle);
      const puts = changed.map(({ position, after }) => ({ position, document: after }));
      await room.residency.follow(stored, (collection) => collection.apply(puts));
    },

    endChange(handle: string): void {
      changes.delete(handle);
    },
  };
}
