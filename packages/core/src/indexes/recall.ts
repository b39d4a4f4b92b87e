/** What is to be measured: so many of the best, for so many questions, with each effort. */
export interface RecallAsked {
  readonly efforts: readonly number[];
  readonly queries: number;
  readonly n: number;
}

/** What one way of asking came to, at the mean of the questions. */
export interface RecallCost {
  /** Entries that were compared. */
  readonly compared: number;
  readonly timeMs: number;
}
export interface RecallPoint extends RecallCost {
  readonly effort: number;
  /** The share of the true best that it found, 0 to 1. */
  readonly recall: number;
}

/** How many of the true best an index finds for an effort, measured: recall@n, as Manning, Raghavan and Schütze 2008 define it. */
export interface Recall {
  readonly n: number;
  readonly queries: number;
  readonly points: readonly RecallPoint[];
  readonly exact: RecallCost;
}

/** The newest measurement of an index, and when it was made (RFC 3339). */
export interface KeptRecall extends Recall {
  readonly measuredAt: string;
}
