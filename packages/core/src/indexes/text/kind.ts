import { weightsOf, wordCallOf } from '../../expressions/emitWords.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Call, Expression } from '../../language/tree.ts';
import type { DocumentStore } from '../../storage/store.ts';
import { readWords } from '../../words/question.ts';
import type { Asked, IndexCheck, IndexKind, PositionsAccess } from '../kind.ts';
import { findMentions, isMention, keysOf, matchMentions, type TextLookup } from './lookup.ts';
import { TextIndex } from './textIndex.ts';

const access: PositionsAccess<TextIndex> = {
  by: 'positions',
  match: matchMentions,
  find: (index, lookup) => findMentions(index, lookup as TextLookup),
  candidates: ({ conditions }) => conditions.filter(isMention).map((call) => candidateOf(call)),
  scoring: {
    serves: (definition, expression) => isRelevance(expression) && keysOf(definition, expression) !== undefined,
    candidate: (expression) => (isRelevance(expression) ? candidateOf(expression) : undefined),
    about: (index, expression, { valueOf }) => {
      const { question, paths } = askedScore(index, expression, valueOf);
      const sizes = paths.flatMap((p) => question.words.map((word) => index.paths[p]!.wordPostings(word)?.size ?? 0));
      const entries = sizes.reduce((sum, size) => sum + size, 0);
      return { entries, documents: Math.min(entries, Math.max(0, ...index.paths.map(({ documents }) => documents))) };
    },
    score: (index, expression, { valueOf, size }) => {
      const { question, paths, weights } = askedScore(index, expression, valueOf);
      return index.scores(question, paths, weights, size);
    },
    statistics: (index, call, words) => index.statistics(readWords(words, index.definition.language), keysOf(index.definition, call)!),
  },
};

const isRelevance = (expression: Expression): expression is Call => expression.kind === 'call' && expression.name === 'relevance';

function askedScore(index: TextIndex, expression: Expression, valueOf: Asked['valueOf']) {
  const call = wordCallOf(expression as Call);
  const words = valueOf(call.words);
  const question = readWords(typeof words === 'string' ? words : '', call.language);
  return { question, paths: keysOf(index.definition, expression as Call)!, weights: weightsOf(call.weights && valueOf(call.weights)) };
}

function candidateOf(call: Call) {
  const { paths, language } = wordCallOf(call);
  return {
    keys: [...new Set(paths.map((path) => printExpression({ ...path, root: { kind: 'current' } })))],
    ...(language && { language }),
  };
}

/** Held against one that is built anew of the documents. */
function* check(index: TextIndex, store: DocumentStore): Generator<number, IndexCheck> {
  const building = TextIndex.build(index.definition, store);
  let step = building.next();
  for (; !step.done; step = building.next()) yield step.value.share * 0.9;
  const fresh = step.value;
  let missing = 0;
  let misplaced = 0;
  let absent = 0;
  fresh.paths.forEach((path, p) => {
    const own = index.paths[p]!;
    for (const [term, postings] of path.allTerms()) {
      const held = own.postingsOf(term);
      for (let at = 0; at < postings.size; at++) {
        const position = postings.positionAt(at);
        const place = held?.placeOf(position) ?? 0;
        if (held === undefined || place >= held.size || held.positionAt(place) !== position) missing++;
        else if (held.frequencyAt(place) !== postings.frequencyAt(at)) misplaced++;
      }
    }
    if (own.documents !== path.documents || own.length !== path.length) absent++;
  });
  const { name } = index.definition;
  return { name, entries: index.entries, expected: fresh.entries, missing, repeated: 0, misplaced, absent, notUnique: 0 };
}

export const text: IndexKind<TextIndex> = {
  words: { title: 'Text', doc: 'Words of texts: which documents mention them, and which answer them best.' },
  unfit: ({ keys, unique, where }) => {
    if (keys.some(({ expression }) => expression.kind !== 'path')) return 'A text index is on paths to texts.';
    if (keys.some(({ direction }) => direction === 'desc')) return 'Words have no direction: leave desc out.';
    if (unique) return 'Words cannot be unique.';
    return where === undefined ? undefined : 'A text index is of all documents, since it knows how rare words are among them: leave the condition out.'; // prettier-ignore
  },
  build: (definition, store) => TextIndex.build(definition, store),
  check,
  summary: ({ paths, definition, entries }) => ({
    entries,
    language: definition.language ?? null,
    paths: paths.map((path, i) => ({
      path: definition.keys[i]!.text,
      documents: path.documents,
      terms: path.termCount,
      words: path.length,
      commonest: commonest(path),
    })),
  }),
  access,
};

const commonestShown = 20;
function commonest(path: TextIndex['paths'][number]) {
  const all = [...path.allTerms()].map(([term, { size }]) => ({ term, documents: size }));
  return all.sort((a, b) => b.documents - a.documents || (a.term < b.term ? -1 : 1)).slice(0, commonestShown);
}
