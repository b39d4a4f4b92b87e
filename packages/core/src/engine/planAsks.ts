import { parseConditionText } from '../language/surfaces/notation/texts.ts';
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
