import type { NodeId } from '../../language/places.ts';
import type { Weighed } from '../explain/reasons.ts';
import type { IndexStatistics } from '../statistics.ts';

/** How a join was decided: by hash, or by an index of the partners. */
export interface WeighedJoin {
  readonly id: NodeId;
  readonly collection: string;
  /** Documents of the partner's collection, and rows that look for theirs. */
  readonly partners: number;
  readonly rows: number;
  readonly index: IndexStatistics | undefined;
  /** Partners of one row, about. */
  readonly perKey: number;
  readonly usesIndex: boolean;
  readonly hashCost: number;
  readonly indexCost: number;
}

const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

/** Both ways of a join as they are told, the chosen one first. */
export function tellJoin({ id, collection, partners, rows, index, perKey, usesIndex, hashCost, indexCost }: WeighedJoin): Weighed[] {
  const rounded = (cost: number) => Math.round(cost * 10) / 10;
  const hash = {
    way: 'hash join' as const,
    collection,
    whatIf: false,
    chosen: !usesIndex,
    reason: usesIndex
      ? `would read all ${whole.format(partners)} partners`
      : `reads the ${whole.format(partners)} partners once, for about ${whole.format(rows)} rows`,
    documentsRead: partners,
    indexEntriesRead: 0,
    cost: rounded(hashCost),
    stages: [id],
  };
  if (index === undefined) return [hash];
  const looked = {
    way: 'index nested-loop join' as const,
    collection,
    index: index.definition.name,
    keys: [index.definition.keys[0]!.text],
    whatIf: false,
    chosen: usesIndex,
    reason: usesIndex ? `looks up the partners of about ${whole.format(rows)} rows` : `would look up ${whole.format(rows)} rows one by one`,
    documentsRead: Math.round(rows * perKey),
    indexEntriesRead: Math.round(rows * perKey),
    cost: rounded(indexCost),
    stages: [id],
  };
  return usesIndex ? [looked, hash] : [hash, looked];
}
