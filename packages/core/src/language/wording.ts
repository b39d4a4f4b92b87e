import type { NodeId } from './places.ts';
import type { Words } from './words.ts';

/** How the text that was asked calls its own parts: what is told of a plan is worded by the face that was asked in. */
export interface Wording extends Omit<Words, 'places'> {
  /** Stages by their places, such as `line 3` or `lines 3, 4`. */
  readonly stages: (ids: readonly NodeId[]) => string;
}

/** Words that are made when someone reads them, by the face that was asked in; those that are the same in all are a text. */
export type Told = string | ((wording: Wording) => string);

export function worded(told: Told, wording: Wording): string {
  return typeof told === 'string' ? told : told(wording);
}
