import { keyTexts, UniqueViolation, type Collection, type BuiltIndex, type IndexRequest } from '@zesty-sieve/core';
import type { IndexBuild } from '@zesty-sieve/contract';
import { ServerProblem } from '../problem.ts';
import { definitionOf, rejectTaken, uniqueProblem } from './indexRequests.ts';

interface Build {
  progress: Omit<IndexBuild, 'name'>;
  isCancelled: boolean;
}

export interface Built {
  readonly index: BuiltIndex;
  readonly createdAt: string;
  readonly buildMs: number;
  /** The definition as JSON text, to be kept. */
  readonly definition: string;
}

/** The indexes that are being built. A build goes on without whoever asked for it, until it is ended by name. */
export class IndexBuilds {
  private readonly underWay = new Map<string, Map<string, Build>>();
  private readonly pause: () => Promise<void>;

  constructor(pause: () => Promise<void>) {
    this.pause = pause;
  }

  /**
   * Builds an index, letting others work between its steps; it is used from then on.
   * @param ready gives the collection when it is in memory
   * @throws ServerProblem where the request cannot be read, its name is taken, values repeat, or the build was cancelled
   */
  async build(name: string, request: IndexRequest, ready: () => Promise<Collection>): Promise<Built> {
    const definition = definitionOf(request);
    const build: Build = { progress: { phase: 'waiting', share: 0 }, isCancelled: false };
    const builds = this.underWay.get(name) ?? new Map<string, Build>();
    this.underWay.set(name, builds.set(definition.name, build));
    try {
      const collection = await ready();
      rejectTaken(collection, definition);
      const started = performance.now();
      const index = await collection.buildIndex(
        definition,
        this.pause,
        () => build.isCancelled,
        (progress) => (build.progress = progress),
      );
      if (index === undefined) throw new ServerProblem('/cancelled', `The building of ${definition.name} was cancelled.`);
      const buildMs = Math.round((performance.now() - started) * 10) / 10;
      const kept = JSON.stringify({ ...request, name: definition.name, keys: keyTexts(definition) });
      return { index, createdAt: new Date().toISOString(), buildMs, definition: kept };
    } catch (error) {
      if (error instanceof UniqueViolation) {
        const values = error.values.map((value) => JSON.stringify(value) ?? 'nothing').join(', ');
        const message = `An index on ${keyTexts(definition).join(', ')} cannot be unique: more than one document has ${values}. Nothing was built.`;
        throw uniqueProblem({ ...error, message });
      }
      throw error;
    } finally {
      builds.delete(definition.name);
    }
  }

  list(name: string): IndexBuild[] {
    return [...(this.underWay.get(name) ?? [])].map(([index, { progress }]) => ({ name: index, ...progress }));
  }

  /** @returns whether there was such a build */
  cancel(name: string, index: string): boolean {
    const build = this.underWay.get(name)?.get(index);
    if (build !== undefined) build.isCancelled = true;
    return build !== undefined;
  }
}
