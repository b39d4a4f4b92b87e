import { defaultGuards } from '../execution/guards.ts';
import { Run, type Wanted } from '../execution/run.ts';
import { milliseconds } from '../values/clock.ts';
import type { Collection } from './collection.ts';
import { existing } from './existing.ts';
import type { EngineHost } from './host.ts';
import type { Finished, Prepared } from './prepared.ts';
import type { Preparer } from './preparer.ts';
import { answered, refused, sliceMs, type Answer, type QueryRequest } from './requests.ts';
import type { DefinitionOf } from './stepWords.ts';
import { problemOf } from './telling.ts';

/** Runs pipelines to their end, letting others work between slices. */
export class Runner {
  readonly preparer: Preparer;
  private readonly host: EngineHost;
  private readonly definitionOf: DefinitionOf;

  constructor(preparer: Preparer, host: EngineHost, definitionOf: DefinitionOf) {
    this.preparer = preparer;
    this.host = host;
    this.definitionOf = definitionOf;
  }

  /** The same over the documents that kept rows are made of. @param more collections that may be put beside those that there are */
  through(more?: Map<string, Collection>): Runner {
    return new Runner(this.preparer.through(more), this.host, this.definitionOf);
  }

  now(): string {
    return this.host.now().toISOString();
  }

  async toEnd(request: QueryRequest, isCancelled: () => boolean, wanted?: Wanted): Promise<Answer<Finished>> {
    const prepared = this.preparer.prepare(request);
    return prepared.ok ? this.prepared(prepared.value, request, isCancelled, wanted) : prepared;
  }

  prepared(prepared: Prepared, request: QueryRequest, isCancelled: () => boolean, wanted?: Wanted): Promise<Answer<Finished>> {
    const { collection, reading } = prepared;
    const { collections } = this.preparer;
    return this.preparer.reading(prepared, async () => {
      const now = this.now();
      // Rows of a view tell nothing of the documents that they come from.
      const planned = this.preparer.plan(prepared, request, now, wanted?.places === false);
      if (!planned.ok) return planned;
      const run = new Run(planned.value.planned.physical, {
        parameters: request.parameters ?? {},
        now,
        guards: { ...defaultGuards, ...request.guards },
        isCancelled,
        ...{ readAtMost: request.readAtMost, workAtMostMs: request.workAtMostMs },
        batchRows: request.batchRows,
        fused: request.fused,
        storeOf: (name) => existing(collections.get(name)).store,
        indexOf: (name, index) => existing(collections.get(name)?.index(index)),
        ...wanted,
      });
      try {
        while (!run.work(sliceMs, this.host.isAwaited)) {
          const paused = milliseconds();
          await this.host.pause();
          run.watch.pausedMs += milliseconds() - paused;
        }
      } catch (error) {
        run.close();
        return refused(problemOf(error, run, planned.value.planned, reading, this.definitionOf));
      }
      return answered({ run, planned: planned.value.planned, collection, reading, stages: prepared.stages });
    });
  }
}
