import { isLanguageName, type LanguageName } from '../words/languageNames.ts';
import { pathsOf } from '../language/relevancePlace.ts';
import type { Call, Expression, PathExpression } from '../language/tree.ts';
import { printExpression } from '../language/surfaces/notation/print.ts';
import type { Value } from '../values/json.ts';
import { excerpt } from '../words/excerpt.ts';
import { mentions, mentionsPhrase } from '../words/mentions.ts';
import { readWords, type WordQuestion } from '../words/question.ts';
import { relevance } from '../words/relevance.ts';
import type { Context } from './context.ts';
import type { Atom, Emitter, Variables } from './emitter.ts';

/** The calls whose first argument is paths to texts and whose second is the words that are asked for. */
export type WordCallName = 'mentions_any' | 'mentions_all' | 'mentions_phrase' | 'relevance' | 'excerpt';

/** What a call asks for, as far as its text says it. */
export interface WordCall {
  readonly paths: readonly PathExpression[];
  readonly words: Expression;
  readonly language: LanguageName | undefined;
  readonly weights: Expression | undefined;
  /** The paths and the language: what statistics are kept by, beside the words. */
  readonly key: string;
}

export function wordCallOf(call: Call): WordCall {
  const [, words, language, weights] = call.arguments;
  const paths = pathsOf(call);
  const name = language?.kind === 'literal' && isLanguageName(language.value) ? language.value : undefined;
  return { paths, words: words!, language: name, weights, key: `${name ?? ''} ${paths.map((path) => printExpression(path)).join(', ')}` };
}

/** Under which name statistics for some words are found. */
export const statisticsKey = ({ key }: WordCall, words: string): string => `${key}\n${words}`;

/** The words of a call as they are read: the same for all rows, so that the last ones are kept. */
class WordsOfCall {
  readonly call: WordCall;
  private text: string | undefined;
  private question: WordQuestion | undefined;

  constructor(call: WordCall) {
    this.call = call;
  }
  of(words: Value): WordQuestion | undefined {
    if (typeof words !== 'string') return undefined;
    if (this.text !== words) {
      this.question = readWords(words, this.call.language);
      this.text = words;
    }
    return this.question;
  }
}

/** What a call was given for one row. */
interface Given {
  readonly words: string;
  readonly weights: Value;
  readonly call: WordCall;
}
type Meant = (values: readonly Value[], question: WordQuestion, context: Context, given: Given) => Value;

const meant: Readonly<Record<WordCallName, Meant>> = {
  mentions_any: (values, question) => mentions(values, question, 'any'),
  mentions_all: (values, question) => mentions(values, question, 'all'),
  mentions_phrase: mentionsPhrase,
  excerpt,
  relevance: (values, question, context, { words, weights, call }) => {
    const statistics = context.statistics.get(statisticsKey(call, words));
    return statistics && relevance(values, question, statistics, weightsOf(weights));
  },
};

/** One weight for each path. */
export const weightsOf = (weights: Value): readonly number[] => (Array.isArray(weights) ? weights.map((one) => (typeof one === 'number' ? one : 1)) : []); // prettier-ignore

function emitWordCall(emitter: Emitter, call: Call, variables: Variables): Atom {
  const name = call.name as WordCallName;
  const asked = new WordsOfCall(wordCallOf(call));
  const { paths, words, weights } = asked.call;
  const values = paths.map((path) => emitter.value(path, variables));
  const text = emitter.value(words, variables);
  const given = weights === undefined ? 'undefined' : emitter.value(weights, variables);
  const isTest = name.startsWith('mentions');
  const question = emitter.variable(`${emitter.constant(asked)}.of(${text})`);
  const found = `${emitter.constant(meant[name])}([${values.join(', ')}], ${question}, context, { words: ${text}, weights: ${given}, call: ${emitter.constant(asked.call)} })`;
  return emitter.variable(`${question} === undefined ? ${isTest ? 'false' : 'undefined'} : ${found}`);
}

export const wordCalls: Readonly<Record<WordCallName, typeof emitWordCall>> = {
  mentions_any: emitWordCall,
  mentions_all: emitWordCall,
  mentions_phrase: emitWordCall,
  relevance: emitWordCall,
  excerpt: emitWordCall,
};
