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

/** Runs a question with and without an index in turn, and compares what was read, the time and the rows. */
export async function measure(
  query: (request: QueryRequest) => Promise<QueryResult>,
  { index, times, ...request }: MeasureRequest,
): Promise<Measured> {
  const without: QueryRequest = { ...request, ignoreIndexes: [...(request.ignoreIndexes ?? []), index], pageSize: 0 };
  const using: QueryRequest = { ...request, pageSize: 0 };
  // One of each first, not counted: functions are compiled and samples taken.
  const before = await query({ ...without, pageSize: allRows });
  const after = await query({ ...using, pageSize: allRows });
  const timesWithout: number[] = [];
  const timesWith: number[] = [];
  for (let i = 0; i < times; i++) {
    timesWithout.push((await query(without)).cost.timeMs);
    timesWith.push((await query(using)).cost.timeMs);
  }
  const sameOrder = equalValues([...before.documents], [...after.documents]);
  return {
    without: sideOf(before, timesWithout),
    with: sideOf(after, timesWith),
    rowsReturned: after.rowsReturned,
    sameOrder,
    sameSet: sameOrder || sameBag(before.documents, after.documents),
  };
}

function sideOf({ cost }: QueryResult, timesMs: number[]): Side {
  const sorted = [...timesMs].sort((a, b) => a - b);
  return { documentsRead: cost.documentsRead, indexEntriesRead: cost.indexEntriesRead, timesMs, medianMs: sorted[sorted.length >> 1] };
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
