import type { NodeId } from '../language/places.ts';
import { printExpression } from '../language/surfaces/notation/print.ts';
import type { Expression } from '../language/tree.ts';

/** One of the conditions that a `where` joins by `&&`, with its stage. */
export interface Conjunct {
  readonly expression: Expression;
  readonly stage: NodeId;
  /** Its canonical text, by which conditions are recognised. */
  readonly text: string;
}

const takenApart = new WeakMap<Expression, readonly Conjunct[]>();

/** Takes a condition apart at its outermost `&&`. */
export function conjunctsOf(condition: Expression, stage: NodeId): readonly Conjunct[] {
  let conjuncts = takenApart.get(condition);
  if (conjuncts === undefined || conjuncts[0]?.stage !== stage) {
    conjuncts = takeApart(condition, stage);
    takenApart.set(condition, conjuncts);
  }
  return conjuncts;
}

function takeApart(condition: Expression, stage: NodeId): Conjunct[] {
  const parts = condition.kind === 'and' ? condition.operands : [condition];
  return parts.flatMap((part) =>
    part.kind === 'and' ? takeApart(part, stage) : [{ expression: part, stage, text: printExpression(part) }],
  );
}

/** By the first of the conditions joined, and the texts of all: what is joined again is compiled once. */
const joinedBefore = new WeakMap<Expression, Map<string, Expression>>();

/** Joins conditions again; undefined where there are none. */
export function joined(conjuncts: readonly Conjunct[]): Expression | undefined {
  const [first] = conjuncts;
  if (first === undefined) return undefined;
  if (conjuncts.length === 1) return first.expression;
  let known = joinedBefore.get(first.expression);
  if (known === undefined) joinedBefore.set(first.expression, (known = new Map()));
  const key = conjuncts.map(({ text }) => text).join('\n');
  let expression = known.get(key);
  if (expression === undefined) {
    expression = { kind: 'and', operands: conjuncts.map((conjunct) => conjunct.expression), id: first.expression.id };
    known.set(key, expression);
  }
  return expression;
}
