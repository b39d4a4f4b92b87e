import type { QueryAnswer } from '@zesty-sieve/contract';
export interface Rows {
  readonly rows: readonly unknown[];
  readonly isLoading: boolean;
  readonly problem: string | null;
  /** Fetches the next page, where there is one and none is on its way. */
  readonly more: () => void;
}
/** The rows of a run: those that came with it, and further pages as they are wanted. */
export declare function useRows(result: QueryAnswer): Rows;
