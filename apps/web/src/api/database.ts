/** The database that the address names; null for the one that the server was started on. */
export const databaseHere: string | null = nameIn(typeof location === 'undefined' ? '' : location.pathname);

function nameIn(path: string): string | null {
  const named = /^\/d\/([^/]+)/.exec(path)?.[1];
  return named === undefined ? null : decodeURIComponent(named);
}

/** Where the screens of a database are found. */
export const screensOf = (database: string | null): string => (database === null ? '' : `/d/${encodeURIComponent(database)}`);

/** What it has been renamed to, while this page still has its old address. */
let calledNow: string | null = null;

/** What the browser keeps of one database it keeps apart from what it keeps of others. */
export function keptName(name: string): string {
  const database = calledNow ?? databaseHere;
  return database === null ? name : `${name} ${database}`;
}

/** What the browser keeps of a database goes on under its new name: for all windows, and of this one. */
function moveKept(from: string, to: string): void {
  calledNow = to;
  try {
    for (const storage of [localStorage, sessionStorage]) {
      for (const name of Object.keys(storage).filter((one) => one.endsWith(` ${from}`))) {
        const kept = storage.getItem(name);
        if (kept !== null) storage.setItem(`${name.slice(0, -from.length)}${to}`, kept);
        storage.removeItem(name);
      }
    }
  } catch {
    // A browser that keeps nothing has nothing to move.
  }
}

/**
 * Follows the database here to its new name, where a call has failed because it was renamed in another window.
 * @param problem what the call told
 */
export function followRenaming(problem: unknown): void {
  const next = (problem as { readonly calledNow?: unknown } | null | undefined)?.calledNow;
  if (databaseHere === null || typeof next !== 'string') return;
  moveKept(databaseHere, next);
  const rest = location.pathname.replace(/^\/d\/[^/]+/, '');
  location.replace(`${screensOf(next)}${rest}${location.search}${location.hash}`);
}

/** Calls about databases themselves, wherever the address is. */
export const databasesUrl = (...parts: readonly string[]): string =>
  `${typeof location === 'undefined' ? '' : location.origin}/api/databases${parts.map((part) => `/${encodeURIComponent(part)}`).join('')}`;
