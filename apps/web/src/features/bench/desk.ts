import type { Edit } from '@zesty-sieve/core/language';

/** What is asked of the text on the Bench from beside it: always of the text as it stands then. */
export interface Desk {
  readonly runInFull: () => void;
  readonly addStage: (written: string) => void;
  /** Makes the edits that mend a line. */
  readonly mend: (edits: readonly Edit[]) => void;
  /** Opens the pipeline that goes on after a row. */
  readonly goOnAfter: (row: unknown) => void;
  readonly tryExample: (example: string) => void;
}

const nothing = () => undefined;
/** Until there is a text. */
export const noDesk: Desk = { runInFull: nothing, addStage: nothing, mend: nothing, goOnAfter: nothing, tryExample: nothing };
