import { useCallback } from 'react';
import { useBench } from '../../../state/bench/useBench.ts';
import { clauseName, clauseOfLine } from './clauses.ts';

/** What a line of the pipeline is called in the face that is written in: `line 3`, or the clause that it came of. */
export function usePlaceName(): (line: number) => string {
  const { sql, clauses } = useBench('sql', 'clauses');
  return useCallback(
    (line) => {
      const clause = sql === null ? undefined : clauseOfLine(clauses, line);
      return sql === null || clause === undefined ? `line ${line}` : clauseName(sql, clause);
    },
    [sql, clauses],
  );
}
