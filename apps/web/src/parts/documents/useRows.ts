import { useCallback, useEffect, useRef, useState } from 'react';
import type { QueryAnswer } from '@zesty-sieve/contract';
import { problemText } from '../../api/problems.ts';
import { useLazyRowsQuery } from '../../api/runs.ts';
import { pageSize } from '../../state/bench/benchState.ts';

export interface Rows {
  readonly rows: readonly unknown[];
  readonly isLoading: boolean;
  readonly problem: string | null;
  /** Fetches the next page, where there is one and none is on its way. */
  readonly more: () => void;
}

/** The rows of a run: those that came with it, and further pages as they are wanted. */
export function useRows(result: QueryAnswer): Rows {
  const [fetchPage] = useLazyRowsQuery();
  const [rows, setRows] = useState<readonly unknown[]>(result.documents);
  const [problem, setProblem] = useState<string | null>(null);
  const [isLoading, setLoading] = useState(false);
  const run = useRef(result.runId);
  const busy = useRef(false);

  useEffect(() => {
    run.current = result.runId;
    busy.current = false;
    setRows(result.documents);
    setProblem(null);
    setLoading(false);
  }, [result]);

  const more = useCallback(() => {
    if (busy.current || rows.length >= result.rowsReturned || problem !== null) return;
    busy.current = true;
    setLoading(true);
    const { runId } = result;
    void fetchPage({ runId, offset: rows.length, size: pageSize })
      .unwrap()
      .then(
        ({ documents }) => run.current === runId && setRows([...rows, ...documents]),
        (error: unknown) => run.current === runId && setProblem(problemText(error)),
      )
      .finally(() => {
        if (run.current !== runId) return;
        busy.current = false;
        setLoading(false);
      });
  }, [rows, result, fetchPage, problem]);

  return { rows, isLoading, problem, more };
}
