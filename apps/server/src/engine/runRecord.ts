import type { QueryRequest } from '@zesty-sieve/core';
import type { PlanStep, RunCost, WeighedWay } from '@zesty-sieve/contract';
import type { Problem } from '@zesty-sieve/contract';
import type { StoredCollection } from '../storage/stored.ts';
import type { RunToKeep } from '../storage/runStore.ts';

/** What a run's answer tells, whether it came to its end or a guard ended it. */
interface Told {
  readonly plan: PlanStep;
  readonly weighed: readonly WeighedWay[];
  readonly suggestions: readonly unknown[];
  readonly rewrites: readonly unknown[];
  readonly lines?: readonly unknown[];
  readonly approximate?: unknown;
  readonly cost: RunCost;
}

/** Whether a run is one that people will want to find again: of the whole question, on all documents. */
export function isKept({ readAtMost, workAtMostMs, throughLine, only }: QueryRequest & { only?: readonly unknown[] | undefined }): boolean {
  return readAtMost === undefined && workAtMostMs === undefined && throughLine === undefined && (only === undefined || only.length === 0);
}

/** A run as it is kept. */
export function recordOf(
  id: string,
  request: QueryRequest,
  sources: readonly StoredCollection[],
  { plan, weighed, suggestions, rewrites, lines = [], approximate = null, cost }: Told,
  stopped: Problem | null,
): RunToKeep {
  const indexSet = Object.fromEntries(sources.map(({ name, indexes }) => [name, ['identity', ...indexes.map((index) => index.name)]]));
  return {
    id,
    at: new Date().toISOString(),
    pipeline: request.pipeline,
    sql: null,
    publication: null,
    parameters: request.parameters === undefined || Object.keys(request.parameters).length === 0 ? null : { ...request.parameters },
    collections: sources.map(({ name }) => name),
    cost: { ...cost },
    guard:
      stopped === null
        ? null
        : { kind: stopped.type.split('/').pop() ?? '', line: stopped.line ?? 1, reached: stopped.reached ?? 0, limit: stopped.limit ?? 0 },
    indexesUsed: [...new Set(usedBy(plan))],
    explained: JSON.stringify({ plan, weighed, suggestions, rewrites, lines, approximate, indexSet }),
    collectionIds: sources.map(({ name, id: collectionId }) => [name, collectionId]),
  };
}

function usedBy(step: PlanStep): string[] {
  const own = [...(step.index === undefined ? [] : [step.index]), ...(step.indexes ?? [])];
  return [...own.map((index) => `${step.collection ?? ''}.${index}`), ...step.inputs.flatMap(usedBy)];
}
