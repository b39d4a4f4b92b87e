import { notesOf } from './notes.ts';
import type { Finished } from './prepared.ts';
import { defaultPageSize, type Explained, type Note, type QueryRequest, type QueryResult } from './requests.ts';
import { searchNotes } from './searchNotes.ts';
import { linesOf } from './telling.ts';

/** What a run answers; the plan in words is made when it is read. */
export function resultOf(
  { run, planned, reading, stages }: Finished,
  explained: Explained,
  { pageSize = defaultPageSize }: QueryRequest,
  told: Pick<QueryResult, 'runId' | 'approximate' | 'sources' | 'notes'>,
): QueryResult {
  const { kept: rows } = run;
  return {
    get suggestions() {
      return explained.suggestions;
    },
    get rewrites() {
      return explained.rewrites;
    },
    get plan() {
      return explained.plan;
    },
    get weighed() {
      return explained.weighed;
    },
    ...told,
    documents: rows.slice(0, pageSize),
    rowsReturned: rows.length,
    hasMore: rows.length > pageSize,
    cost: run.costs,
    lines: linesOf(planned.physical, reading, run),
    notes: [
      ...notesOf(run.context.misfits.list(), reading),
      ...told.notes,
      ...searchNotes(stages, planned.physical.root, run.context, reading),
    ],
    bounded: run.watch.cutShort,
  };
}

/** Where the source of a question is named. */
export function sourcePlace({ stages: [first], reading }: Finished): Pick<Note, 'line' | 'from' | 'to'> {
  const { from, to, line } = reading.askedPlaceOf({ id: first?.stage.kind === 'from' ? first.stage.sourceId : first!.id });
  return { from, to, line };
}
