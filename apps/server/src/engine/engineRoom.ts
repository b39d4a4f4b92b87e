import { checkPipeline, Engine, namedSources, usualSurface, type MaterializedView } from '@zesty-sieve/core';
import { v7 as uuidv7 } from 'uuid';
import { Database } from '../storage/database.ts';
import type { StoredCollection } from '../storage/stored.ts';
import { isAwaited } from '../threads/serve.ts';
import { problemOf } from './answers.ts';
import { unlessCancelled } from './cancelling.ts';
import { Residency } from './residency.ts';

/** Lets messages of the host in between two slices of work. */
export const pause = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/**
 * Of the rows of runs, so that they can be paged: an eighth of what collections may take, and no more than this, since whatever is
 * kept is gone through whenever memory is collected, while others wait.
 */
const mostKeptBytes = 64 * 1024 * 1024;

/** What the services of the engine's thread share: the engine, the file, and which collections are in memory. */
export class EngineRoom {
  engine!: Engine;
  private databases!: { readonly main: Database; readonly scratch: Database };
  residency!: Residency;
  /** The collections in which the rows of materialized views lie. */
  private readonly keptViews = new Map<string, StoredCollection>();

  async open(file: string, budgetBytes: number): Promise<void> {
    const keptBytes = Math.min(mostKeptBytes, budgetBytes / 8);
    this.engine = new Engine({ pause, isAwaited, newId: uuidv7, now: () => new Date(), keptBytes });
    // Whoever reads a scratch collection while one is being written waits, and nobody else shall.
    this.databases = { main: await Database.open(file), scratch: await Database.open(file) };
    this.residency = new Residency(this.engine, this.databases, budgetBytes, pause);
  }

  setKeptViews(views: readonly (MaterializedView & { readonly stored: StoredCollection })[]): void {
    this.keptViews.clear();
    for (const { name, stored } of views) this.keptViews.set(name, stored);
    this.engine.setKeptViews(views);
  }

  /** Sees to it that the rows of views that may answer a pipeline unasked are in memory; where they do not fit, they do not answer. */
  private async readyViews(pipeline: string): Promise<void> {
    for (const name of this.engine.keptViewsFor(pipeline)) {
      const stored = this.keptViews.get(name);
      if (stored !== undefined) await this.residency.ensure(stored).catch(() => undefined);
    }
  }

  /** Lets go of the file. A statement that is under way is waited for: ending the thread amid one brings the process down. */
  async close(): Promise<void> {
    await this.databases.main.close();
    await this.databases.scratch.close();
  }

  /**
   * Sees to it that what a pipeline reads is in memory. `names` are those that it may read.
   * @throws ServerProblem where the pipeline names what is not there, or the run is cancelled meanwhile
   */
  async ready(sources: readonly StoredCollection[], names: readonly string[], pipeline: string, cancel?: SharedArrayBuffer): Promise<void> {
    const named = namedSources(pipeline);
    if (named.length === 0 || named.some((name) => !names.includes(name))) {
      const { diagnostics } = checkPipeline(usualSurface.parse(pipeline), { collections: names });
      throw problemOf({ kind: 'pipeline', message: diagnostics[0]?.message ?? 'The pipeline names no collection.', diagnostics });
    }
    const loaded = this.residency.ensureAll(sources).then(() => this.readyViews(pipeline));
    await (cancel === undefined ? loaded : unlessCancelled(loaded, cancel));
  }
}
