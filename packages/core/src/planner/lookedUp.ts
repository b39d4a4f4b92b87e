import type { IndexRange } from '../indexes/ordered/sortedEntries.ts';
import type { Json } from '../values/json.ts';
import type { IndexScan } from './scans.ts';

/** The ranges of an index that a scan reads, with the value that a run looks up in its place. */
export function rangesOf(
  { ranges, lookedUp }: Pick<IndexScan, 'ranges' | 'lookedUp'>,
  parameters: Readonly<Record<string, Json>>,
): readonly IndexRange[] {
  const value = lookedUp === undefined ? undefined : parameters[lookedUp];
  return value === undefined ? ranges : [{ ...ranges[0]!, fixed: [value] }];
}
