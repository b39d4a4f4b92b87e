import { equalValues, type Json, type QueryRequest, type QueryResult } from '@zesty-sieve/core';

export interface MeasureRequest extends Omit<QueryRequest, 'pageSize' | 'readAtMost' | 'guards'> {
  /** The index that is measured. */
  readonly index: string;
  readonly times: number;
}

interface Side {
  readonly documentsRead: number;
  readonly indexEntriesRead: number;
  readonly timesMs: number[];
  readonly medianMs: number;
}

export interface Measured {
  readonly without: Side;
  readonly with: Side;
  readonly rowsReturned: number;
  readonly sameSet: boolean;
  readonly sameOrder: boolean;
}

const allRows = Number.MAX_SAFE_INTEGER;

/** Two questions run in turn. */
export interface MeasuredPair {
  readonly first: Side;
  readonly second: Side;
  readonly rows: readonly number[];
  readonly sameSet: boolean;
  readonly sameOrder: boolean;
}

/** Runs two questions in turn, and compares what was read, the times and the rows. */
export async function measurePair(
  query: (request: QueryRequest) => Promise<QueryResult>,
  first: QueryRequest,
  second: QueryRequest,
  times: number,
): Promise<MeasuredPair> {
  // One of each first, not counted: functions are compiled and samples taken.
  const one = await query({ ...first, pageSize: allRows });
  const other = await query({ ...second, pageSize: allRows });
  const timesOfFirst: number[] = [];
  const timesOfSecond: number[] = [];
  for (let i = 0; i < times; i++) {
    timesOfFirst.push((await query({ ...first, pageSize: 0 })).cost.timeMs);
    timesOfSecond.push((await query({ ...second, pageSize: 0 })).cost.timeMs);
  }
  const sameOrder = equalValues([...one.documents], [...other.documents]);
  return {
    first: sideOf(one, timesOfFirst),
    second: sideOf(other, timesOfSecond),
    rows: [one.rowsReturned, other.rowsReturned],
    sameOrder,
    sameSet: sameOrder || sameBag(one.documents, other.documents),
  };
}

/** Runs a question with and without an index in turn. */
export async function measure(
  query: (request: QueryRequest) => Promise<QueryResult>,
  { index, times, ...request }: MeasureRequest,
): Promise<Measured> {
  const without: QueryRequest = { ...request, ignoreIndexes: [...(request.ignoreIndexes ?? []), index] };
  const { first, second, rows, sameSet, sameOrder } = await measurePair(query, without, request, times);
  return { without: first, with: second, rowsReturned: rows[1]!, sameSet, sameOrder };
}

function sideOf({ cost }: QueryResult, timesMs: number[]): Side {
  const sorted = [...timesMs].sort((a, b) => a - b);
  return { documentsRead: cost.documentsRead, indexEntriesRead: cost.indexEntriesRead, timesMs, medianMs: sorted[sorted.length >> 1]! };
}

function sameBag(a: readonly Json[], b: readonly Json[]): boolean {
  if (a.length !== b.length) return false;
  const counts = new Map<string, number>();
  for (const row of a) {
    const key = JSON.stringify(row);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return b.every((row) => {
    const key = JSON.stringify(row);
    const left = counts.get(key) ?? 0;
    counts.set(key, left - 1);
    return left > 0;
  });
}
