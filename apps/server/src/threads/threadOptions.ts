import type { CancelFlag } from './cancelFlag.ts';
import type { Once } from './messages.ts';

/** The methods of a service as another thread sees them. */
export type Remote<S> = {
  readonly [M in keyof S]: S[M] extends (...args: infer A) => infer R ? (...args: A) => Promise<Awaited<R>> : never;
};

export interface CallOptions {
  readonly once?: Once | undefined;
  /** Ends the call where the thread notices, or the thread where it is stuck. */
  readonly cancel?: CancelFlag | undefined;
  /**
   * After so long the call is answered as failed, and the thread, which may hold what others need, begins anew; not while it
   * may be waiting for a call that takes long.
   */
  readonly limitMs?: number | undefined;
  /** Whether it may take as long as it likes, and others wait for it. */
  readonly isLong?: boolean;
}

export interface ThreadOptions<S> {
  /** As it is called in what users are told. */
  readonly name: string;
  readonly url: URL;
  readonly heapMegabytes: number;
  /** What is new is looked through at one go when this is full: the more, the rarer and the longer others wait. */
  readonly youngMegabytes: number;
  /** Called whenever the thread has begun anew, before it is used. */
  readonly begin: (service: Remote<S>) => Promise<void>;
  /** How long a thread may not get to its messages before it counts as stuck: after a cancel, and without one. */
  readonly stuckMs?: { readonly cancelled: number; readonly otherwise: number };
}
