import { parseConditionText } from '../language/surfaces/notation/texts.ts';
import { readIndex } from '../indexes/kinds.ts';
import { nearest } from '../language/diagnostics/nearest.ts';
import type { Expression } from '../language/tree.ts';
import type { Collection } from './collection.ts';
import type { PlanRequest } from './requests.ts';

/** Whether nothing is insisted on that a view would not have. */
export function isOpen({ only, whatIf, useIndex, ways, throughStage }: PlanRequest): boolean {
  return (
    only === undefined && (whatIf ?? []).length === 0 && listed(useIndex).length + listed(ways).length === 0 && throughStage === undefined
  );
}

export function listed<T extends string>(one: T | readonly T[] | undefined): readonly T[] {
  return one === undefined ? [] : typeof one === 'string' ? [one] : one;
}

/** The condition that keeps some documents alone, by their identities. */
export function onlyThese(collection: Collection, only: PlanRequest['only']): Expression | undefined {
  if (only === undefined) return undefined;
  // 7 and "7" are one identity.
  const values = only.flatMap((identity) =>
    Number.isFinite(Number(identity)) && String(identity).trim() !== '' ? [String(identity), Number(identity)] : [identity],
  );
  const read = parseConditionText(`${collection.identityPath} in ${JSON.stringify(values)}`);
  return 'finding' in read ? undefined : read.expression;
}

/** What to say of an index that a request names and none of its collections has; undefined where there are all. */
export function unknownIndex(
  { useIndex, ignoreIndexes, whatIf }: PlanRequest,
  sourcesRead: () => readonly string[],
  collections: ReadonlyMap<string, Collection>,
): string | undefined {
  const named = [...listed(useIndex), ...(ignoreIndexes ?? [])];
  if (named.length === 0) return undefined;
  const sources = sourcesRead();
  const known = sources.flatMap((name) => collections.get(name)?.indexList ?? []).map(({ definition }) => definition.name);
  const imagined = (whatIf ?? []).map((request) => readIndex(request).name);
  const unknown = named.find((name) => !known.includes(name) && !imagined.includes(name));
  if (unknown === undefined) return undefined;
  const near = nearest(unknown, known);
  const meant = near === undefined ? '' : ` Did you mean ${near}?`;
  return `There is no index ${unknown} on ${sources.join(' or ')}.${meant} There ${known.length === 1 ? 'is' : 'are'} ${[...new Set(known)].join(', ')}.`;
}
