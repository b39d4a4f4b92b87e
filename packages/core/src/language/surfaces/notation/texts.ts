import { notationWords } from './words.ts';
import type { Finding } from '../../diagnostics/diagnostic.ts';
import type { Places } from '../../places.ts';
import { tokenize } from './tokens.ts';
import type { Expression } from '../../tree.ts';
import { checkCondition, checkValue } from '../../checkExpression.ts';
import { parseExpression } from './expressions.ts';
import { ParseFailure, Reader } from './reader.ts';

/** Reads a whole text with one rule of the grammar; the first thing wrong with it comes back as a finding. */
export function parseText<T>(
  text: string,
  rule: (reader: Reader) => T,
  expressionOf: (read: T) => Expression,
  condition: boolean,
): { readonly read: T; readonly places: Places } | { readonly finding: Finding } {
  const reader = new Reader(tokenize(text, 0, text.length));
  try {
    const read = rule(reader);
    reader.expectEnd('the end');
    const found: Finding[] = [];
    const check = condition ? checkCondition : checkValue;
    check(expressionOf(read), {
      current: undefined,
      whole: undefined,
      source: '',
      report: (finding) => found.push(finding),
      at: (node) => reader.at(node),
      words: notationWords,
    });
    const error = found.find((finding) => finding.severity === 'error');
    return error === undefined ? { read, places: reader.places } : { finding: error };
  } catch (error) {
    if (error instanceof ParseFailure) return { finding: error.finding };
    throw error;
  }
}

/** @param mayBeGiven whether a parameter may stand for the whole or for one of the conditions that have to hold together, as in a `where` */
export function parseConditionText(
  text: string,
  mayBeGiven = false,
): { readonly expression: Expression; readonly places: Places } | { readonly finding: Finding } {
  const asked = (expression: Expression) => (mayBeGiven ? withoutGiven(expression) : expression);
  const result = parseText(text, parseExpression, asked, true);
  return 'finding' in result ? result : { expression: result.read, places: result.places };
}

/** What is left to be checked where parameters may stand for conditions. */
function withoutGiven(condition: Expression): Expression {
  if (condition.kind === 'parameter') return { kind: 'and', operands: [], id: condition.id };
  return condition.kind === 'and' ? { ...condition, operands: condition.operands.filter(({ kind }) => kind !== 'parameter') } : condition;
}

export function parseValueText(text: string): { readonly expression: Expression } | { readonly finding: Finding } {
  const result = parseText(text, parseExpression, (expression) => expression, false);
  return 'finding' in result ? result : { expression: result.read };
}
