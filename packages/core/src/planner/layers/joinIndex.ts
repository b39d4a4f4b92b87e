import { printExpression } from '../../language/surfaces/notation/print.ts';
import { isSingle, type Expression } from '../../language/tree.ts';
import type { JoinMatch } from '../physical.ts';
import type { IndexStatistics } from '../statistics.ts';
import type { LayContext } from './layer.ts';

/** An index whose first key is what the partners are looked up by. */
export function servingIndex(
  indexes: readonly IndexStatistics[],
  match: JoinMatch,
  { indexIsAllowed, isNamed }: LayContext,
): IndexStatistics | undefined {
  const serving = indexes.filter(({ definition, built }) => {
    if (built === undefined || definition.where !== undefined || !indexIsAllowed(definition.name)) return false;
    return keyServed(match, definition.keys[0]!.text) !== undefined;
  });
  return serving.find(({ definition }) => isNamed(definition.name)) ?? serving[0];
}

/** Which of the keys an index's first key is. An index on an array's elements serves a list on the partner's side. */
function keyServed({ rightKeys, rightIsList }: JoinMatch, text: string): number | undefined {
  const at = rightKeys.findIndex((key) => (rightIsList ? elementsText(key) : printExpression(key)) === text);
  return at < 0 ? undefined : at;
}

/** The key that has an entry for each element of a list: of a path to several its nodes are the elements already. */
function elementsText(list: Expression): string | undefined {
  if (list.kind !== 'path') return undefined;
  return isSingle(list) ? `${printExpression(list)}[*]` : printExpression(list);
}

/**
 * An index gives the partners of one key; the other equalities are tested on each, as they were written. So is the one of an
 * index on elements, which has those of objects too, where a list alone is asked for.
 */
export function singleKey(
  match: JoinMatch,
  equalities: readonly Expression[],
  index: IndexStatistics,
): Pick<JoinMatch, 'leftKeys' | 'rightKeys' | 'residual'> {
  const at = keyServed(match, index.definition.keys[0]!.text) ?? 0;
  const tested = equalities.filter((_, i) => i !== at || match.rightIsList);
  const operands = [...tested, ...(match.residual === undefined ? [] : [match.residual])];
  const [first] = operands;
  const residual: Expression | undefined = first === undefined || operands.length < 2 ? first : { kind: 'and', operands, id: first.id };
  return { leftKeys: [match.leftKeys[at]!], rightKeys: [match.rightKeys[at]!], residual };
}

/** Different first keys of an index, from a few of its ranges where it is built; about. */
export function distinctKeys(index: IndexStatistics, documents: number): number {
  if (index.definition.unique) return index.entries;
  return index.built?.distinctEstimate() ?? documents;
}
