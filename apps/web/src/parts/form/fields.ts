import { pathText, type FieldInfo, type FieldTree, type Kind } from '@zesty-sieve/core/language';

/** A field that a form offers: its path as written, and what is known of it. */
export interface OfferedField {
  readonly path: string;
  readonly info: FieldInfo | undefined;
  readonly depth: number;
}

const deepest = 4;

/** The fields of a row, parents before their fields. Elements of arrays are not fields of the row. */
export function offeredFields(tree: FieldTree): OfferedField[] {
  const offered: OfferedField[] = [];
  const visit = (at: FieldTree, names: readonly string[]): void => {
    for (const [name, below] of at.fields) {
      const chain = [...names, name];
      offered.push({ path: pathText(chain), info: below.info, depth: names.length });
      if (chain.length < deepest) visit(below, chain);
    }
  };
  visit(tree, []);
  return offered;
}

export function kindsOf(info: FieldInfo | undefined): Kind[] {
  return info === undefined ? [] : (Object.keys(info.types) as Kind[]).filter((kind) => (info.types[kind] ?? 0) > 0);
}

/** The text of a value's expression, as it stands in an input: a text without its quotes. */
export function shownValue(expression: string): string {
  if (expression.startsWith('"')) {
    try {
      return JSON.parse(expression) as string;
    } catch {
      return expression;
    }
  }
  return expression;
}

/** The expression for what stands in an input, by the types of the field that it is compared with. */
export function valueExpression(input: string, kinds: readonly Kind[]): string {
  const typed = input.trim();
  if (/^[:@$]/.test(typed) || /^[a-z_]+\(.*\)$/.test(typed)) return typed;
  if (typed === 'null') return typed;
  const isText = kinds.includes('text') && !kinds.includes('number') && !kinds.includes('boolean');
  if (isText) return JSON.stringify(input);
  if (typed === 'true' || typed === 'false') return typed;
  if (/^-?(?:0|[1-9]\d*)(?:\.\d+)?$/.test(typed) && !(kinds.length > 0 && !kinds.includes('number'))) return typed;
  return JSON.stringify(input);
}

/** A field whose texts are dates or instants (RFC 3339). */
export interface DateForm {
  readonly kind: 'date' | 'instant';
  readonly latest: string;
}

/** Whether a field's texts are dates, from the least and the greatest of them. */
export function dateForm(info: FieldInfo | undefined): DateForm | undefined {
  const { least, greatest } = info ?? {};
  if (typeof least !== 'string' || typeof greatest !== 'string') return undefined;
  const fits = (pattern: RegExp) => pattern.test(least) && pattern.test(greatest);
  if (fits(/^\d{4}-\d{2}-\d{2}$/)) return { kind: 'date', latest: greatest };
  if (fits(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}/)) return { kind: 'instant', latest: greatest };
  return undefined;
}
