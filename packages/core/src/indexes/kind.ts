import type { Call, Expression } from '../language/tree.ts';
import type { DocumentChange } from '../storage/residentStore.ts';
import type { DocumentStore } from '../storage/store.ts';
import type { Value } from '../values/json.ts';
import type { TextStatistics } from '../words/relevance.ts';
import type { IndexDefinition, IndexRequest } from './definition.ts';
import type { KeptRecall, Recall, RecallAsked } from './recall.ts';

/** How far a build is: the share of its phase that is done. */
export interface BuildProgress {
  readonly phase: 'reading' | 'sorting' | 'filling';
  readonly share: number;
}

/** A unique index met the same keys twice. */
export class UniqueViolation extends Error {
  readonly index: string;
  readonly values: readonly Value[];
  constructor(index: string, values: readonly Value[]) {
    super(`The unique index ${index} already has ${values.map((value) => JSON.stringify(value) ?? 'nothing').join(', ')}.`);
    this.index = index;
    this.values = values;
  }
}

/** An index of any kind as it is in memory. */
export interface BuiltIndex {
  readonly definition: IndexDefinition;
  readonly entries: number;
  /** About how many bytes it takes in memory. */
  readonly bytes: number;
  /** What a set of changes would bring in twice, where the index is unique. Looked at before anything is written. */
  violation(changes: readonly DocumentChange[]): UniqueViolation | undefined;
  /** Moves the entries of one changed document. */
  apply(change: DocumentChange): void;
  /** What was measured of it last, where its answers may be approximate. */
  recall?: KeptRecall | undefined;
  /** Does some of what is left to make it fast, where it was only begun; gives whether there is more. */
  goOn?(): boolean;
}

/** What was found when an index was held against its documents. All but the first two are 0 where it is sound. */
export interface IndexCheck {
  readonly name: string;
  /** Entries that the index has, and those that its documents should have. */
  readonly entries: number;
  readonly expected: number;
  /** Entries of documents that are not found under their keys. */
  readonly missing: number;
  /** Entries that stand twice. */
  readonly repeated: number;
  /** Entries that do not stand where their keys belong. */
  readonly misplaced: number;
  /** Documents that are wrongly taken for having none of the keys, or not taken for it. */
  readonly absent: number;
  /** Of a unique index: entries with the keys of the one before. */
  readonly notUnique: number;
}

export function isSound({ entries, expected, missing, repeated, misplaced, absent, notUnique }: IndexCheck): boolean {
  return entries === expected && missing + repeated + misplaced + absent + notUnique === 0;
}

/** Conditions that all have to hold, and the value of an expression that is the same for all rows. */
export interface Asked {
  readonly conditions: readonly Expression[];
  readonly valueOf: (expression: Expression) => Value;
  /** Whether an expression is the same for all rows. */
  readonly isConstant: (expression: Expression) => boolean;
}

/** A way of an index to the documents that conditions ask for. */
export interface FoundPath {
  /** What the index is asked at run time, in whatever form its kind likes. */
  readonly lookup: unknown;
  /** The same in words, as the plan tells it. */
  readonly words: string;
  /** About how many entries it finds. */
  readonly entries: number;
  /** Which of the conditions it looks for, by their places, and which need no second test then. */
  readonly used: readonly number[];
  readonly served: readonly number[];
}

/** An index that answers with positions of documents, in no order that anybody may rely on. */
export interface PositionsAccess<I> {
  readonly by: 'positions';
  /** The ways in which an index of the kind can serve; why it cannot, where there is none. */
  readonly match: (index: I, asked: Asked) => readonly FoundPath[] | string;
  /** Positions, perhaps more than once each. */
  readonly find: (index: I, lookup: unknown) => readonly number[] | Uint32Array;
  /** Indexes of the kind that conditions would have a use for. */
  readonly candidates: (asked: Asked) => readonly Candidate[];
  /** How it gives scores, where it does. */
  readonly scoring?: Scoring<I>;
}
/** An index that would be of use, as one would ask for it. */
export type Candidate = Pick<IndexRequest, 'keys' | 'language' | 'metric'>;

/** What an index knows of how documents score. */
export interface Scored {
  /** Entries that have been looked at for it so far. */
  readonly entries: number;
  /**
   * Positions with their scores, highest first, ties by position: all that have one. Where the answer is approximate, those that are
   * accepted alone.
   */
  readonly bestFirst: (accepts?: (position: number) => boolean) => Iterable<readonly [position: number, score: number]>;
  /** The score of the document at a position; undefined where it has none. */
  readonly at: (position: number) => number | undefined;
}

/** What scores are worked out with. */
export interface ScoreOptions {
  readonly valueOf: Asked['valueOf'];
  /** One more than the highest position. */
  readonly size: number;
  /** What stands at the index's first key in the document at a position. */
  readonly read: (position: number) => Value;
  /** How many candidates are looked at, where the answer may be approximate. */
  readonly effort: number | undefined;
}

/** How an index gives the scores that an expression computes: to the last digit the same. */
export interface Scoring<I> {
  readonly serves: (definition: IndexDefinition, expression: Expression, isConstant: Asked['isConstant']) => boolean;
  readonly candidate: (expression: Expression, isConstant: Asked['isConstant']) => Candidate | undefined;
  /** About how many documents have a score, and how many entries are looked at for them. */
  readonly about: (
    index: I,
    expression: Expression,
    options: Pick<ScoreOptions, 'valueOf' | 'effort'>,
  ) => { readonly documents: number; readonly entries: number };
  readonly score: (index: I, expression: Expression, options: ScoreOptions) => Scored;
  /** Whether every one of so many documents has a score: then the highest are the first of an order by it too. */
  readonly scoresAll?: (
    index: I,
    expression: Expression,
    options: { readonly valueOf: Asked['valueOf']; readonly documents: number },
  ) => boolean;
  /** Whether it may leave out some that belong to the best, given how many candidates are looked at. */
  readonly isApproximate?: (effort: number | undefined) => boolean;
  /** How rare words are, where it knows them. */
  readonly statistics?: (index: I, call: Call, words: string) => TextStatistics;
}
/** An index whose entries stand in the order of its keys: the planner knows ranges, orders and covering of those. */
export interface OrderedAccess {
  readonly by: 'order';
}

/** Everything that there is to know of one kind of index. A folder each, and a line in the registry. */
export interface IndexKind<I extends BuiltIndex = BuiltIndex> {
  /** What it is called, and what it is for, as people read it. */
  readonly words: { readonly title: string; readonly doc: string };
  /** Why a definition cannot be of this kind; undefined where it can. */
  readonly unfit: (definition: IndexDefinition) => string | undefined;
  /** Builds it of all documents of a store, in steps: yields how far it is between them, so that a caller can pause. @throws UniqueViolation */
  readonly build: (definition: IndexDefinition, store: DocumentStore) => Generator<BuildProgress, I>;
  /** The same at once, of a kind whose build takes minutes: right from the beginning, and faster the further it has gone on. */
  readonly begin?: (definition: IndexDefinition, store: DocumentStore) => I;
  /** Holds every entry against the documents, and every document against the entries; yields the share that is done. */
  readonly check: (index: I, store: DocumentStore) => Generator<number, IndexCheck>;
  /** Measures how many of the true best it finds for an effort, where it may leave some out; yields the share that is done. */
  readonly recall?: (index: I, store: DocumentStore, asked: RecallAsked) => Generator<number, Recall | undefined>;
  /** What it knows of its values, as data. */
  readonly summary: (index: I) => object;
  readonly access: OrderedAccess | PositionsAccess<I>;
}
