import { wordCallOf } from '../../expressions/emitWords.ts';
import type { Call, Expression } from '../../language/tree.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import { readWords, type WordQuestion } from '../../words/question.ts';
import type { IndexDefinition } from '../definition.ts';
import type { Asked, FoundPath } from '../kind.ts';
import type { TextIndex } from './textIndex.ts';

/** What is asked of a text index at run time. */
export interface TextLookup {
  readonly question: WordQuestion;
  /** Places of keys. */
  readonly paths: readonly number[];
  readonly how: 'any' | 'all';
}

const conditions: ReadonlySet<string> = new Set(['mentions_any', 'mentions_all', 'mentions_phrase']);
export const isMention = (expression: Expression): expression is Call => expression.kind === 'call' && conditions.has(expression.name);

/** The places of the keys that a call reads, where an index has all of them, analysed in the same language. */
export function keysOf({ keys, language }: IndexDefinition, call: Call): readonly number[] | undefined {
  const asked = wordCallOf(call);
  if (asked.language !== language) return undefined;
  const places = asked.paths.map((path) => keys.findIndex(({ text }) => text === printExpression({ ...path, root: { kind: 'current' } })));
  return places.length === 0 || places.includes(-1) ? undefined : places;
}

/** The ways in which an index finds the documents that mention words; why it cannot, where there is none. */
export function matchMentions(index: TextIndex, { conditions: asked, valueOf }: Asked): readonly FoundPath[] | string {
  let reason = 'no words are asked for';
  const ways = asked.flatMap((condition, at): FoundPath[] => {
    if (!isMention(condition)) return [];
    const paths = keysOf(index.definition, condition);
    if (paths === undefined) {
      const { language } = wordCallOf(condition);
      reason = language === index.definition.language ? 'words are asked for at other paths' : `words are asked for in ${language ?? 'no language'}, and it is of ${index.definition.language ?? 'none'}`; // prettier-ignore
      return [];
    }
    const words = valueOf(wordCallOf(condition).words);
    const question = readWords(typeof words === 'string' ? words : '', index.definition.language);
    const how = condition.name === 'mentions_any' ? 'any' : 'all';
    const lookup: TextLookup = { question, paths, how };
    const said = typeof words === 'string' ? JSON.stringify(words) : 'no words';
    const where = paths.map((p) => index.definition.keys[p]!.text).join(', ');
    return [{ lookup, words: `${how === 'any' ? 'some' : 'each'} of ${said} in ${where}`, entries: aboutHowMany(index, lookup), used: [at], served: condition.name === 'mentions_phrase' ? [] : [at] }]; // prettier-ignore
  });
  return ways.length === 0 ? reason : ways;
}

/** About how many documents there are: none more than the rarest word has. */
function aboutHowMany(index: TextIndex, { question, paths, how }: TextLookup): number {
  const sizes = question.words.map((word) => paths.reduce((sum, p) => sum + (index.paths[p]!.wordPostings(word)?.size ?? 0), 0));
  if (sizes.length === 0) return 0;
  const most = Math.max(...paths.map((p) => index.paths[p]!.documents));
  return Math.min(most * paths.length, how === 'all' ? Math.min(...sizes) : sizes.reduce((sum, size) => sum + size, 0));
}

/** The positions of documents that have some, or each, of the words at some of the paths; each once, ascending. */
export function findMentions(index: TextIndex, { question, paths, how }: TextLookup): Uint32Array {
  const lists = question.words.map((word) => union(paths.flatMap((p) => index.paths[p]!.wordPostings(word)?.positionList ?? [])));
  if (lists.length === 0) return new Uint32Array(0);
  if (how === 'any') return union(lists);
  const [least, ...others] = lists.sort((a, b) => a.length - b.length);
  return others.reduce(intersection, least!);
}

/** Ascending lists as one, in which each stands once. */
function union(lists: readonly Uint32Array[]): Uint32Array {
  const [first, ...more] = lists;
  if (first === undefined) return new Uint32Array(0);
  return more.reduce(merged, first);
}

function merged(a: Uint32Array, b: Uint32Array): Uint32Array {
  const found = new Uint32Array(a.length + b.length);
  let count = 0;
  for (let i = 0, j = 0; i < a.length || j < b.length;) {
    const one = a[i] ?? Infinity;
    const other = b[j] ?? Infinity;
    if (one <= other) i++;
    if (other <= one) j++;
    found[count++] = Math.min(one, other);
  }
  return found.subarray(0, count);
}

/** What stands in both: each of the few is looked up among the many, from where the last one stood (Bentley and Yao 1976). */
function intersection(few: Uint32Array, many: Uint32Array): Uint32Array {
  const found = new Uint32Array(few.length);
  let count = 0;
  let low = 0;
  for (const position of few) {
    let step = 1;
    while (low + step < many.length && many[low + step]! < position) step *= 2;
    let from = low + (step >> 1);
    let to = Math.min(many.length, low + step + 1);
    if (many[low]! >= position) [from, to] = [low, low];
    while (from < to) {
      const middle = (from + to) >>> 1;
      if (many[middle]! < position) from = middle + 1;
      else to = middle;
    }
    low = from;
    if (low >= many.length) break;
    if (many[low] === position) found[count++] = position;
  }
  return found.subarray(0, count);
}
