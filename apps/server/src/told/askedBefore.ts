import type { IndexRequest } from '@zesty-sieve/core';
/** An index that a run was advised to have, with those that it is of use with alone. */
export interface Advised {
  readonly collection: string;
  readonly keys: readonly string[];
  /** Where it is of another kind than the ordered one. */
  readonly kind?: 'text' | 'place' | 'vector';
  readonly language?: NonNullable<IndexRequest['language']>;
  readonly metric?: NonNullable<IndexRequest['metric']>;
  readonly beside?: readonly (readonly string[])[];
}

/** A question that was asked: its text, the saved pipeline that it is, and how often. */
export interface AskedBefore {
  readonly pipeline: string;
  readonly name: string | null;
  readonly parameters: Readonly<Record<string, never>> | null;
  readonly runs: number;
  /** By all of them together. */
  readonly documentsRead: number;
  /** What the last of them took, in milliseconds, and the rows that each line gave: of a line that was stopped early nobody knows. */
  readonly timeMs: number;
  readonly rowsByLine: readonly (readonly [line: number, rows: number])[];
  readonly suggestions: readonly Advised[];
}
