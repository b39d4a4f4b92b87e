import { viewsRead } from '@zesty-sieve/core/language';
import type { Hub } from '../hub.ts';
import { ServerProblem } from '../problem.ts';
import { goesByTime } from './checkPublication.ts';
import type { Asked } from './compute.ts';

/** What is not there any more is so for the pipeline: the publication is there. */
export function ofPipeline(error: unknown): never {
  if (error instanceof ServerProblem && error.problem.type.endsWith('/not-found')) throw new ServerProblem('/pipeline', error.message);
  throw error;
}

/** Whether a view that is read through goes by the time. */
export function sourcesGoByTime(catalog: Hub['catalog'], pipeline: string): boolean {
  return [...viewsRead(pipeline, catalog.plainViews)].some((name) => goesByTime(catalog.plainViews.get(name)?.pipeline ?? ''));
}

/** Tells one question from another: 1 and "1" are two. */
export function keyOf(name: string, edition: string, { values, format, offset, size }: Asked): string {
  const sorted = Object.keys(values)
    .sort()
    .map((one) => [one, values[one]]);
  return `${name} ${edition} ${JSON.stringify([sorted, format, offset, size])}`;
}
