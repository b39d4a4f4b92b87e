import {
  CannotFollow,
  keepWholeSums,
  rowsToKeep,
  wholeSumsOf,
  type Json,
  type JsonObject,
  type QueryRequest,
  type WholeSum,
} from '@zesty-sieve/core';
import { reply, type Reply } from '../../problem.ts';
import type { RowPut, StoredCollection } from '../../storage/stored.ts';
import { valueOf, type JsonText } from '../answers.ts';
import { cancelledBy } from '../cancelling.ts';
import type { EngineRoom } from '../engineRoom.ts';

/** How the rows of a materialized view are to be worked out. */
export interface RowsToMake {
  readonly name: string;
  /** What a pipeline may read. */
  readonly names: readonly string[];
  readonly asked: QueryRequest;
  readonly follows: boolean;
}

/** Rows that were worked out: the answer of the run that has kept them, and their places where they are followed from now on. */
export interface MadeRows {
  readonly answer: JsonText;
  readonly places: readonly number[] | null;
  readonly unfollowed: string | null;
}

/** Documents may change while rows are worked out; then it is begun once more, so many times. */
const mostTries = 5;

/** @returns undefined where documents changed meanwhile, so that what is followed would not be these rows */
async function makeOnce(
  { engine }: EngineRoom,
  name: string,
  asked: QueryRequest,
  follows: boolean,
  isCancelled: () => boolean,
): Promise<MadeRows | undefined> {
  const { followers } = engine;
  const before = followers.stateOf(name);
  const result = valueOf(await engine.query(asked, isCancelled, rowsToKeep));
  const { runId, rowsReturned, notes, approximate } = result;
  const answer = JSON.stringify({ runId, rowsReturned, notes, approximate });
  if (!follows) return { answer, places: null, unfollowed: null };
  const begun = await followers.begin(name, isCancelled);
  if (followers.stateOf(name) !== before) {
    followers.end(name);
    return undefined;
  }
  if (typeof begun === 'string') return { answer, places: null, unfollowed: begun };
  if (begun.length === result.rowsReturned) return { answer, places: begun, unfollowed: null };
  followers.end(name);
  return { answer, places: null, unfollowed: 'its rows are not those that were expected' };
}

/** A row as it is stored. */
type KeptText = Omit<RowPut, 'position'>;

function keptText(row: Json | undefined): KeptText {
  if (row === undefined) return { text: null, sums: null };
  const sums = wholeSumsOf(row);
  return { text: JSON.stringify(row), sums: sums === undefined ? null : JSON.stringify(sums) };
}

function rowOf({ text, sums }: RowPut): JsonObject | undefined {
  if (text === null) return undefined;
  const row = JSON.parse(text) as JsonObject;
  if (sums !== null) keepWholeSums(row, JSON.parse(sums) as WholeSum[]);
  return row;
}

/** Rows of materialized views: worked out, and kept up with each change. */
export function following(room: EngineRoom) {
  return {
    makeRows(
      sources: readonly StoredCollection[],
      { name, names, asked, follows }: RowsToMake,
      cancel: SharedArrayBuffer,
    ): Promise<Reply<MadeRows>> {
      return reply(async () => {
        await room.ready(sources, names, asked.pipeline, cancel);
        for (let tries = 1; ; tries++) {
          const made = await makeOnce(room, name, asked, follows, cancelledBy(cancel));
          if (made !== undefined) return made;
          if (tries === mostTries) return (await makeOnce(room, name, asked, false, cancelledBy(cancel)))!;
        }
      });
    },

    /** A piece of the rows of a run that is to be kept. */
    rowsToKeep(runId: string, offset: number, size: number): Promise<Reply<{ rows: KeptText[]; done: boolean }>> {
      return reply(() => {
        const { documents, hasMore } = valueOf(room.engine.rows(runId, offset, size));
        return { rows: documents.map(keptText), done: !hasMore };
      });
    },

    /** What has to be stored so that a view's rows are those that its pipeline gives now; a text of why, where it can follow no longer. */
    catchUp(name: string): readonly RowPut[] | string {
      try {
        const puts = room.engine.followers.catchUp(name);
        return puts.map(({ position, row }) => ({ position, ...keptText(row) }));
      } catch (error) {
        if (error instanceof CannotFollow) return error.message;
        throw error;
      }
    },

    /**
     * Takes following up again over rows that were kept before.
     * @returns why not; null where it does
     */
    resumeFollowing(sources: readonly StoredCollection[], name: string): Promise<Reply<string | null>> {
      return reply(async () => {
        if (!room.residency.fits(sources)) return 'what it reads would push others out of memory';
        await room.residency.ensureAll(sources);
        return (await room.engine.followers.resume(name, () => false)) ?? null;
      });
    },

    endFollowing(name: string): void {
      room.engine.followers.end(name);
    },

    /** Takes over rows that have been stored. @param version of the rows as they are then */
    async applyRows(stored: StoredCollection, puts: readonly RowPut[], version: number): Promise<void> {
      const parsed = puts.map((put) => ({ position: put.position, document: rowOf(put) }));
      const haveSums = puts.every(({ text, sums }) => text === null || sums !== null);
      await room.residency.follow(stored, async (collection) => {
        await collection.apply(parsed);
        collection.keepsSums &&= haveSums;
        collection.storedVersion = version;
      });
    },
  };
}
