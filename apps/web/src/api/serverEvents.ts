import type { UnderWay } from '@zesty-sieve/contract';
import { apiUrl } from './apiUrl.ts';
import { followRenaming, keptName } from './database.ts';
/** What the server tells, or what is known of whether it is there. */
export type Told =
  | { readonly kind: 'event'; readonly name: string; readonly data: { readonly collection?: string; readonly work?: UnderWay[] } }
  | { readonly kind: 'presence'; readonly isThere: boolean };

const names = ['documents', 'indexes', 'collections', 'runs', 'pipelines', 'work'];
const lockName = keptName('zesty-sieve events');
const againMs = 2_000;

/**
 * Listens to the server's events. A browser lets a page have six connections to a server, for all of its windows together, so
 * that one window alone holds the stream and tells the others; when it is closed another takes over. Where the browser does not share
 * (locks are for secure contexts), each window has its own.
 * @returns how to end it
 */
export function listenToServer(tell: (told: Told) => void): () => void {
  const ending = new AbortController();
  const { signal } = ending;
  if (typeof navigator.locks === 'undefined' || typeof BroadcastChannel === 'undefined') {
    hold(tell, signal);
    return () => ending.abort();
  }
  const channel = new BroadcastChannel(lockName);
  let isThere: boolean | undefined;
  const all = (told: Told): void => {
    if (told.kind === 'presence') isThere = told.isThere;
    channel.postMessage(told);
    tell(told);
  };
  channel.addEventListener('message', ({ data }: MessageEvent<Told | 'who is there?'>) => {
    if (data !== 'who is there?') tell(data);
    else if (isThere !== undefined) channel.postMessage({ kind: 'presence', isThere } satisfies Told);
  });
  // A window that comes later wants to know what the others know.
  channel.postMessage('who is there?');
  const untilEnded = (): Promise<void> =>
    new Promise((resolve) => {
      hold(all, signal);
      signal.addEventListener('abort', () => resolve());
    });
  navigator.locks.request(lockName, { signal }, untilEnded).catch(() => undefined);
  signal.addEventListener('abort', () => channel.close());
  return () => ending.abort();
}

/** A stream ends too where the database was renamed: then it is found elsewhere. */
async function renamedMeanwhile(): Promise<void> {
  const answer = await fetch(apiUrl('settings')).catch(() => undefined);
  if (answer?.status === 404) followRenaming(await answer.json().catch(() => undefined));
}

/** Holds a stream, and opens it again where it breaks. */
function hold(tell: (told: Told) => void, signal: AbortSignal): void {
  if (signal.aborted) return;
  const source = new EventSource(apiUrl('events'));
  source.addEventListener('hello', () => tell({ kind: 'presence', isThere: true }));
  for (const name of names)
    source.addEventListener(name, (event: MessageEvent<string>) =>
      tell({ kind: 'event', name, data: JSON.parse(event.data) as { collection?: string } }),
    );
  source.addEventListener('error', () => {
    if (signal.aborted) return;
    tell({ kind: 'presence', isThere: false });
    // Browsers try again by themselves, but for answers that are no stream, and by their own measure of time.
    source.close();
    void renamedMeanwhile();
    setTimeout(() => hold(tell, signal), againMs);
  });
  signal.addEventListener('abort', () => source.close());
}
