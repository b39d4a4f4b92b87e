import { ServerProblem } from '../problem.ts';

/** Looks at the flag that a run shares with whoever asked for it: not zero when the run is to end. */
export function cancelledBy(cancel: SharedArrayBuffer): () => boolean {
  const flag = new Int32Array(cancel);
  return () => Atomics.load(flag, 0) !== 0;
}

const cancelPollMs = 50;

/**
 * Waits for work that goes on for others, such as bringing a collection into memory, no longer than whoever asked does: a run
 * that is cancelled meanwhile ends at once, and the work is not lost.
 */
export async function unlessCancelled<T>(work: Promise<T>, cancel: SharedArrayBuffer): Promise<T> {
  const isCancelled = cancelledBy(cancel);
  let timer: NodeJS.Timeout | undefined;
  const cancelled = new Promise<never>((_resolve, reject) => {
    timer = setInterval(() => {
      if (isCancelled()) reject(new ServerProblem('/cancelled', 'The run was cancelled.'));
    }, cancelPollMs);
  });
  try {
    return await Promise.race([work, cancelled]);
  } finally {
    clearInterval(timer);
  }
}
