import { databaseHere } from './database.ts';

/** Parts of a path below another, each as it has to stand in a URL. */
export const at = (...parts: readonly (string | number)[]): string => parts.map((part) => `/${encodeURIComponent(part)}`).join('');

/** The URL of a call about the database here; without parts, where all of them begin. */
export function apiUrl(...parts: readonly (string | number)[]): string {
  return `/api${databaseHere === null ? '' : at('databases', databaseHere)}${at(...parts)}`;
}
