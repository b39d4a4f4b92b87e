import { notesOf } from './notes.ts';
import type { Finished } from './prepared.ts';
import { defaultPageSize, type Explained, type Note, type QueryRequest, type QueryResult } from './requests.ts';
import { searchNotes } from './searchNotes.ts';
import { linesOf } from './telling.ts';

type Told = Pick<QueryResult, 'runId' | 'approximate' | 'sources' | 'notes'>;

/** What a run answers; the plan in words is made when it is read. */
export class Result implements QueryResult {
  readonly runId: QueryResult['runId'];
  readonly approximate: QueryResult['approximate'];
  readonly sources: QueryResult['sources'];
  readonly notes: QueryResult['notes'];
  readonly documents: QueryResult['documents'];
  readonly rowsReturned: number;
  readonly hasMore: boolean;
  readonly cost: QueryResult['cost'];
  readonly lines: QueryResult['lines'];
  readonly bounded: boolean;
  private readonly explained: Explained;

  constructor({ run, planned, reading, stages }: Finished, explained: Explained, { pageSize = defaultPageSize }: QueryRequest, told: Told) {
    const { kept: rows } = run;
    this.explained = explained;
    this.runId = told.runId;
    this.approximate = told.approximate;
    this.sources = told.sources;
    this.documents = rows.slice(0, pageSize);
    this.rowsReturned = rows.length;
    this.hasMore = rows.length > pageSize;
    this.cost = run.costs;
    this.lines = linesOf(planned.physical, reading, run);
    this.notes = [
      ...notesOf(run.context.misfits.list(), reading),
      ...told.notes,
      ...searchNotes(stages, planned.physical.root, run.context, reading),
    ];
    this.bounded = run.watch.cutShort;
  }

  get suggestions(): Explained['suggestions'] {
    return this.explained.suggestions;
  }
  get rewrites(): Explained['rewrites'] {
    return this.explained.rewrites;
  }
  get plan(): Explained['plan'] {
    return this.explained.plan;
  }
  get weighed(): Explained['weighed'] {
    return this.explained.weighed;
  }

  /** As it is sent: spread it, not the object itself, whose words are made by getters. */
  toJSON(): QueryResult {
    const { explained, ...own } = this;
    const { suggestions, rewrites, plan, weighed } = explained;
    return { suggestions, rewrites, plan, weighed, ...own };
  }
}

/** Where the source of a question is named. */
export function sourcePlace({ stages: [first], reading }: Finished): Pick<Note, 'line' | 'from' | 'to'> {
  const { from, to, line } = reading.askedPlaceOf({ id: first?.stage.kind === 'from' ? first.stage.sourceId : first!.id });
  return { from, to, line };
}
