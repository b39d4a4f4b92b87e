import { findings } from '../diagnostics/findings.ts';
import { checkValue } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { isConstant } from '../constant.ts';
import type { LimitStage, OffsetStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { none, nothing } from './traits.ts';

/** `offset` and `limit` differ in their word alone, as far as the language goes. */
function rowCount<S extends OffsetStage | LimitStage>(kind: S['kind'], doc: string, example: string): StageDefinition<S> {
  return {
    words: [kind],
    doc,
    example,
    parse: (reader) => ({ kind, count: parseExpression(reader) }) as S,
    print: ({ count }) => `${kind} ${printExpression(count)}`,
    expressions: ({ count }) => [count],
    traits: {
      gives: () => 'at most one',
      decidedBy: 'rows',
      order: 'kept',
      looksAtOrder: () => true,
      keepsOnly: none,
      worksOnParts: true,
      writes: nothing,
      source: none,
      made: none,
    },
    check: ({ count }, scope) => {
      if (count.kind === 'literal' && !isRowCount(count.value)) {
        scope.report(findings.notAWholeNumber(scope.at(count), kind));
      } else if (!isConstant(count)) {
        scope.report(findings.notConstant(scope.at(count), kind));
      } else {
        checkValue(count, scope);
      }
    },
    effect: (_stage, before) => before,
  };
}

export function isRowCount(value: unknown): value is number {
  return Number.isSafeInteger(value) && (value as number) >= 0;
}

export const offset = rowCount<OffsetStage>('offset', 'Skips the first N rows.', 'offset 40');
export const limit = rowCount<LimitStage>('limit', 'Keeps the first N rows that reach it.', 'limit 20');
