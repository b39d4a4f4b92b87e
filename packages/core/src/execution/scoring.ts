import { compileValue } from '../expressions/compile.ts';
import { kindOf } from '../indexes/kinds.ts';
import type { Scored } from '../indexes/kind.ts';
import type { Expression } from '../language/tree.ts';
import type { Runtime } from './runtime.ts';

/** What an index knows of the scores of an expression. */
export function scoredBy(
  at: { readonly collection: string; readonly index: string; readonly effort?: number | undefined },
  expression: Expression,
  runtime: Runtime,
): Scored {
  const { context } = runtime;
  const index = runtime.indexOf(at.collection, at.index);
  const { access } = kindOf(index.definition);
  if (access.by !== 'positions' || access.scoring === undefined)
    throw new Error(`a plan asks ${at.index} for scores, which it does not give`);
  const { documents } = runtime.storeOf(at.collection);
  const read = compileValue(index.definition.keys[0]!.expression);
  return access.scoring.score(index, expression, {
    valueOf: (constant) => compileValue(constant)({}, context),
    size: documents.length,
    read: (position) => documents[position] && read(documents[position], context),
    effort: at.effort,
  });
}
