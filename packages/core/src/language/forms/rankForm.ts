import { printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { stageWords } from '../stages/registry.ts';
import type { RankKind, RankStage } from '../stages/stage.ts';
import { readOrderKeys, writeOrderKeys, type OrderRow } from './orderForm.ts';

/** How rows are ranked: under what name, in which parts, by which keys. */
export interface RankForm {
  readonly kind: RankKind;
  readonly name: string;
  readonly partition: readonly string[];
  readonly keys: readonly OrderRow[];
}

export function readRank({ kind, target, partition, keys }: RankStage): RankForm {
  return { kind, name: printGivenName(target.names), partition: partition.map(printExpression), keys: readOrderKeys(keys) };
}

/** The stage's text; undefined where no key can be read. */
export function writeRank({ kind, name, partition, keys }: RankForm): string | undefined {
  const order = writeOrderKeys(keys);
  if (order === undefined) return undefined;
  return `${stageWords(kind)} as ${name}${partition.length > 0 ? ` partition by ${partition.join(', ')}` : ''} order by ${order}`;
}
