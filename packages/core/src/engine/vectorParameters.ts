import { metrics } from '../indexes/vector/kind.ts';
import { expressionsOf } from '../language/checkPipeline.ts';
import { walk, type Expression } from '../language/tree.ts';
import type { Prepared } from './prepared.ts';

const none: ReadonlySet<string> = new Set();

/**
 * The parameters that stand in the scores of `best` alone, where they are vectors that others are compared with: no plan goes by
 * what is in them. None where a pipeline reads another one, whose text is not looked at here.
 */
export function vectorParameters({ stages, collection }: Prepared): ReadonlySet<string> {
  const compared = new Map<string, number>();
  const all = new Map<string, number>();
  const count = (counts: Map<string, number>, node: Expression): void => {
    if (node.kind === 'parameter') counts.set(node.name, (counts.get(node.name) ?? 0) + 1);
  };
  for (const { stage } of stages) {
    if ('source' in stage && (stage.kind !== 'from' || stage.source !== collection.name)) return none;
    for (const expression of expressionsOf(stage)) walk(expression, (node) => count(all, node));
    for (const score of stage.kind === 'best' ? stage.scores : []) {
      const call = score.expression.kind === 'negation' ? score.expression.operand : score.expression;
      if (call.kind === 'call' && Object.hasOwn(metrics, call.name)) for (const argument of call.arguments) count(compared, argument);
    }
  }
  return new Set([...compared.keys()].filter((name) => compared.get(name) === all.get(name)));
}
