import type { Json } from '@zesty-sieve/core';

const nothingSpent = { documentsRead: 0, indexEntriesRead: 0, memoryBytes: 0, timeMs: 0 };
const nothingTold = {
  weighed: [],
  suggestions: [],
  rewrites: [],
  lines: [],
  notes: [],
  bounded: false,
  approximate: null,
  sources: [],
  hasMore: false,
};

/** Rows that are no run's, told as an answer: all of them at once. */
export function tableOf(documents: readonly Json[]) {
  const rowsReturned = documents.length;
  return { runId: null, documents, rowsReturned, cost: { ...nothingSpent, rowsReturned }, ...nothingTold };
}
