/** One thing that may be written at the cursor. */
export interface Completion {
  readonly label: string;
  readonly kind: 'stage' | 'function' | 'collection' | 'field' | 'value' | 'word' | 'parameter';
  /** Beside the label: a signature, types and presence. */
  readonly detail?: string;
  /** A sentence that explains it. */
  readonly info?: string;
  /** What is put in place of `[from, offset)`; the label unless said. */
  readonly insert?: string;
}

export interface Completions {
  readonly from: number;
  readonly options: readonly Completion[];
}
