import { viewsRead } from '@zesty-sieve/core/language';
import type { Catalog } from '../catalog.ts';
import type { MadeOf, StoredView } from '../storage/rooms/materialized.ts';

/** What a view says, in its own text and in those of the views that it reads, with the values that were saved with them. */
export function definitionOf(catalog: Catalog, name: string): string {
  const { everyView } = catalog;
  const own = everyView.get(name);
  // What is kept stands for itself: it is known by the version of its rows.
  const below = [...viewsRead(own?.pipeline ?? '', catalog.plainViews)].sort().map((one) => [one, everyView.get(one)]);
  return JSON.stringify([own, below]);
}

/** The versions of what a view reads, as the file has them now. */
export function versionsOf(catalog: Catalog, name: string): MadeOf['versions'] {
  const sources = catalog.sourcesFor(catalog.everyView.get(name)?.pipeline ?? '');
  return Object.fromEntries(sources.map(({ id, version }) => [id, version]));
}

/** Whether the rows of a view are those that its pipeline gives now: nothing that they were made of has changed since. */
export function isFresh(catalog: Catalog, view: StoredView): boolean {
  const { madeOf, name } = view;
  if (madeOf === null || madeOf.text !== definitionOf(catalog, name)) return false;
  const now = versionsOf(catalog, name);
  const sources = Object.keys(now);
  if (sources.length === 0 || sources.length !== Object.keys(madeOf.versions).length) return false;
  if (sources.some((id) => now[id] !== madeOf.versions[id])) return false;
  // What another kept view has is as good as that one is.
  return catalog.keptViews.every((other) => !(String(other.collectionId) in now) || other.name === name || isFresh(catalog, other));
}
