import type { Json } from '@zesty-sieve/core/language';
import type { Random } from './random.ts';
import { isFields, type Fields, type Value } from './reference/values.ts';

/** Values that documents have, so that constants meet something. */
export function valuesIn(documents: readonly Fields[], random: Random): Json[] {
  const found: Json[] = [];
  const take = (value: Value) => void (value !== undefined && found.push(value));
  for (let i = 0; i < 12 && documents.length > 0; i++) {
    const one = random.pick(documents);
    for (const name of ['a', 'b', 'n', 't', 'k', 'id']) take(one[name]);
    if (isFields(one.o)) take(one.o.x);
    if (Array.isArray(one.tags)) take(one.tags[0]);
    if (Array.isArray(one.list) && isFields(one.list[0])) take(one.list[0].f);
  }
  return found;
}
