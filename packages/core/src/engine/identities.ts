import { readField } from '../values/fields.ts';
import type { Json, Value } from '../values/json.ts';

/** A document's identity as text; undefined where it has none. */
export function identityText(document: Json, names: readonly string[]): string | undefined {
  const identity = names.reduce<Value>((at, name) => readField(at, name), document);
  return typeof identity === 'string' || typeof identity === 'number' ? String(identity) : undefined;
}
