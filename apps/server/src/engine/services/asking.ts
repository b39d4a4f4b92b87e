import {
  checkPipeline,
  fieldTree,
  Telling,
  withViewShapes,
  type Answer,
  type FieldTree,
  type PlanRequest,
  type OriginsRequest,
  type QueryRequest,
  type QueryResult,
  type Result,
  type View,
  usualSurface,
} from '@zesty-sieve/core';
import { v7 as uuidv7 } from 'uuid';
import { reply, ServerProblem, type Reply } from '../../problem.ts';
import type { RunToKeep } from '../../storage/runStore.ts';
import type { StoredCollection } from '../../storage/stored.ts';
import { problemOf, valueOf, type JsonText } from '../answers.ts';
import { cancelledBy } from '../cancelling.ts';
import { pause, type EngineRoom } from '../engineRoom.ts';
import { isKept, recordOf } from '../runRecord.ts';

/** An answer, and the run that is to be kept of it. */
export interface Recorded {
  readonly answer: Reply<JsonText>;
  /** Materialized views that it read, each with the documents that need not be read since it answered unasked. */
  readonly read: readonly (readonly [view: string, documents: number])[];
  readonly kept: RunToKeep | null;
}

export async function recorded(
  work: (keep: (run: RunToKeep) => void, readOf: (views: Recorded['read']) => void) => Promise<JsonText>,
): Promise<Recorded> {
  let kept: RunToKeep | null = null;
  let read: Recorded['read'] = [];
  const answer = await reply(() =>
    work(
      (run) => (kept = run),
      (views) => (read = views),
    ),
  );
  return { answer, kept, read };
}

/** Runs a question; what it did is to be kept even where a guard ended it. */
export async function runRecorded(
  room: EngineRoom,
  sources: readonly StoredCollection[],
  request: QueryRequest,
  cancel: SharedArrayBuffer,
  keep: (run: RunToKeep) => void,
): Promise<Answer<Result>> {
  const result = await room.engine.query(request, cancelledBy(cancel));
  const told = result.ok ? result.value : 'explained' in result.problem ? { ...result.problem.explained, cost: result.problem.cost } : null;
  const stopped = result.ok ? null : problemOf(result.problem).problem;
  if (told !== null && isKept(request)) keep(recordOf(result.ok ? result.value.runId : uuidv7(), request, sources, told as never, stopped));
  return result;
}

/** Each view that was read; one that is none of the sources has answered in the place of the first of them. */
export function viewsRead({ sources: read, cost }: QueryResult, sources: readonly StoredCollection[]): Recorded['read'] {
  const [first] = sources;
  return read.map(({ view }) => {
    const isUnasked = first !== undefined && !sources.some(({ name }) => name === view);
    return [view, isUnasked ? Math.max(0, first.count - cost.documentsRead) : 0] as const;
  });
}

/** Questions: run, planned, counted by condition, traced, compared, checked. */
export function asking(room: EngineRoom) {
  /** Runs a question on collections that are seen to be in memory first. `names` are those that a pipeline may read. */
  const about = (
    sources: readonly StoredCollection[],
    names: readonly string[],
    pipeline: string,
    work: () => Promise<Answer<object>>,
    cancel?: SharedArrayBuffer,
  ): Promise<Reply<JsonText>> =>
    reply(async () => {
      await room.ready(sources, names, pipeline, cancel);
      return JSON.stringify(valueOf(await work()));
    });

  return {
    /** Runs a pipeline on a collection; `cancel` is a shared flag, not zero when the run is to end. */
    async query(
      sources: readonly StoredCollection[],
      names: readonly string[],
      request: QueryRequest,
      cancel: SharedArrayBuffer,
    ): Promise<Recorded> {
      return recorded(async (keep, readOf) => {
        await room.ready(sources, names, request.pipeline, cancel);
        const value = valueOf(await runRecorded(room, sources, request, cancel, keep));
        readOf(viewsRead(value, sources));
        return JSON.stringify(value);
      });
    },

    plan(sources: readonly StoredCollection[], names: readonly string[], request: PlanRequest): Promise<Reply<JsonText>> {
      return about(sources, names, request.pipeline, async () => {
        const { engine } = room;
        const answer = engine.plan(request);
        if (!answer.ok || !('plan' in answer.value)) return answer;
        const told = answer.value instanceof Telling ? answer.value.toJSON() : answer.value;
        return { ok: true, value: { ...told, ...(await engine.keeping.follows(request)) } };
      });
    },

    /** The loops that a pipeline would be run as, as `{text}`. */
    loop(sources: readonly StoredCollection[], names: readonly string[], request: PlanRequest): Promise<Reply<JsonText>> {
      return about(sources, names, request.pipeline, async () => {
        const answer = room.engine.loops(request);
        return answer.ok ? { ok: true, value: { text: answer.value } } : answer;
      });
    },

    counts(
      sources: readonly StoredCollection[],
      names: readonly string[],
      request: QueryRequest & { line: number; conditions: readonly string[] },
      cancel: SharedArrayBuffer,
    ): Promise<Reply<JsonText>> {
      const { line, conditions, ...query } = request;
      return about(
        sources,
        names,
        request.pipeline,
        () => room.engine.countConditions(query, line, conditions, cancelledBy(cancel)),
        cancel,
      );
    },

    trace(
      sources: readonly StoredCollection[],
      names: readonly string[],
      { identity, ...query }: QueryRequest & { identity: string },
      cancel: SharedArrayBuffer,
    ): Promise<Reply<JsonText>> {
      return about(sources, names, query.pipeline, () => room.engine.trace(query, identity, cancelledBy(cancel)), cancel);
    },

    origins(
      sources: readonly StoredCollection[],
      names: readonly string[],
      request: OriginsRequest,
      cancel: SharedArrayBuffer,
    ): Promise<Reply<JsonText>> {
      return about(sources, names, request.pipeline, () => room.engine.origins(request, cancelledBy(cancel)), cancel);
    },

    compare(
      first: { sources: readonly StoredCollection[]; query: QueryRequest },
      second: { sources: readonly StoredCollection[]; query: QueryRequest },
      names: readonly string[],
      cancel: SharedArrayBuffer,
    ): Promise<Reply<JsonText>> {
      return about(first.sources, names, first.query.pipeline, async () => {
        const both = await about(second.sources, names, second.query.pipeline, async () => ({ ok: true, value: {} }));
        if ('problem' in both) throw Object.assign(new ServerProblem('/pipeline', both.problem.detail ?? ''), { problem: both.problem });
        return room.engine.compare(first.query, second.query, cancelledBy(cancel));
      });
    },

    parse(
      sources: readonly StoredCollection[],
      names: readonly string[],
      views: readonly (readonly [string, View])[],
      text: string,
    ): Promise<Reply<JsonText>> {
      return reply(async () => {
        const pipeline = usualSurface.parse(text);
        const shapes = new Map<string, FieldTree>();
        for (const stored of sources) shapes.set(stored.name, fieldTree(await (await room.residency.ensure(stored)).shape(pause)));
        const { diagnostics } = checkPipeline(pipeline, {
          collections: names,
          shapeOf: withViewShapes((name) => shapes.get(name), new Map(views)),
        });
        return JSON.stringify({ diagnostics, canonical: usualSurface.format(pipeline), tree: pipeline.stages });
      });
    },
  };
}
