import { sortCost } from '../cost.ts';
import type { PlannedSource, Selectivity } from '../source.ts';
import type { AccessPath, AccessQuestion } from './path.ts';

/** Every document, in no order that is asked for. How many rows come out makes no difference to what it costs. */
class WholeScan implements AccessPath {
  readonly kind = 'fullScan';
  readonly indexEntriesRead = 0;
  readonly rowsSorted = 0;
  readonly sorting = 0;
  readonly documentsRead: number;
  readonly cost: number;
  private readonly share: () => number;

  constructor(all: number, share: () => number) {
    this.documentsRead = all;
    this.cost = all;
    this.share = share;
  }

  /** May never be asked, and takes a look at a sample where it is. */
  get rows(): number {
    return this.documentsRead * this.share();
  }
}

export function fullScanPath(source: PlannedSource, question: AccessQuestion, selectivity: Selectivity): AccessPath {
  const all = source.store.count;
  if (question.order.length === 0 && question.demand === undefined) return new WholeScan(all, () => selectivity.of(question.conjuncts));
  const share = selectivity.of(question.conjuncts);
  const rows = all * share;
  const stops = question.order.length === 0 && question.demand !== undefined;
  const documentsRead = stops ? Math.min(all, Math.ceil((question.demand ?? 0) / Math.max(share, 1e-9))) : all;
  const rowsSorted = question.order.length > 0 ? rows : 0;
  const sorting = sortCost(rowsSorted, question.demand);
  return {
    kind: 'fullScan',
    indexEntriesRead: 0,
    documentsRead,
    rowsSorted,
    rows,
    cost: documentsRead + sorting,
    sorting,
  };
}
