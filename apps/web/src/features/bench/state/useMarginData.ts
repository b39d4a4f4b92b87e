import { useMemo } from 'react';
import type { MarginData } from '../../../parts/editor/margin.ts';
import { useBench, useIsOutdated } from '../../../state/bench/useBench.ts';

/** What the margin draws: the rows of each line in the last run, and whether they are still those of the text. */
export function useMarginData(): MarginData {
  const { whole, cursorLine } = useBench('whole', 'cursorLine');
  const stale = useIsOutdated();
  return useMemo(() => {
    const { answer } = whole;
    if (answer === null) return { lines: [], bounded: false, stale: false, cursorLine };
    const { lines, bounded } = answer.result;
    return {
      lines: lines.map((line, i) => ({ ...line, rowsIn: i === 0 ? line.rowsOut : lines[i - 1]!.rowsOut })),
      bounded,
      stale,
      cursorLine,
    };
  }, [whole, stale, cursorLine]);
}
