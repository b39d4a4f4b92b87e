import { compileValue, type Evaluate } from '../../expressions/compile.ts';
import { statisticsKey, wordCallOf } from '../../expressions/emitWords.ts';
import { kindOf } from '../../indexes/kinds.ts';
import type { Call } from '../../language/tree.ts';
import type { CountWords } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { readWords } from '../../words/question.ts';
import { StatisticsCounter, type TextStatistics } from '../../words/relevance.ts';
import { stillWorking, type Rows } from '../batch.ts';
import type { Operator, Runtime } from '../runtime.ts';

/** So many documents are looked at between two looks at guards and cancel. */
const stretch = 256;

interface Counting {
  readonly key: string;
  readonly read: readonly Evaluate[];
  readonly counter: StatisticsCounter;
}

/** Counts words over the whole collection, whatever rows are asked for; then the rows come as they would. */
export const countWords: Operator<CountWords> = function* (step, runtime, meter) {
  const countings = countingsOf(step, runtime);
  if (countings.length > 0) yield* counted(step, countings, runtime);
  for (const batch of runtime.open(step.input)) {
    meter.rowsIn += batch.rows.length;
    yield batch;
  }
};

/** One for each different question that has not been counted yet. */
function countingsOf(step: CountWords, runtime: Runtime): readonly Counting[] {
  const { calls } = step;
  const { context } = runtime;
  const made = new Map<string, Counting>();
  for (const { call: asked, index } of calls) {
    const call = wordCallOf(asked);
    const words = compileValue(call.words)({}, context);
    if (typeof words !== 'string') continue;
    const key = statisticsKey(call, words);
    if (context.statistics.has(key) || made.has(key)) continue;
    if (index !== undefined) {
      context.statistics.set(key, knownTo(index, step, runtime, asked)(words));
      continue;
    }
    const counter = new StatisticsCounter(readWords(words, call.language), call.paths.length);
    made.set(key, { key, read: call.paths.map((path) => compileValue(path)), counter });
  }
  return [...made.values()];
}

/** What an index knows of words without reading a document. */
function knownTo(name: string, { collection }: CountWords, runtime: Runtime, call: Call): (words: string) => TextStatistics {
  const index = runtime.indexOf(collection, name);
  const { access } = kindOf(index.definition);
  const statistics = access.by === 'positions' ? access.scoring?.statistics : undefined;
  if (statistics === undefined) throw new Error(`a plan asks ${name} how rare words are, which it does not know`);
  return (words) => statistics(index, call, words);
}

function* counted(step: CountWords, countings: readonly Counting[], runtime: Runtime): Rows {
  const { watch, meter: runMeter, context } = runtime;
  const meter = runMeter.of(step);
  const { documents } = runtime.storeOf(step.collection);
  for (let at = 0; at < documents.length;) {
    watch.look(step);
    const to = Math.min(documents.length, at + watch.mayRead(step, stretch));
    let read = 0;
    for (; at < to; at++) {
      const document: Json | undefined = documents[at];
      if (document === undefined) continue;
      read++;
      for (const { read: paths, counter } of countings) counter.add(paths.map((path) => path(document, context)));
    }
    runMeter.read(meter, read);
    yield stillWorking;
  }
  for (const { key, counter } of countings) context.statistics.set(key, counter.statistics);
}
