import { keptName } from '../../api/database.ts';
import { draftsIn, joinedDrafts, writtenDrafts } from './drafts.ts';
import { ownWindow, placeOf, windowOf } from './draftsPlace.ts';

/** What a window has of its browser: what all windows share, what is its own, and who is there. */
export interface Browser {
  readonly local: Storage;
  readonly session: Storage;
  readonly locks: Pick<LockManager, 'request' | 'query'>;
}

const sessionPlace = keptName('zesty-sieve-window');
const lockOf = (window: string): string => keptName(`zesty-sieve window ${window}`);
/** So long a page that is reloaded waits for the one before it to be gone. */
const goneMs = 500;

/**
 * Each window has tabs of its own: what is written in one is not written over by another. A window that is reloaded goes on with its
 * own; one that is a copy of another begins with a copy; a new one takes over what windows have left that are closed by now.
 * @returns the name of the window
 */
export async function claimWindow({ local, session, locks }: Browser): Promise<string> {
  const before = session.getItem(sessionPlace);
  if (before !== null && (await isHeld(locks, before))) return before;
  const own = crypto.randomUUID().slice(0, 8);
  await isHeld(locks, own);
  if (before === null) await takeOver(own, { local, locks });
  else copy(local, placeOf(before), placeOf(own));
  session.setItem(sessionPlace, own);
  return own;
}

/** Whether a window's lock can be had; it is held as long as the page is there. */
function isHeld(locks: Browser['locks'], window: string): Promise<boolean> {
  return new Promise((resolve) => {
    const forGood = (): Promise<never> => {
      resolve(true);
      return new Promise(() => undefined);
    };
    locks.request(lockOf(window), { signal: AbortSignal.timeout(goneMs) }, forGood).catch(() => resolve(false));
  });
}

function copy(local: Storage, from: string, to: string): void {
  const text = local.getItem(from);
  if (text !== null) local.setItem(to, text);
}

/** Two windows that are opened at once do not take over the same. */
async function takeOver(own: string, { local, locks }: Omit<Browser, 'session'>): Promise<void> {
  await locks.request(keptName('zesty-sieve windows'), async () => {
    const alive = new Set((await locks.query()).held?.map(({ name }) => name));
    const left = Object.keys(local).filter((place) => {
      const window = windowOf(place);
      return window !== undefined && !alive.has(lockOf(window));
    });
    const drafts = left.map((place) => draftsIn(local.getItem(place))).filter((one) => one !== undefined);
    if (drafts.length > 0) local.setItem(placeOf(own), writtenDrafts(joinedDrafts(drafts)));
    for (const place of left) local.removeItem(place);
  });
}

/**
 * Goes by what the window remembers of itself, as it does after a reload, without waiting for what the others tell.
 * @returns whether it remembers anything, or all windows share one place
 */
export function rememberOwnWindow(): boolean {
  try {
    if (typeof navigator.locks === 'undefined') return true;
    const before = sessionStorage.getItem(sessionPlace);
    if (before !== null) ownWindow.is(before);
    return before !== null;
  } catch {
    return true;
  }
}

/** Finds out which window this is. Where the browser keeps or tells nothing, windows share one place. */
export async function knowOwnWindow(): Promise<void> {
  try {
    if (typeof navigator.locks === 'undefined') return;
    ownWindow.is(await claimWindow({ local: localStorage, session: sessionStorage, locks: navigator.locks }));
  } catch {
    // As above.
  }
}
