import { UniqueStage, type JsonObject, type StageMode } from '@zesty-sieve/core';
import { reply, type Reply } from '../../problem.ts';
import type { StoredCollection, TextPut } from '../../storage/stored.ts';
import type { EngineRoom } from '../engineRoom.ts';
import { uniqueProblem } from '../indexRequests.ts';

/** Documents that are about to be committed, or have been: asked about unique indexes, then taken over. */
export function documents(room: EngineRoom) {
  const stages = new Map<string, UniqueStage>();

  return {
    /** How far the loading of a collection into memory has come; null where it is not being loaded. */
    loading(name: string): { documents: number; of: number } | null {
      return room.residency.progress.get(name) ?? null;
    },

    /** Whether unique indexes let documents be put; looked at before they are committed. */
    check(stored: StoredCollection, puts: readonly TextPut[]): Promise<Reply<null>> {
      return reply(async () => {
        const collection = await room.residency.ensure(stored);
        const changes = puts.map(({ position, text }) => ({
          position,
          before: collection.store.documents[position],
          after: text === null ? undefined : (JSON.parse(text) as JsonObject),
        }));
        for (const index of collection.indexList) {
          const violation = index.violation(changes);
          if (violation) throw uniqueProblem(violation);
        }
        return null;
      });
    },

    /**
     * The same for a part of an import: for each text, why a unique index refuses it. What was let through before
     * under the same handle counts as taken.
     */
    async refusals(stored: StoredCollection, handle: string, mode: StageMode, texts: readonly string[]): Promise<(string | null)[]> {
      const collection = await room.residency.ensure(stored);
      const stage = stages.get(handle) ?? new UniqueStage(collection.orderedIndexes, mode);
      stages.set(handle, stage);
      return texts.map((text) => {
        const document = parsedOrNull(text);
        if (document === null) return null;
        const { identity, position } = collection.placeOf(document);
        // Whoever is there already is passed over or rejected for its identity, which says more.
        if (mode === 'beside' && position !== undefined) return null;
        return stage.take({ document, identity, position })?.message ?? null;
      });
    },

    endStage(handle: string): void {
      stages.delete(handle);
    },

    /** Takes over committed documents. A collection that is not in memory needs nothing. */
    async apply(stored: StoredCollection, puts: readonly TextPut[]): Promise<void> {
      const parsed = puts.map(({ position, text }) => ({
        position,
        document: text === null ? undefined : (JSON.parse(text) as JsonObject),
      }));
      await room.residency.follow(stored, (collection) => collection.apply(parsed));
    },

    /** Reads committed documents again: those from a position on, and some before it. */
    async refresh(stored: StoredCollection, from: number, to: number, replaced: readonly number[]): Promise<void> {
      await room.residency.follow(stored, async (collection) => {
        const puts: { position: number; document: JsonObject }[] = [];
        const put = (position: number, document: JsonObject) => puts.push({ position, document });
        await room.residency.reader.read(stored, { from, to }, put);
        await room.residency.reader.readAt(
          stored,
          replaced.filter((position) => position < from),
          put,
        );
        await collection.apply(puts);
        room.residency.progress.delete(stored.name);
      });
    },

    forget(stored: Pick<StoredCollection, 'id' | 'name'>): void {
      room.residency.forget(stored);
    },

    /** How many documents of a collection are in memory; null where it is not. */
    countOf(stored: StoredCollection): number | null {
      return room.residency.resident(stored)?.store.count ?? null;
    },

    /** Bytes that collections in memory take. */
    heldBytes(): number {
      return room.residency.heldBytes;
    },
  };
}

function parsedOrNull(text: string): JsonObject | null {
  try {
    const value = JSON.parse(text) as unknown;
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as JsonObject) : null;
  } catch {
    return null;
  }
}
