import type { RunCost } from '@zesty-sieve/contract';
import { count } from './numbers.ts';

/** How many documents were read for each row that came out. */
export function yieldText({ documentsRead, rowsReturned }: Pick<RunCost, 'documentsRead' | 'rowsReturned'>): string {
  if (documentsRead === 0) return 'no reads';
  if (rowsReturned === 0) return 'none of use';
  if (documentsRead <= rowsReturned) return 'each one of use';
  const each = Math.round(documentsRead / rowsReturned);
  return each === 1 ? 'nearly each one of use' : `one in ${count(each)}`;
}
