import type { AdvisedView } from '@zesty-sieve/contract';
import type { FollowsTold } from '@zesty-sieve/core';
import { groupedBeginning } from '@zesty-sieve/core/language';
import type { AskedBefore } from '../told/askedBefore.ts';

/** Fewer runs say little of what will be asked again. */
const leastRuns = 3;
/** What is kept has to be so many times fewer rows than what is read without. */
const leastGain = 10;
const leastSaved = 10_000;
const mostAdvised = 3;

interface Gathered extends Omit<AdvisedView, 'follows' | 'followCosts' | 'rows' | 'documentsSaved'> {
  readonly canonical: string;
  readonly documentsRead: number;
  /** Undefined as long as every run was stopped before it had told all of them. */
  readonly rows: number | undefined;
}

/**
 * The beginnings of questions, up to their first group, that were asked so often and read so much that their rows are worth keeping.
 * @param kept the texts of the views that are kept already
 * @param follows whether the rows of a pipeline can be kept up with each change, or why not, and what that would take
 */
export async function adviseViews(
  asked: readonly AskedBefore[],
  kept: readonly string[],
  follows: (pipeline: string) => Promise<FollowsTold>,
): Promise<AdvisedView[]> {
  const known = new Set(kept.flatMap((text) => groupedBeginning(text)?.canonical ?? []));
  const found = new Map<string, Gathered>();
  for (const { pipeline, name, runs, documentsRead, timeMs, rowsByLine } of asked) {
    const beginning = runs === 0 ? undefined : groupedBeginning(pipeline);
    const rows = beginning && rowsByLine.find(([line]) => line === beginning.line)?.[1];
    if (beginning === undefined || known.has(beginning.canonical)) continue;
    const { canonical, text, source } = beginning;
    const before = found.get(canonical);
    found.set(canonical, {
      canonical,
      pipeline: before?.pipeline ?? text,
      collection: source,
      runs: runs + (before?.runs ?? 0),
      rows: rows === undefined ? before?.rows : Math.max(rows, before?.rows ?? 0),
      documentsRead: documentsRead + (before?.documentsRead ?? 0),
      refreshMs: Math.max(timeMs, before?.refreshMs ?? 0),
      names: [...new Set([...(before?.names ?? []), ...(name === null ? [] : [name])])],
    });
  }
  const advised = [...found.values()]
    .flatMap(({ rows, documentsRead, ...one }) =>
      rows === undefined ? [] : [{ ...one, rows, documentsSaved: Math.max(0, documentsRead - one.runs * rows) }],
    )
    .filter(({ runs, rows, documentsSaved }) => runs >= leastRuns && documentsSaved >= Math.max(leastSaved, leastGain * rows * runs))
    .sort((a, b) => b.documentsSaved - a.documentsSaved)
    .slice(0, mostAdvised);
  return Promise.all(
    advised.map(async ({ canonical: _, ...one }) => {
      const { follows: told, followCosts } = await follows(one.pipeline);
      return { ...one, follows: told, followCosts: [...followCosts] };
    }),
  );
}
