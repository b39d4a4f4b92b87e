import type { PublishedField } from '@zesty-sieve/contract';

/** One row of a condition, as somebody fills it in who writes none. */
export interface ConditionRow {
  readonly path: string;
  readonly test: RowTest;
  readonly value: string;
}
export type RowTest =
  'is' | 'is not' | 'at least' | 'at most' | 'above' | 'below' | 'one of' | 'contains' | 'begins with' | 'is there' | 'is missing';
export type Joined = 'all' | 'any';

const comparisons: Partial<Record<RowTest, string>> = {
  is: '==',
  'is not': '!=',
  'at least': '>=',
  'at most': '<=',
  above: '>',
  below: '<',
};
const ofTexts: readonly RowTest[] = ['is', 'is not', 'one of', 'contains', 'begins with', 'is there', 'is missing'];
const ofOrder: readonly RowTest[] = ['is', 'is not', 'at least', 'at most', 'above', 'below', 'one of', 'is there', 'is missing'];

/** The tests that a field takes, by what its values are. */
export function testsOf({ type, choices }: PublishedField): readonly RowTest[] {
  if (choices !== undefined) return ['is', 'is not', 'one of', 'is there', 'is missing'];
  if (type === 'boolean') return ['is', 'is there', 'is missing'];
  if (type === 'number' || type === 'date') return ofOrder;
  return type === 'text' ? ofTexts : [...new Set([...ofOrder, ...ofTexts])];
}

export const takesValue = (test: RowTest): boolean => test !== 'is there' && test !== 'is missing';

/** The condition in the notation that rows make; empty where none is filled in. */
export function conditionOf(rows: readonly ConditionRow[], joined: Joined, fields: readonly PublishedField[]): string {
  const texts = rows.flatMap((row) => {
    const field = fields.find(({ path }) => path === row.path);
    const text = field && textOf(row, field);
    return text === undefined ? [] : [text];
  });
  return texts.join(joined === 'all' ? ' && ' : ' || ');
}

function textOf({ path, test, value }: ConditionRow, field: PublishedField): string | undefined {
  if (test === 'is there') return `exists(${path})`;
  if (test === 'is missing') return `!exists(${path})`;
  if (value.trim() === '') return undefined;
  if (test === 'one of') {
    const items = itemsOf(value);
    return items.length === 0 ? undefined : `${path} in [${items.map((one) => literal(one, field)).join(', ')}]`;
  }
  if (test === 'contains') return `contains(${path}, ${JSON.stringify(value)})`;
  if (test === 'begins with') return `starts_with(${path}, ${JSON.stringify(value)})`;
  return `${path} ${comparisons[test] ?? '=='} ${literal(value.trim(), field)}`;
} // prettier-ignore

const item = /\s*(?:("(?:[^"\\]|\\.)*")\s*(?=,|$)|([^,]*))(?:,|$)/g;

/** The items of a list as somebody types one: between commas; one that holds a comma itself stands in double quotes, as a JSON string does. */
export function itemsOf(value: string): string[] {
  const items = [...value.matchAll(item)].map(([, quoted, plain = '']) => (quoted === undefined ? plain.trim() : shown(quoted)));
  return items.filter((one) => one !== '');
}

/** Items as one types them, so that `itemsOf` gives them back. */
export const listOf = (items: readonly string[]): string =>
  items.map((one) => (/^[\s"]|\s$|,/.test(one) ? JSON.stringify(one) : one)).join(', ');

/** A row with another test: its value goes along, as one of a list or as the first of what was one. */
export function retested(row: ConditionRow, test: RowTest): ConditionRow {
  if ((test === 'one of') === (row.test === 'one of')) return { ...row, test };
  return { ...row, test, value: test === 'one of' ? listOf(row.value === '' ? [] : [row.value]) : (itemsOf(row.value)[0] ?? '') };
}

/** A number as JSON writes it (RFC 8259). */
const number = /^-?(0|[1-9]\d*)(\.\d+)?([eE][+-]?\d+)?$/;

/** A value as a constant: by the field's type, or, where none is said, by what it looks like. */
function literal(value: string, { type, choices }: PublishedField): string {
  const choice = choices?.find((one) => String(one) === value);
  if (choice !== undefined) return JSON.stringify(choice);
  if (type === 'text' || type === 'date') return JSON.stringify(value);
  if (value === 'true' || value === 'false') return value;
  if (number.test(value)) return value;
  // However a number is typed, as `.5` and `007` are, it is one.
  return type === 'number' && Number.isFinite(Number(value)) ? String(Number(value)) : JSON.stringify(value);
}

const test =
  /^(!?)exists\((.+)\)$|^(contains|starts_with)\((.+?), ("(?:[^"\\]|\\.)*")\)$|^(.+?) (==|!=|>=|<=|>|<) (.+)$|^(.+?) in \[(.*)\]$/;

/** The rows of a condition that rows have made; undefined for one that was written otherwise. */
export function rowsOf(
  text: string,
  fields: readonly PublishedField[],
): { readonly rows: readonly ConditionRow[]; readonly joined: Joined } | undefined {
  if (text.trim() === '') return { rows: [], joined: 'all' };
  const joined: Joined = outside(text, ' || ').length > 1 ? 'any' : 'all';
  const rows = outside(text, joined === 'any' ? ' || ' : ' && ').map(rowOf);
  const known = rows.flatMap((row) => (row !== undefined && fields.some(({ path }) => path === row.path) ? [row] : []));
  return known.length === rows.length && conditionOf(known, joined, fields) === text ? { rows: known, joined } : undefined;
}

function rowOf(text: string): ConditionRow | undefined {
  const found = test.exec(text);
  if (found === null) return undefined;
  const [, not, there, call, callPath, callValue, path, operator, value, inPath, items] = found;
  if (there !== undefined) return { path: there, test: not === '!' ? 'is missing' : 'is there', value: '' };
  if (call !== undefined)
    return { path: callPath ?? '', test: call === 'contains' ? 'contains' : 'begins with', value: shown(callValue ?? '') };
  if (inPath !== undefined)
    return {
      path: inPath,
      test: 'one of',
      value: listOf(outside(items ?? '', ', ').map(shown)),
    };
  const name = (Object.keys(comparisons) as RowTest[]).find((one) => comparisons[one] === operator);
  return name === undefined ? undefined : { path: path ?? '', test: name, value: shown(value ?? '') };
}

const shown = (constant: string): string => {
  try {
    const value = JSON.parse(constant) as unknown;
    return typeof value === 'string' ? value : constant;
  } catch {
    return constant;
  }
};

/** A text in the parts between a separator, as far as that stands outside of texts. */
function outside(text: string, separator: string): string[] {
  const parts: string[] = [];
  let from = 0;
  let isInside = false;
  for (let at = 0; at < text.length; at++) {
    if (text[at] === '\\') at++;
    else if (text[at] === '"') isInside = !isInside;
    else if (!isInside && text.startsWith(separator, at)) {
      parts.push(text.slice(from, at));
      from = at + separator.length;
      at = from - 1;
    }
  }
  return [...parts, text.slice(from)];
}
