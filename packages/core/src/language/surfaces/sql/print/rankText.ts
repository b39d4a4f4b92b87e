import type { OrderKey, RankStage } from '../../../stages/stage.ts';
import type { Expression } from '../../../tree.ts';

const names = { rank: 'RANK', denseRank: 'DENSE_RANK', rowNumber: 'ROW_NUMBER' } as const;

/** A rank as a window; one value for all orders nothing. */
export function rankText(
  { kind, partition, keys }: RankStage,
  value: (expression: Expression) => string,
  keyText: (key: OrderKey) => string,
): string {
  const by = partition.length === 0 ? [] : [`PARTITION BY ${partition.map(value).join(', ')}`];
  const ordered = keys.filter(({ expression }) => expression.kind !== 'literal');
  const order = ordered.length === 0 ? [] : [`ORDER BY ${ordered.map(keyText).join(', ')}`];
  return `${names[kind]}() OVER (${[...by, ...order].join(' ')})`;
}
