import type { ClauseOfSql, Measurement, Problem, QueryAnswer } from '@zesty-sieve/contract';
import type { Draft, Tab } from './draft.ts';
import { emptyDraft } from './drafts.ts';

export type { Draft, Tab } from './draft.ts';

export type View = 'table' | 'documents' | 'shape' | 'chart' | 'plan';

/** How many documents a run reads that is made while typing pauses. */
export const previewMs = 200;
export const pageSize = 100;

/** A question as it was asked. */
export interface Asked {
  text: string;
  /** The SQL that it was asked in. */
  sql?: string;
  /** In full, or bounded to so much work. */
  full: boolean;
  /** Only up to this line; undefined for the whole pipeline. */
  line?: number;
}

/** What sending the answer took: bytes of its text, milliseconds from the question to its end. */
export interface Sent {
  bytes: number;
  ms: number;
}

export interface Answered {
  sent: Sent;
  asked: Asked;
  result: QueryAnswer;
}

export interface Slot {
  /** What is under way. */
  pending: { requestId: string; asked: Asked } | null;
  answer: Answered | null;
  problem: { asked: Asked; problem: Problem } | null;
}

/** What building an index changed, measured. */
export interface Comparison {
  /** The keys of each index that was built. */
  indexes: string[][];
  text: string;
  measurement: Measurement;
}

/** What was chosen about the columns of the output, by their identities. */
export interface ColumnChoices {
  hidden: string[];
  /** In their chosen order; columns that are not named come after, in the order of the rows. */
  order: string[];
  /** Arrays whose elements have columns of their own. */
  spread: string[];
  /** Objects that are kept in one column. */
  folded: string[];
  /** Whether what the line at the cursor added stands before what was there, as long as no order was chosen. */
  addedFirst: boolean;
}
export const plainColumns: ColumnChoices = { hidden: [], order: [], spread: [], folded: [], addedFirst: true };

/** A question kept to be compared with. */
export interface Pinned {
  text: string;
  parameters: Record<string, string>;
  rowsReturned: number;
}

export type IndexChoice = { readonly kind: 'planned' } | { readonly kind: 'use' | 'ignore'; readonly index: string };

export interface BenchState extends Draft {
  tabs: Tab[];
  /** The tab in front, whose draft is the state's own. */
  tab: string;
  /** Names of saved pipelines, the one used last first. */
  recent: string[];
  /** Whether the tabs are here that this window had before; it begins with none where they are not. */
  isRestored: boolean;
  /** Grows when the text is set from outside the editor. */
  loaded: number;
  view: View;
  /** The whole pipeline, for the margin, the costs and the plan; and what comes out at the cursor's line. */
  whole: Slot;
  here: Slot;
  comparison: Comparison | null;
  /** Identities of the documents that the pipeline is drafted on; none for all. */
  only: (string | number)[];
  /** Whether an index is insisted on or passed over for now, without dropping it. */
  indexChoice: IndexChoice;
  /** A collection whose documents have changed since the last run. */
  changedSince: string | null;
  /** The clauses of the SQL that is asked, and the lines of the pipeline that each became. */
  clauses: ClauseOfSql[];
  /** How the table's columns are laid out. */
  columns: ColumnChoices;
  /** A question whose rows each later run is compared with. */
  pinned: Pinned | null;
}

export type SlotName = 'whole' | 'here';

export const emptySlot: Slot = { pending: null, answer: null, problem: null };

export const initialState: BenchState = {
  ...emptyDraft,
  loaded: 0,
  view: 'table',
  whole: emptySlot,
  here: emptySlot,
  comparison: null,
  only: [],
  indexChoice: { kind: 'planned' },
  changedSince: null,
  clauses: [],
  columns: plainColumns,
  pinned: null,
  isRestored: false,
  tabs: [],
  tab: '1',
  recent: [],
};
