import type { Expression } from '../../../tree.ts';
import { isNull } from './known.ts';

/** An array of what was collected, which is NULL where there were no rows to collect it from. */
export function collectedIn([test, then, otherwise]: readonly Expression[], value: (expression: Expression) => string): string | undefined {
  if (test?.kind !== 'comparison' || test.operator !== '>' || then === undefined || !isNull(otherwise!)) return undefined;
  const count = test.left.kind === 'path' ? value(test.left) : '';
  const array = value(then);
  const filter = /^COUNT\(\*\)(.*)$/s.exec(count)?.[1];
  return array.startsWith('JSON_ARRAYAGG(') && filter !== undefined && array.endsWith(`)${filter}`) ? array : undefined;
}
