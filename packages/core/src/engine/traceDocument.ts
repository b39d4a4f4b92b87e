import type { NodeId } from '../language/places.ts';
import { compileCondition, compileValue } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import { printExpression } from '../language/surfaces/notation/print.ts';
import { isSingle, walk, type Expression } from '../language/tree.ts';
import { conjunctsOf } from '../planner/conjuncts.ts';
import type { PlannedStage } from '../planner/logical.ts';
import { traitsOf } from '../planner/traits.ts';
import type { Json, Value } from '../values/json.ts';

/** A part of a condition, whether it held, and the values that it saw. */
export interface TracedCondition {
  readonly condition: string;
  readonly held: boolean;
  readonly values: readonly { readonly path: string; readonly value: Json | null; readonly missing: boolean }[];
}

/** What happened to the document at one line. */
export interface TracedLine {
  readonly line: number;
  readonly outcome: 'kept' | 'dropped' | 'changed' | 'absent';
  readonly conditions: readonly TracedCondition[];
  /** The 1-based place among the rows that reach a line which goes by places, and how many those are. */
  readonly place?: { readonly at: number; readonly of: number };
  /** What the document looks like after the line, where it is kept. */
  readonly row?: Json;
  /** How many rows there are of the document here. */
  readonly rows?: number;
}

export interface Trace {
  readonly identity: string;
  readonly found: boolean;
  readonly lines: readonly TracedLine[];
  /** The line that dropped it; undefined where it is in the result. */
  readonly droppedAt: number | undefined;
}

/** The conditions of a `where`, each tested for itself on a row. */
export function traceConditions(condition: Expression, stage: NodeId, row: Json, context: Context): TracedCondition[] {
  return conjunctsOf(condition, stage).map(({ expression, text }) => ({
    condition: text,
    held: compileCondition(expression)(row, context),
    values: pathsIn(expression).map((path) => {
      const value: Value = compileValue(path)(row, context);
      return { path: printExpression(path), value: value ?? null, missing: value === undefined };
    }),
  }));
}

/** The outermost paths of an expression, each once. */
function pathsIn(expression: Expression): Expression[] {
  const found = new Map<string, Expression>();
  const inside = new Set<Expression>();
  walk(expression, (node) => {
    if (node.kind !== 'path') return;
    const nested = inside.has(node);
    walk(node, (inner) => inner !== node && inside.add(inner));
    const start = isSingle(node)
      ? node
      : {
          ...node,
          segments: node.segments.slice(
            0,
            node.segments.findIndex(({ selectors, descendant }) => descendant || selectors[0]!.kind !== 'name'),
          ),
        };
    if (!nested && start.segments.length > 0) found.set(printExpression(start), start);
  });
  return [...found.values()];
}

/** Stages at which it depends on other rows what happens to one. */
export function goesByPlace({ stage }: PlannedStage): boolean {
  const { gives, order, looksAtOrder } = traitsOf(stage);
  return gives(stage) !== 'new' && (order === 'made' || looksAtOrder(stage));
}
