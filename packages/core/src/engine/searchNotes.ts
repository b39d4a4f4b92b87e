import { compileValue } from '../expressions/compile.ts';
import { wordCallOf } from '../expressions/emitWords.ts';
import { once } from '../expressions/once.ts';
import { expressionsOf } from '../language/checkPipeline.ts';
import type { NodeId } from '../language/places.ts';
import { walk, type Call } from '../language/tree.ts';
import type { Context } from '../expressions/context.ts';
import { inputsOf, type PhysicalStep } from '../planner/physical.ts';
import { readWords } from '../words/question.ts';
import type { Reading } from './reading.ts';
import type { ReadStage } from './readPipeline.ts';
import type { Note } from './requests.ts';

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
  const isApproximate = efforts.length > 0 && approximationOf(root) !== null;
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

/** The effort of the step that may have left out rows which belong to the answer; null where all of it is exact. */
export function approximationOf(step: PhysicalStep): { readonly effort: number } | null {
  if (step.kind === 'scoredScan' && step.effort !== undefined) return { effort: step.effort };
  return inputsOf(step).reduce<ReturnType<typeof approximationOf>>((found, input) => found ?? approximationOf(input), null);
}
