import { compileValue, type Evaluate } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import type { Rank } from '../planner/physical.ts';
import { keyOf, keyOfAll, type MapKey } from '../values/keys.ts';
import type { Json } from '../values/json.ts';
import { textBytes } from '../values/size.ts';

/** What a partition holds in the table that it is found by. */
const heldPerPartition = 60;

/** Numbers the partitions as their first rows come. */
export class Partitions {
  private readonly numbers = new Map<MapKey, number>();
  private readonly evaluators: readonly Evaluate[];
  /** Bytes that the table holds. */
  held = 0;

  constructor({ partition }: Rank) {
    this.evaluators = partition.map(compileValue);
  }

  numberOf(row: Json, context: Context): number {
    const { evaluators } = this;
    const isOne = evaluators.length === 1;
    const key = isOne ? keyOf(evaluators[0](row, context)) : keyOfAll(evaluators.map((evaluate) => evaluate(row, context)));
    let number = this.numbers.get(key);
    if (number === undefined) {
      this.numbers.set(key, (number = this.numbers.size));
      this.held += heldPerPartition + (isOne || typeof key !== 'string' ? 0 : textBytes(key));
    }
    return number;
  }
}

/** The rank of a row from that of the one before it. */
export function nextRank({ ranking }: Rank, before: number, place: number, ties: boolean): number {
  if (ranking === 'rowNumber' || place === 1) return place;
  if (ties) return before;
  return ranking === 'rank' ? place : before + 1;
}
