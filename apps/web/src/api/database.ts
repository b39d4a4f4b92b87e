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

/** Calls about databases themselves, wherever the address is. */
export const databasesUrl = (...parts: readonly string[]): string =>
  `${typeof location === 'undefined' ? '' : location.origin}/api/databases${parts.map((part) => `/${encodeURIComponent(part)}`).join('')}`;
