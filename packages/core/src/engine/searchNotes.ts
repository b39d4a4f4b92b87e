import { compileValue } from '../expressions/compile.ts';
import { wordCallOf } from '../expressions/emitWords.ts';
import { once } from '../expressions/once.ts';
import { expressionsOf } from '../language/checkPipeline.ts';
import type { NodeId } from '../language/places.ts';
import { walk, type Call } from '../language/tree.ts';
import type { Context } from '../expressions/context.ts';
import { collectionsOf, inputsOf, type PhysicalStep } from '../planner/physical.ts';
import { readWords } from '../words/question.ts';
import type { Collection } from './collection.ts';
import type { KeptViews } from './keptViews.ts';
import type { Finished } from './prepared.ts';
import type { Reading } from './reading.ts';
import type { ReadStage } from './readPipeline.ts';
import type { Approximation, Note } from './requests.ts';

const wordCalls: ReadonlySet<string> = new Set(['mentions_any', 'mentions_all', 'mentions_phrase', 'relevance', 'excerpt']);

/** What stages ask for words, and which of them allow an approximate answer. */
const asked = once((stages: readonly ReadStage[]): { readonly calls: readonly Call[]; readonly efforts: readonly NodeId[] } => {
  const calls: Call[] = [];
  for (const { stage } of stages)
    for (const expression of expressionsOf(stage)) walk(expression, (node) => void (node.kind === 'call' && wordCalls.has(node.name) && calls.push(node))); // prettier-ignore
  return { calls, efforts: stages.flatMap(({ stage, id }) => (stage.kind === 'best' && stage.effort !== undefined ? [id] : [])) };
});

const placed = ({ line, from, to }: ReturnType<Reading['askedPlaceOf']>) => ({ line, from, to });

/** Tells of words that are none, so that nothing is found, and of an effort that nothing had to be spared for. */
export function searchNotes(stages: readonly ReadStage[], root: PhysicalStep, context: Context, reading: Reading): Note[] {
  const { calls, efforts } = asked(stages);
  const wordless = calls.filter((call) => {
    const { words, language } = wordCallOf(call);
    const given = compileValue(words)({}, context);
    return typeof given === 'string' && readWords(given, language).words.length === 0;
  });
  const isApproximate = efforts.length > 0 && approximateIn(root) !== undefined;
  return [
    ...wordless.map((call): Note => ({
      code: 'no-words',
      ...placed(reading.askedPlaceOf(call)),
      message: `${reading.expression(wordCallOf(call).words)} has no words to look for: stop words are left out, and nothing is found without others.`,
      count: 1,
    })),
    ...(isApproximate ? [] : efforts).map((id): Note => ({
      code: 'exact-anyway',
      ...placed(reading.askedPlaceOf({ id })),
      message: 'No vector index serves this, so every row was looked at and the answer is exact, whatever the effort.',
      count: 1,
    })),
  ];
}

/** The index whose answer may lack some of the true best, and the effort; undefined where all is exact. */
function approximateIn(step: PhysicalStep): { readonly collection: string; readonly index: string; readonly effort: number } | undefined {
  const asked = step.kind === 'scoredScan' ? [step] : step.kind === 'fusedScan' ? step.rankings : [];
  for (const { index, effort } of asked) if (effort !== undefined && 'collection' in step) return { collection: step.collection, index, effort };
  return inputsOf(step).reduce<ReturnType<typeof approximateIn>>((found, input) => found ?? approximateIn(input), undefined);
} // prettier-ignore

/**
 * What is told of an answer that may lack rows which belong to it, with what was measured of its index for the same effort; the same of
 * what is made of kept rows of one; else null.
 */
export function approximationOf(
  { physical }: Finished['planned'],
  { collections, keptViews }: { readonly collections: ReadonlyMap<string, Collection>; readonly keptViews: KeptViews },
): Approximation | null {
  const step = approximateIn(physical.root);
  if (step === undefined) return keptViews.approximationOf(keptViews.readBy(collectionsOf(physical.root)));
  const { effort } = step;
  const recall = collections.get(step.collection)?.index(step.index)?.recall;
  const point = recall?.points.find((one) => one.effort === effort);
  return { effort, ...(recall && point && { recall: point.recall, measuredAt: recall.measuredAt }) };
}
