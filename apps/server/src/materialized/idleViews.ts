import type { IdleView } from '@zesty-sieve/contract';
import type { Hub } from '../hub.ts';

/** So many runs have to have passed a view over before it is called idle: more where it was of use once. */
const passedOver = { neverRead: 10, readBefore: 100 };

/** Kept views that nothing has read for as long as others asked the same collections often. */
export async function idleViews(hub: Hub): Promise<IdleView[]> {
  const { catalog, materialized } = hub;
  const found = await Promise.all(
    catalog.keptViews.map(async ({ name, keptAt }): Promise<IdleView | undefined> => {
      const info = materialized.infoOf(name, []);
      const since = info?.lastUsedAt ?? keptAt;
      if (info === null || since === null) return undefined;
      const collections = catalog.sourcesFor(catalog.everyView.get(name)?.pipeline ?? '').map((source) => source.name);
      const runsSince = await hub.storage.call((storage) => storage.runsSince(collections, since));
      const wasRead = info.lastUsedAt !== null;
      if (runsSince < (wasRead ? passedOver.readBefore : passedOver.neverRead)) return undefined;
      return { view: name, collections, bytes: info.bytes, since, wasRead, runsSince, following: info.following };
    }),
  );
  return found.filter((one) => one !== undefined);
}
