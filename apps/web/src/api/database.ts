/** The database that the address names; null for the one that the server was started on. */
export const databaseHere: string | null = nameIn(typeof location === 'undefined' ? '' : location.pathname);

function nameIn(path: string): string | null {
  const named = /^\/d\/([^/]+)/.exec(path)?.[1];
  return named === undefined ? null : decodeURIComponent(named);
}

/** Where the screens of a database are found. */
export const screensOf = (database: string | null): string => (database === null ? '' : `/d/${encodeURIComponent(database)}`);

/** What the browser keeps of one database it keeps apart from what it keeps of others. */
export const keptName = (name: string): string => (databaseHere === null ? name : `${name} ${databaseHere}`);

/** What the browser keeps of a database goes on under its new name. */
function moveKept(from: string, to: string): void {
  try {
    for (const name of Object.keys(localStorage).filter((one) => one.endsWith(` ${from}`))) {
      const kept = localStorage.getItem(name);
      if (kept !== null) localStorage.setItem(`${name.slice(0, -from.length)}${to}`, kept);
      localStorage.removeItem(name);
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
  const calledNow = (problem as { readonly calledNow?: unknown } | null | undefined)?.calledNow;
  if (databaseHere === null || typeof calledNow !== 'string') return;
  moveKept(databaseHere, calledNow);
  const rest = location.pathname.replace(/^\/d\/[^/]+/, '');
  location.replace(`${screensOf(calledNow)}${rest}${location.search}${location.hash}`);
}

/** Calls about databases themselves, wherever the address is. */
export const databasesUrl = (...parts: readonly string[]): string =>
  `${typeof location === 'undefined' ? '' : location.origin}/api/databases${parts.map((part) => `/${encodeURIComponent(part)}`).join('')}`;
