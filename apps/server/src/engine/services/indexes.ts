import {
  keyTexts,
  estimateIndex,
  kindOf,
  measureRecall,
  printExpression,
  type BuiltIndex,
  type Collection,
  type IndexRequest,
  type KeptRecall,
  type RecallAsked,
} from '@zesty-sieve/core';
import type { Advice, IndexBuild, IndexInfo, WhatIfAnswer } from '@zesty-sieve/contract';
import { reply, ServerProblem, type Reply } from '../../problem.ts';
import type { StoredCollection } from '../../storage/stored.ts';
import { adviseOnHistory, servedByWhatIf, usersOf } from '../advising.ts';
import type { AskedBefore } from '../../told/askedBefore.ts';
import type { JsonText } from '../answers.ts';
import { cancelledBy } from '../cancelling.ts';
import { pause, type EngineRoom } from '../engineRoom.ts';
import { IndexBuilds } from '../indexBuilds.ts';
import { definitionOf } from '../indexRequests.ts';

/** An index as the engine knows it: how often it was used is kept elsewhere. */
type Known<I> = I extends IndexInfo ? Omit<I, 'uses' | 'lastUsedAt'> : never;
/** An index as it is, before what is known of its uses. */
type KnownIndex = Known<IndexInfo>;

/** Indexes: listed, built, dropped, and advised from what has been asked. */
export function indexes(room: EngineRoom) {
  const builds = new IndexBuilds(pause);

  return {
    async indexes(stored: StoredCollection): Promise<Reply<KnownIndex[]>> {
      return reply(async () => {
        const collection = await room.residency.ensure(stored);
        const known = new Map(stored.indexes.map((index) => [index.name, index]));
        return collection.indexList.map((index) => infoOf(index, known.get(index.definition.name)));
      });
    },

    /** Builds an index; it is used from then on. */
    createIndex(stored: StoredCollection, request: IndexRequest): Promise<Reply<KnownIndex & { definition: string }>> {
      return reply(async () => {
        const { index, definition, ...kept } = await builds.build(stored.name, request, () => room.residency.ensure(stored));
        return { ...infoOf(index, kept), definition };
      });
    },

    buildsOf(name: string): IndexBuild[] {
      return builds.list(name);
    },

    cancelBuild(name: string, index: string): boolean {
      return builds.cancel(name, index);
    },

    indexSummary(stored: StoredCollection, name: string): Promise<Reply<JsonText>> {
      return reply(async () => {
        const index = existing(await room.residency.ensure(stored), name);
        const { kind } = index.definition;
        return JSON.stringify({ kind, ...kindOf(index.definition).summary(index) });
      });
    },

    /** Measures how many of the true best an index finds for an effort. */
    measureRecall(
      stored: StoredCollection,
      name: string,
      asked: RecallAsked,
      cancel: SharedArrayBuffer,
      onProgress: (progress: { readonly share: number }) => unknown,
    ): Promise<Reply<KeptRecall>> {
      return reply(async () => {
        const collection = await room.residency.ensure(stored);
        const kind = existing(collection, name).definition.kind;
        const watched = { pause, isCancelled: cancelledBy(cancel), onProgress: (share: number) => void onProgress({ share }) };
        const measured = await measureRecall(collection, name, { ...asked, at: new Date().toISOString() }, watched);
        if (measured === undefined) throw new ServerProblem('/cancelled', 'The measurement was cancelled.');
        if (measured !== null) return measured;
        throw new ServerProblem(
          '/recall',
          kind === 'vector'
            ? `The index ${name} has no vectors to ask for. Check that its path leads to arrays of numbers of one length.`
            : `The index ${name} always gives the true best, so that there is nothing to measure. Indexes of vectors may leave some out.`,
        );
      });
    },

    dropIndex(stored: StoredCollection, index: string): Promise<void> {
      return room.residency.follow(stored, (collection) => void collection.dropIndex(index));
    },

    /** Who would read more without an index, of those that have been asked and those that are saved. */
    indexUsers(
      stored: StoredCollection,
      index: string,
      sources: readonly StoredCollection[],
      asked: readonly AskedBefore[],
    ): Promise<Reply<JsonText>> {
      return reply(async () => {
        await room.residency.ensureAll([stored, ...sources]);
        return JSON.stringify({ users: await usersOf(room.engine, stored.name, index, asked, pause) });
      });
    },

    advise(sources: readonly StoredCollection[], asked: readonly AskedBefore[]): Promise<Reply<Advice['build']>> {
      return reply(async () => {
        await room.residency.ensureAll(sources);
        return adviseOnHistory(room.engine, asked, pause);
      });
    },

    whatIf(
      sources: readonly StoredCollection[],
      indexes: readonly (IndexRequest & { readonly collection: string })[],
      asked: readonly AskedBefore[],
    ): Promise<Reply<Pick<WhatIfAnswer, 'serves' | 'costs'>>> {
      return reply(async () => {
        await room.residency.ensureAll(sources);
        const definitions = indexes.map(definitionOf);
        const serves = await servedByWhatIf(room.engine, { whatIf: indexes }, asked, pause);
        const costs: WhatIfAnswer['costs'] = [];
        for (const [at, definition] of definitions.entries()) {
          const collection = room.engine.collections.get(indexes[at]!.collection);
          if (collection !== undefined) costs.push(await estimateIndex(collection, definition, pause));
        }
        return { serves, costs };
      });
    },
  };
}

function existing(collection: Collection, name: string): BuiltIndex {
  const index = collection.index(name);
  if (index === undefined) throw new ServerProblem('/not-found', `${collection.name} has no index ${name}.`);
  return index;
}

function infoOf(
  { definition, entries, bytes, recall }: BuiltIndex,
  stored: { createdAt: string; buildMs: number | null } | undefined,
): KnownIndex {
  const told = {
    name: definition.name,
    keys: keyTexts(definition),
    where: definition.where === undefined ? null : printExpression(definition.where),
    entries,
    bytes,
    createdAt: stored?.createdAt ?? null,
    buildMs: stored?.buildMs ?? null,
  };
  switch (definition.kind) {
    case 'ordered':
      return { ...told, kind: 'ordered', unique: definition.unique || stored === undefined };
    case 'vector':
      return { ...told, kind: 'vector', ...definition.vector!, recall: recall ?? null };
    case 'place':
      return { ...told, kind: 'place' };
    case 'text':
      return { ...told, kind: 'text', language: definition.language ?? null };
  }
}
