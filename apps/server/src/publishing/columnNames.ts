import { fieldNames, parseValueText } from '@zesty-sieve/core/language';

/** The fields that a column's path goes through, `@.fee["per night"]` through two; undefined where it is no path of single fields from a row. */
export function columnNames(path: string): readonly string[] | undefined {
  return namesFrom(path) ?? (/^[@$]/.test(path) ? undefined : namesFrom(`@.${path}`));
}

function namesFrom(path: string): readonly string[] | undefined {
  const read = parseValueText(path);
  if (!('expression' in read) || read.expression.kind !== 'path' || read.expression.root.kind === 'partner') return undefined;
  const names = fieldNames(read.expression);
  return names === undefined || names.length === 0 ? undefined : names;
}
