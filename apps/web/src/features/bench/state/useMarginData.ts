import { useMemo } from 'react';
import type { MarginData } from '../../../parts/editor/margin.ts';
import type { BenchState } from '../../../state/bench/benchState.ts';

/** What the margin draws: the rows of each line in the last run, and whether they are still those of the text. */
export function useMarginData({ whole, text, cursorLine }: BenchState): MarginData {
  return useMemo(() => {
    const { answer } = whole;
    if (answer === null) return { lines: [], bounded: false, stale: false, cursorLine };
    const { lines, bounded } = answer.result;
    return {
      lines: lines.map((line, i) => ({ ...line, rowsIn: i === 0 ? line.rowsOut : lines[i - 1].rowsOut })),
      bounded,
      stale: answer.asked.text !== text,
      cursorLine,
    };
  }, [whole, text, cursorLine]);
}
