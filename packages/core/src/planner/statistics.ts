import { keyTexts, type IndexDefinition } from '../indexes/definition.ts';
import { printExpression } from '../language/surfaces/notation/print.ts';
import { buildAtOnce, type OrderedIndex } from '../indexes/ordered/orderedIndex.ts';
import type { EmptyEntries, IndexRange } from '../indexes/ordered/sortedEntries.ts';
import { builtAtOnce } from '../indexes/kinds.ts';
import type { DocumentStore } from '../storage/store.ts';
import type { JsonObject } from '../values/json.ts';
import type { PositionsIndex } from './positionsIndex.ts';

/** What the planner asks of an index, built or not. */
export interface IndexStatistics {
  readonly definition: IndexDefinition;
  readonly built: OrderedIndex | undefined;
  readonly entries: number;
  /** Covered documents without an entry. */
  readonly absent: number;
  /** Different values of so many leading keys together, about. */
  distinct(keyCount: number): number;
  count(range: IndexRange): number;
  emptyAt(key: number): EmptyEntries;
}

/** A built index counts exactly. */
export function statisticsOf(index: OrderedIndex): IndexStatistics {
  return {
    definition: index.definition,
    built: index,
    entries: index.entries,
    absent: index.absent.length,
    distinct: (keyCount) => index.distinctEstimate(keyCount),
    count: (range) => index.count(range),
    emptyAt: (key) => index.emptyAt(key),
  };
}

/** An index that is not built is estimated from one over a sample. */
export function imagined(definition: IndexDefinition, sample: Sample): IndexStatistics {
  const key = imaginedKey(definition);
  let statistics = sample.imagined.get(key);
  if (statistics === undefined) sample.imagined.set(key, (statistics = imagine(definition, sample)));
  return statistics;
}

/** The same of a kind that answers with positions. */
export function imaginedPositions(definition: IndexDefinition, sample: Sample): PositionsIndex {
  const key = imaginedKey(definition);
  let imagined = sample.imaginedOthers.get(key);
  if (imagined === undefined) {
    imagined = { definition, built: undefined, index: builtAtOnce(definition, sample.store), scale: sample.scale };
    sample.imaginedOthers.set(key, imagined);
  }
  return imagined;
}

function imaginedKey(definition: IndexDefinition): string {
  return JSON.stringify([
    definition.kind,
    definition.language,
    definition.vector,
    definition.name,
    keyTexts(definition),
    definition.where && printExpression(definition.where),
  ]);
}

function imagine(definition: IndexDefinition, sample: Sample): IndexStatistics {
  const index = buildAtOnce({ ...definition, unique: false }, sample.store);
  const scale = sample.scale;
  // Nothing found in the sample may still be something in the whole.
  const scaled = (count: number) => Math.round((count === 0 && scale > 1 ? 0.5 : count) * scale);
  return {
    definition,
    built: undefined,
    entries: Math.round(index.entries * scale),
    absent: Math.round(index.absent.length * scale),
    distinct: (keyCount) => {
      const found = index.distinctEstimate(keyCount);
      // Values that are mostly different in a sample are as different in the whole.
      return found > index.entries * 0.6 ? Math.round(found * scale) : found;
    },
    count: (range) => scaled(index.count(range)),
    emptyAt: (key) => {
      const { nulls, missing } = index.emptyAt(key);
      return { nulls: Math.round(nulls * scale), missing: Math.round(missing * scale) };
    },
  };
}

/** Documents that stand for a whole collection. */
export interface Sample {
  readonly documents: readonly JsonObject[];
  readonly store: DocumentStore;
  /** Documents of the collection for each of the sample; 1 where the sample is the whole. */
  readonly scale: number;
  /** What was measured on it before, by what it was: shares of conditions, lengths of arrays, groups; and indexes over it. */
  readonly measured: Map<string, number>;
  /** For which of its documents a condition holds, by the condition: a bit each. */
  readonly held: Map<string, Uint32Array>;
  readonly imagined: Map<string, IndexStatistics>;
  readonly imaginedOthers: Map<string, PositionsIndex>;
}

/** Figures that are kept with a sample. */
const figuresKept = 2_000;

/** A figure of a sample, measured once. */
export function measuredOn(sample: Sample, what: string, measure: (documents: readonly JsonObject[]) => number): number {
  let figure = sample.measured.get(what);
  if (figure === undefined) {
    figure = measure(sample.documents);
    if (sample.measured.size >= figuresKept) sample.measured.clear();
    sample.measured.set(what, figure);
  }
  return figure;
}

/** For which of the first documents of a sample a condition holds, looked at once. */
export function heldOn(sample: Sample, condition: string, looked: number, holds: () => (document: JsonObject) => boolean): Uint32Array {
  const name = `${looked} ${condition}`;
  let bits = sample.held.get(name);
  if (bits === undefined) {
    const test = holds();
    bits = new Uint32Array(Math.ceil(looked / 32));
    for (let i = 0; i < looked; i++) if (test(sample.documents[i]!)) bits[i >>> 5]! |= 1 << (i & 31);
    if (sample.held.size >= figuresKept) sample.held.clear();
    sample.held.set(name, bits);
  }
  return bits;
}

const sampleSize = 1_200;

/**
 * Takes a sample: one document from each of equal stretches, at a place in it that a fixed sequence picks, so
 * that it is spread evenly, falls in with no period of the data, and is the same each time.
 */
export function takeSample(store: DocumentStore): Sample {
  const { documents } = store;
  const taken: JsonObject[] = [];
  const stretch = Math.max(1, documents.length / sampleSize);
  let state = 0x9e3779b9;
  for (let from = 0; from < documents.length; from += stretch) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const document = documents[Math.min(documents.length - 1, Math.floor(from + (state / 0x1_0000_0000) * stretch))];
    if (document !== undefined) taken.push(document);
  }
  const sampled: DocumentStore = { documents: taken, count: taken.length, version: 0 };
  return {
    documents: taken,
    store: sampled,
    scale: taken.length === 0 ? 1 : store.count / taken.length,
    measured: new Map(),
    held: new Map(),
    imagined: new Map(),
    imaginedOthers: new Map(),
  };
}
