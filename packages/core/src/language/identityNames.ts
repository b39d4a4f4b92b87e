import { parseValueText } from './surfaces/notation/texts.ts';
import { fieldNames } from './tree.ts';

/** The names of an identity's path, such as `@.key.no` or `@["hut no"]`; none where it is no such path. */
export function identityNames(path: string): readonly string[] {
  const read = parseValueText(path);
  return 'expression' in read && read.expression.kind === 'path' ? (fieldNames(read.expression) ?? []) : [];
}
