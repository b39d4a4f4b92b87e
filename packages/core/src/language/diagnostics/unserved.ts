import { printExpression } from '../surfaces/notation/print.ts';
import type { Expression } from '../tree.ts';

/** From so many documents on, reading them all is felt. */
export const manyDocuments = 20_000;

/**
 * Why no index can serve a condition, and the way out; undefined where one can, or where it is not known.
 * @param orderedBy the first key of the order that follows: an index that is walked for it has a place for what lacks it
 */
export function unservedReason(condition: Expression, orderedBy?: string): string | undefined {
  switch (condition.kind) {
    case 'comparison':
      return condition.operator === '!='
        ? 'No index serves !=, so every document is read. Ask for the values that are wanted, with == or in, where they are few.'
        : undefined;
    case 'not':
      return condition.operand.kind === 'path'
        ? 'No index holds what is missing, so every document is read. A stage before it that keeps fewer rows helps.'
        : undefined;
    case 'call':
      return condition.name === 'contains' || condition.name === 'ends_with' || condition.name === 'search'
        ? `No index serves ${condition.name}, so every document is read. starts_with can use one, and an equality on a computed key such as fold(…).`
        : undefined;
    case 'or':
      return condition.operands
        .filter((operand) => operand.kind !== 'not' || printExpression(operand.operand) !== orderedBy)
        .map((operand) => unservedReason(operand, orderedBy))
        .find((reason) => reason !== undefined);
    default:
      return undefined;
  }
}

/** The conditions of which every row must meet each. */
export function conditionsIn(condition: Expression): readonly Expression[] {
  return condition.kind === 'and' ? condition.operands.flatMap(conditionsIn) : [condition];
}
