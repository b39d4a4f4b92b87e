import { compileValue, type Evaluate } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import type { Rank } from '../planner/physical.ts';
import type { Json } from '../values/json.ts';
import { TupleNumbers } from './numbering/tupleNumbers.ts';
import { ownedByValue } from './ownership.ts';

/** Numbers the partitions as their first rows come. */
export class Partitions {
  private readonly numbers: TupleNumbers;
  private readonly evaluators: readonly Evaluate[];

  constructor({ partition, input }: Rank) {
    this.evaluators = partition.map(compileValue);
    this.numbers = new TupleNumbers(partition.map((expression) => ownedByValue(expression, input)));
  }

  numberOf(row: Json, context: Context): number {
    const { evaluators, numbers } = this;
    if (evaluators.length === 1) return numbers.numberOf(evaluators[0]!(row, context));
    if (evaluators.length === 2) return numbers.numberOf(evaluators[0]!(row, context), evaluators[1]!(row, context));
    return numbers.numberOf(...evaluators.map((evaluate) => evaluate(row, context)));
  }

  /** Bytes that the table holds. */
  get held(): number {
    return this.numbers.held;
  }
}

/** The rank of a row from that of the one before it. */
export function nextRank({ ranking }: Rank, before: number, place: number, ties: boolean): number {
  if (ranking === 'rowNumber' || place === 1) return place;
  if (ties) return before;
  return ranking === 'rank' ? place : before + 1;
}
