import { availableParallelism } from 'node:os';
import { setFlagsFromString } from 'node:v8';

/** More than so many look through memory no faster. */
const mostMarkers = 7;

/**
 * Has memory collected in a way that lets others be answered meanwhile, in every thread that begins from now on. As V8 does it by
 * itself, marking some hundred megabytes beside a heavy question kept everybody waiting for 60 to 440 ms:
 *
 * - In tasks of its own that follow each other without a message being looked at between them. Without them it goes on amid the
 *   work that allocates, and beside it.
 * - With seven threads beside those that work, however few processors there are: these were taken from whoever answers.
 */
export function collectBesideWork(): void {
  setFlagsFromString('--no-incremental-marking-task');
  setFlagsFromString(`--concurrent-marking-max-worker-num=${Math.min(mostMarkers, Math.max(1, availableParallelism() - 1))}`);
}
