import { printExpression } from '../language/grammar/print.ts';
import type { Expression } from '../language/tree.ts';

/** One of the conditions that a `where` joins by `&&`, with the line of its stage. */
export interface Conjunct {
  readonly expression: Expression;
  readonly line: number;
  /** Its canonical text, by which conditions are recognised. */
  readonly text: string;
}

/** Takes a condition apart at its outermost `&&`. */
export function conjunctsOf(condition: Expression, line: number): Conjunct[] {
  const parts = condition.kind === 'and' ? condition.operands : [condition];
  return parts.flatMap((part) =>
    part.kind === 'and' ? conjunctsOf(part, line) : [{ expression: part, line, text: printExpression(part) }],
  );
}

/** Joins conditions again; undefined where there are none. */
export function joined(conjuncts: readonly Conjunct[]): Expression | undefined {
  const [first] = conjuncts;
  if (first === undefined) return undefined;
  if (conjuncts.length === 1) return first.expression;
  const last = conjuncts[conjuncts.length - 1].expression;
  return { kind: 'and', operands: conjuncts.map(({ expression }) => expression), from: first.expression.from, to: last.to };
}
