import { keptName } from '../../api/database.ts';

/** Where the browser keeps the tabs of each window, apart for each database. */

const base = 'zesty-sieve-drafts';
/** A window without a name has the place that all shared before they had names. */
export const placeOf = (window: string): string => keptName(window === '' ? base : `${base}:${window}`);

/** The window whose tabs of this database are kept at a place; undefined for any other place. */
export function windowOf(place: string): string | undefined {
  const window = /^zesty-sieve-drafts(?::([0-9a-f]+))?(?: |$)/.exec(place)?.[1] ?? '';
  return placeOf(window) === place ? window : undefined;
}

let own = '';
export const ownWindow = {
  get place(): string {
    return placeOf(own);
  },
  is(window: string): void {
    own = window;
  },
};
