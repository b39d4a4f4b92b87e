import type { CheckedPipeline } from '@zesty-sieve/core/language';
/**
 * Asks the server as the text and the cursor move: a bounded run when typing pauses, and a full one when it is asked
 * for. What is overtaken is ended at the server too.
 */
export declare function useRuns(checked: CheckedPipeline): {
  runInFull: () => void;
  stop: () => void;
};
