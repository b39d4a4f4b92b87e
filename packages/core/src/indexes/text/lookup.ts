import { wordCallOf } from '../../expressions/emitWords.ts';
import type { Call, Expression } from '../../language/tree.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import { readWords, type WordQuestion } from '../../words/question.ts';
import type { IndexDefinition } from '../definition.ts';
import type { Asked, FoundPath } from '../kind.ts';
import type { PathPostings, PhraseWord } from './pathPostings.ts';
import type { TextIndex } from './textIndex.ts';

/** Words that are looked for at some of the keys, by their places. */
interface WordLookup {
  readonly kind: 'words';
  readonly question: WordQuestion;
  readonly paths: readonly number[];
  readonly how: WordsTogether;
}
/** In which way the words of a question have to be there. */
type WordsTogether = 'any' | 'all' | 'phrase';

/** What is asked of a text index at run time: words, or what several conditions find together. */
export type TextLookup = WordLookup | { readonly kind: 'either' | 'both'; readonly of: readonly TextLookup[] };

const conditions: ReadonlyMap<string, WordsTogether> = new Map([
  ['mentions_any', 'any'],
  ['mentions_all', 'all'],
  ['mentions_phrase', 'phrase'],
]);
export const isMention = (expression: Expression): expression is Call => expression.kind === 'call' && conditions.has(expression.name);
const wordsOfHow = { any: 'some of', all: 'each of', phrase: 'the phrase' };

/** The places of the keys that a call reads, where an index has all of them, analysed in the same language. */
export function keysOf({ keys, language }: IndexDefinition, call: Call): readonly number[] | undefined {
  const asked = wordCallOf(call);
  if (asked.language !== language) return undefined;
  const places = asked.paths.map((path) => keys.findIndex(({ text }) => text === printExpression({ ...path, root: { kind: 'current' } })));
  return places.length === 0 || places.includes(-1) ? undefined : places;
}

/** A condition as the index finds documents for it: perhaps more than meet it, where it is not exact. */
interface Read {
  readonly lookup: TextLookup;
  readonly words: string;
  readonly isExact: boolean;
}

/** The ways in which an index finds the documents that mention words; why it cannot, where there is none. */
export function matchMentions(index: TextIndex, asked: Asked): readonly FoundPath[] | string {
  let reason = 'no words are asked for';
  const ways = asked.conditions.flatMap((condition, at): FoundPath[] => {
    const read = readCondition(index, condition, asked);
    if (typeof read === 'string') {
      if (read !== '') reason = read;
      return [];
    }
    const { lookup, words, isExact } = read;
    return [{ lookup, words, entries: aboutHowMany(index, lookup), used: [at], served: isExact ? [at] : [] }];
  });
  return ways.length === 0 ? reason : ways;
}

/** How a condition is looked for: where one of several has to hold, each of them, and where all have to, some. Why not, where it is not. */
function readCondition(index: TextIndex, condition: Expression, asked: Asked): Read | string {
  if (condition.kind === 'or' || condition.kind === 'and') {
    const parts = condition.operands.map((operand) => readCondition(index, operand, asked));
    const read = parts.filter((part) => typeof part !== 'string');
    const isWhole = read.length === parts.length;
    if (read.length === 0 || (condition.kind === 'or' && !isWhole)) return parts.find((part) => typeof part === 'string') ?? '';
    const [kind, between] = condition.kind === 'or' ? (['either', ' or '] as const) : (['both', ' and '] as const);
    return { lookup: { kind, of: read.map(({ lookup }) => lookup) }, words: read.map(({ words }) => words).join(between), isExact: isWhole && read.every(({ isExact }) => isExact) }; // prettier-ignore
  }
  return isMention(condition) ? readMention(index, condition, asked) : '';
}

function readMention(index: TextIndex, mention: Call, { valueOf }: Asked): Read | string {
  const { definition } = index;
  const paths = keysOf(definition, mention);
  const { language, words: asked } = wordCallOf(mention);
  if (paths === undefined) return language === definition.language ? 'words are asked for at other paths' : `words are asked for in ${language ?? 'no language'}, and it is of ${definition.language ?? 'none'}`; // prettier-ignore
  const words = valueOf(asked);
  const question = readWords(typeof words === 'string' ? words : '', definition.language);
  const how = conditions.get(mention.name)!;
  const said = typeof words === 'string' ? JSON.stringify(words) : 'no words';
  const where = paths.map((p) => definition.keys[p]!.text).join(', ');
  return {
    lookup: { kind: 'words', question, paths, how },
    words: `${wordsOfHow[how]} ${said} in ${where}`,
    isExact: true,
  };
}

/** About how many documents there are: none more than the rarest word has. */
function aboutHowMany(index: TextIndex, lookup: TextLookup): number {
  if (lookup.kind !== 'words') {
    const each = lookup.of.map((one) => aboutHowMany(index, one));
    return lookup.kind === 'both' ? Math.min(...each) : each.reduce((sum, one) => sum + one, 0);
  }
  const { question, paths, how } = lookup;
  const sizes = question.words.map((word) => paths.reduce((sum, p) => sum + (index.paths[p]!.wordPostings(word)?.size ?? 0), 0));
  if (sizes.length === 0) return 0;
  const most = Math.max(...paths.map((p) => index.paths[p]!.documents));
  return Math.min(most * paths.length, how === 'any' ? sizes.reduce((sum, size) => sum + size, 0) : Math.min(...sizes));
}

/** The positions of documents that have some, or each, of the words at some of the paths; each once, ascending. */
export function findMentions(index: TextIndex, lookup: TextLookup): Uint32Array {
  if (lookup.kind !== 'words') return together(lookup.of.map((one) => findMentions(index, one)), lookup.kind === 'both'); // prettier-ignore
  const { question, paths, how } = lookup;
  if (how === 'phrase') return union(paths.map((p) => findPhrase(index.paths[p]!, question)));
  const lists = question.words.map((word) => union(paths.flatMap((p) => index.paths[p]!.wordPostings(word)?.positionList ?? [])));
  return together(lists, how === 'all');
}

/** Documents that have all the words of a phrase at a path, those of them alone where they stand one after another. */
function findPhrase(path: PathPostings, { words, phrase }: WordQuestion): Uint32Array {
  const meeting = words.map((word) => path.meeting(word));
  const found = together(
    meeting.map((lists) => union(lists.map(({ positionList }) => positionList))),
    true,
  );
  const numbers = meeting.map((lists): PhraseWord => (lists.length === 1 ? lists[0]!.number : new Set(lists.map(({ number }) => number))));
  const inOrder = phrase.map((word) => numbers[word]);
  return phrase.length === 1 ? found : found.filter(path.phraseFinder(inOrder));
}

/** What stands in each of some lists, or in any of them. */
function together(lists: Uint32Array[], inEach: boolean): Uint32Array {
  if (!inEach) return union(lists);
  const [least, ...others] = lists.sort((a, b) => a.length - b.length);
  return least === undefined ? new Uint32Array(0) : others.reduce(intersection, least);
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
