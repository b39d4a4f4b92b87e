import type { Hub } from '../hub.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';
import type { RefreshProgress } from './makeAnew.ts';

/** Told how far the making of a view's rows has come. */
export type Told = (progress: RefreshProgress) => void;

/** The making of a view's rows that is under way. */
export interface Refreshing {
  readonly done: Promise<void>;
  readonly flag: CancelFlag;
  readonly listeners: Set<Told>;
}

/** Makes the rows of a view, which is on the list of what is under way meanwhile. */
export function listed(
  hub: Hub,
  name: string,
  flag: CancelFlag,
  listeners: ReadonlySet<Told>,
  make: (told: Told) => Promise<void>,
): Promise<void> {
  return hub.work.during({ kind: 'refresh', of: name, cancel: () => flag.cancel() }, (come) =>
    make((progress) => {
      come({ documents: progress.rows });
      for (const told of listeners) told(progress);
    }),
  );
}
