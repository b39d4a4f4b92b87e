import { descend, type FieldTree } from '../../../shape/fieldTree.ts';
import type { Completion, Completions } from '../../completions.ts';
import { describeField } from '../../describeField.ts';
import type { Token } from '../notation/tokens.ts';
import { functionNames } from './functions.ts';
import { specialForms } from './parse/calls.ts';
import { tokenizeSql } from './tokens.ts';
import type { Known } from './translate/work.ts';
import { sqlName } from './words.ts';

const isWord = (token: Token | undefined, ...words: readonly string[]): boolean => token?.kind === 'name' && token.quoted === undefined && words.includes(token.text.toUpperCase()); // prettier-ignore
const isSign = (token: Token | undefined, sign: string): boolean => token?.kind === 'sign' && token.text === sign;

/** What the names of FROM stand for, as far as it is written: tables, and elements of their arrays. */
export function tablesIn(tokens: readonly Token[], known: Known): ReadonlyMap<string, FieldTree | undefined> {
  const tables = new Map<string, FieldTree | undefined>();
  tokens.forEach((token, i) => {
    if (beginsTables(tokens, i) || (isSign(token, ',') && isInFrom(tokens, i))) {
      const name = tokens[i + 1];
      if (name?.kind !== 'name' || isWord(name, 'UNNEST', 'JSON_TABLE', 'SELECT', 'LATERAL')) return;
      const alias = aliasAt(tokens, i + 2);
      if (known.collections?.includes(name.text) !== false) tables.set(alias ?? name.text, known.shapeOf?.(name.text));
    }
    if (isWord(token, 'UNNEST') && isSign(tokens[i + 1], '(')) {
      const close = tokens.findIndex((one, k) => k > i && isSign(one, ')'));
      const steps = tokens.slice(i + 2, close).flatMap((one) => (one.kind === 'name' ? [one.text] : []));
      const alias = close < 0 ? undefined : aliasAt(tokens, isWord(tokens[close + 1], 'WITH') ? close + 3 : close + 1);
      if (alias !== undefined) tables.set(alias, treeAt(steps, tables)?.element);
    }
  });
  return tables;
}

/** Whether tables come after a word: after the FROM of a question, not that of IS DISTINCT FROM or SUBSTRING(… FROM …). */
function beginsTables(tokens: readonly Token[], at: number): boolean {
  if (isWord(tokens[at], 'JOIN')) return true;
  if (!isWord(tokens[at], 'FROM') || (isWord(tokens[at - 1], 'DISTINCT') && isWord(tokens[at - 2], 'IS', 'NOT'))) return false;
  const open = openBefore(tokens, at);
  return open < 0 || isWord(tokens[open + 1], 'SELECT', 'WITH');
}

/** Whether a comma stands between tables: in FROM, and in no brackets there. */
function isInFrom(tokens: readonly Token[], at: number): boolean {
  const clause = tokens.findLastIndex((token, i) => i < at && isWord(token, 'FROM', 'SELECT', 'WHERE', 'GROUP', 'ORDER', 'HAVING'));
  return clause >= 0 && beginsTables(tokens, clause) && openBefore(tokens, at) < clause;
}

/** The innermost bracket that is open at a place; −1 where none is. */
function openBefore(tokens: readonly Token[], at: number): number {
  let closed = 0;
  for (let i = at - 1; i >= 0; i--) {
    if (isSign(tokens[i], ')')) closed++;
    else if (isSign(tokens[i], '(') && --closed < 0) return i;
  }
  return -1;
}

/** The alias after a table, where one stands: after AS, or alone. */
function aliasAt(tokens: readonly Token[], at: number): string | undefined {
  const place = isWord(tokens[at], 'AS') ? at + 1 : at;
  const token = tokens[place];
  const isClause = isWord(token, 'JOIN', 'LEFT', 'INNER', 'CROSS', 'ON', 'WHERE', 'GROUP', 'ORDER', 'LIMIT', 'OFFSET', 'HAVING', 'USING', 'FETCH', 'WITH'); // prettier-ignore
  return token?.kind === 'name' && !isClause ? token.text : undefined;
}

/** What stands at a path that begins with a table's name, or with a column of any table. */
function treeAt([first, ...rest]: readonly string[], tables: ReadonlyMap<string, FieldTree | undefined>): FieldTree | undefined {
  if (first === undefined) return undefined;
  const named = tables.get(first);
  if (named !== undefined) return descend(named, rest);
  for (const tree of tables.values()) {
    const found = tree && descend(tree, [first, ...rest]);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** The field at an offset, where a column's path stands there. */
export function sqlFieldAt(text: string, offset: number, known: Known): FieldTree | undefined {
  const tokens = tokenizeSql(text);
  const at = tokens.findIndex(({ from, to, kind }) => kind === 'name' && from <= offset && offset < to);
  return at < 0 ? undefined : treeAt([...stepsBefore(tokens, at), (tokens[at] as { text: string }).text], tablesIn(tokens, known));
}

/** The names of a path that stand before a token, each with its dot. */
function stepsBefore(tokens: readonly Token[], at: number): string[] {
  const steps: string[] = [];
  for (let i = at - 1; isSign(tokens[i], '.'); i -= 2) {
    let name = i - 1;
    // A place in brackets is of the array before it: what follows is of its elements.
    if (isSign(tokens[name], ']')) {
      name -= 3;
      i -= 3;
    }
    const token = tokens[name];
    if (token?.kind !== 'name') break;
    steps.unshift(token.text);
  }
  return steps;
}

/** What may be written at an offset of a text of SQL, half-typed as it may be. */
export function completeSql(text: string, offset: number, known: Known = {}): Completions | undefined {
  const before = tokenizeSql(text.slice(0, offset)).filter(({ kind }) => kind !== 'end' && kind !== 'comment');
  const last = before[before.length - 1];
  if (last?.kind === 'broken') return undefined;
  const isTyping = last?.kind === 'name' && last.to === offset;
  const from = isTyping ? last.from : offset;
  const previous = before[before.length - (isTyping ? 2 : 1)];
  if (isSign(previous, ':') || (last?.kind === 'number' && last.to === offset)) return undefined;
  const tables = tablesIn(tokenizeSql(text), known);
  if (isSign(previous, '.')) {
    const steps = stepsBefore(before, isTyping ? before.length - 1 : before.length);
    const tree = treeAt(steps, tables);
    return tree === undefined ? undefined : { from, options: fieldsOf(tree) };
  }
  const place = before.length - (isTyping ? 2 : 1);
  if (isWord(previous, 'DESCRIBE') || beginsTables(before, place) || (isSign(previous, ',') && isInFrom(before, place))) {
    const own = membersIn(before);
    const names = [...own, ...(known.collections ?? [])];
    const besides: Completion[] = isWord(previous, 'DESCRIBE') ? [] : [{ label: 'UNNEST', kind: 'word', insert: 'UNNEST(' }];
    return {
      from,
      options: [...names.map((name): Completion => ({ label: name, kind: 'collection', insert: sqlName(name) })), ...besides],
    };
  }
  return { from, options: [...columnsOf(tables), ...words(previous), ...functions] };
}

/** Members of WITH that are complete before a place. */
function membersIn(tokens: readonly Token[]): string[] {
  return tokens.flatMap((token, i) =>
    token.kind === 'name' && isWord(tokens[i + 1], 'AS') && isSign(tokens[i + 2], '(') ? [token.text] : [],
  );
}

function columnsOf(tables: ReadonlyMap<string, FieldTree | undefined>): Completion[] {
  const aliases = [...tables].map(([label]): Completion => ({ label, kind: 'collection', detail: 'table', insert: sqlName(label) }));
  return [...aliases, ...[...tables.values()].flatMap((tree) => (tree === undefined ? [] : fieldsOf(tree)))];
}

function fieldsOf(tree: FieldTree): Completion[] {
  const fields = tree.fields.size > 0 ? tree.fields : (tree.element?.fields ?? new Map<string, FieldTree>());
  return [...fields].map(([label, { info }]): Completion => ({ label, kind: 'field', insert: sqlName(label), ...describeField(info) }));
}

const functions: readonly Completion[] = [...functionNames, ...Object.keys(specialForms)].map((label) => ({ label, kind: 'function', insert: `${label}(` })); // prettier-ignore

/** Words of clauses that may follow. */
function words(previous: Token | undefined): Completion[] {
  const labels = previous === undefined
    ? ['SELECT', 'WITH', 'DESCRIBE', 'SHOW TABLES', 'EXPLAIN']
    : ['FROM', 'JOIN', 'LEFT JOIN', 'CROSS JOIN', 'WHERE', 'GROUP BY', 'HAVING', 'ORDER BY', 'LIMIT', 'OFFSET', 'AND', 'OR', 'NOT', 'AS', 'ON', 'USING', 'IN', 'LIKE', 'BETWEEN', 'IS NULL', 'IS NOT NULL', 'IS DISTINCT FROM', 'CASE', 'WHEN', 'THEN', 'ELSE', 'END', 'DESC', 'NULLS FIRST', 'DISTINCT', 'TRUE', 'FALSE', 'NULL', 'FILTER (WHERE', 'OVER (', 'PARTITION BY', 'WITH ORDINALITY']; // prettier-ignore
  return labels.map((label) => ({ label, kind: 'word' }));
} // prettier-ignore
