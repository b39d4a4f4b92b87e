import type { Token } from '../notation/tokens.ts';
import { functionNames } from './functions.ts';
import { specialForms } from './parse/calls.ts';
import { parseSql } from './parse/parseSql.ts';
import { reserved } from './reserved.ts';
import { tokenizeSql } from './tokens.ts';

/** Words that begin a line: each clause of a SELECT, and each table of its FROM. */
const beginnings: readonly (readonly string[])[] = [
  ['FROM'], ['WHERE'], ['GROUP', 'BY'], ['HAVING'], ['ORDER', 'BY'], ['LIMIT'], ['OFFSET'], ['FETCH'], ['SELECT'],
  ['LEFT', 'OUTER', 'JOIN'], ['LEFT', 'JOIN'], ['INNER', 'JOIN'], ['CROSS', 'JOIN'], ['JOIN'],
]; // prettier-ignore

const isWord = (token: Token | undefined, word: string): boolean => token?.kind === 'name' && token.quoted === undefined && token.text.toUpperCase() === word; // prettier-ignore

const written: ReadonlySet<string> = new Set(
  'ROWS ROW ONLY FIRST NEXT LAST NULLS PARTITION FILTER WITHIN ORDINALITY COLUMNS PATH NESTED UNKNOWN KEY VALUE ABSENT RETURNING FOR TABLES DESCRIBE SHOW EXPLAIN RECURSIVE'.split(' '), // prettier-ignore
);

/**
 * A text of SQL in one layout: a clause a line, its words in capitals, subqueries indented. Comments, names and all else stay: a field
 * that is called like a word, such as `value`, is another one in capitals. A text with a character that has no meaning stays as it is.
 */
export function formatSql(text: string): string {
  const tokens = tokenizeSql(text).filter(({ kind }) => kind !== 'end');
  if (tokens.some(({ kind }) => kind === 'broken')) return text;
  const { names, readTo } = parseSql(text);
  const mayBeName = ({ from }: Token): boolean => names.has(from) || from >= readTo;
  let out = '';
  // For each open bracket, whether a question stands in it.
  const brackets: boolean[] = [];
  const depth = (): number => brackets.filter(Boolean).length;
  const line = (): void => {
    out = `${out.trimEnd()}\n${'  '.repeat(depth())}`;
  };
  tokens.forEach((token, i) => {
    const before = tokens[i - 1];
    const isInner = brackets.length > 0 && brackets[brackets.length - 1] === false;
    const begins = !isInner && beginsAt(tokens, i);
    if (token.text === ')' && token.kind === 'sign' && brackets.pop() === true) line();
    else if (begins && out !== '') line();
    else if (before?.kind === 'comment' && before.text.startsWith('--')) line();
    else if (needsSpace(before, token, tokens[i - 2])) out += ' ';
    out += textOf(token, tokens[i + 1], before, mayBeName(token));
    if (token.kind === 'sign' && token.text === '(') {
      brackets.push(isWord(tokens[i + 1], 'SELECT') || isWord(tokens[i + 1], 'WITH'));
      if (brackets[brackets.length - 1]) line();
    }
  });
  return out.trim();
}

/** Whether the first of a clause's words stands here, and not one in the middle of them. */
function beginsAt(tokens: readonly Token[], i: number): boolean {
  const previous = tokens[i - 1];
  if (isWord(tokens[i], 'JOIN') && ['LEFT', 'INNER', 'CROSS', 'OUTER'].some((word) => isWord(previous, word))) return false;
  // IS DISTINCT FROM, and a field that is called like a clause.
  if (isWord(tokens[i], 'FROM') && isWord(previous, 'DISTINCT')) return false;
  if (previous?.kind === 'sign' && previous.text === '.') return false;
  return beginnings.some((words) => words.every((word, k) => isWord(tokens[i + k], word)));
}

function needsSpace(before: Token | undefined, token: Token, beforeThat: Token | undefined): boolean {
  if (before === undefined || (before.kind === 'sign' && ['(', '[', '.'].includes(before.text))) return false;
  // Two of them would begin a comment.
  if (before.kind === 'sign' && before.text === '-' && token.text === '-') return true;
  if (before.kind === 'sign' && before.text === ':' && beforeThat?.kind !== 'string') return false;
  if (before.kind === 'sign' && before.text === '-' && (beforeThat?.kind === 'sign' || (beforeThat?.kind === 'name' && reserved.has(beforeThat.text.toUpperCase())))) return false; // prettier-ignore
  if (token.kind !== 'sign') return true;
  if ([',', ')', ']', '.'].includes(token.text)) return false;
  if (token.text === '[') return false;
  if (token.text === ':') return before.kind !== 'string';
  // A call stands at its brackets; a word of the language does not.
  if (token.text === '(') return before.kind === 'sign' || isSpaced(before);
  return true;
}

function isSpaced(before: Token): boolean {
  if (before.kind !== 'name' || before.quoted) return true;
  const word = before.text.toUpperCase();
  return (reserved.has(word) && !['EXISTS', 'CAST', 'UNNEST'].includes(word)) || ['FILTER', 'GROUP', 'COLUMNS'].includes(word);
}

const calls: ReadonlySet<string> = new Set([...functionNames, ...Object.keys(specialForms), 'UNNEST', 'JSON_TABLE']);

function textOf(token: Token, next: Token | undefined, before: Token | undefined, mayBeName: boolean): string {
  if (token.kind === 'sign') return token.text === '!=' ? '<>' : token.text;
  if (token.kind !== 'name') return token.text;
  if (token.quoted) return `"${token.text.replace(/"/g, '""')}"`;
  const word = token.text.toUpperCase();
  const isInside = before?.kind === 'sign' && (before.text === '.' || before.text === ':');
  if (isInside) return token.text;
  if (mayBeName) return reserved.has(word) ? word : token.text;
  const isCall = calls.has(word) && next?.kind === 'sign' && next.text === '(';
  const isPart = (word === 'PARTITION' && isWord(next, 'BY')) || (word === 'FILTER' && next?.text === '(');
  return reserved.has(word) || isCall || isPart || written.has(word) ? word : token.text;
}
