import { parseValueText } from '../language/surfaces/notation/texts.ts';
import { fieldNames } from '../language/tree.ts';
import { readField } from '../values/fields.ts';
import type { Json, Value } from '../values/json.ts';

/** The names of an identity's path, such as @.key.no. */
export function identityNames(path: string): readonly string[] {
  const read = parseValueText(path);
  return 'expression' in read && read.expression.kind === 'path' ? (fieldNames(read.expression) ?? []) : [];
}

/** A document's identity as text; undefined where it has none. */
export function identityText(document: Json, names: readonly string[]): string | undefined {
  const identity = names.reduce<Value>((at, name) => readField(at, name), document);
  return typeof identity === 'string' || typeof identity === 'number' ? String(identity) : undefined;
}
