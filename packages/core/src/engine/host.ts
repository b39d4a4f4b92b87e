import type { Pause } from './pause.ts';

/** What the engine needs of where it runs. */
export interface EngineHost {
  readonly pause: Pause;
  /** Whether others are known to wait for a pause; a run pauses earlier then. Every few milliseconds where it is not said. */
  readonly isAwaited?: () => boolean;
  readonly newId: () => string;
  readonly now: () => Date;
  /** Bytes of rows that are kept of runs, so that they can be paged; 256 MB where it is not said. */
  readonly keptBytes?: number;
}
