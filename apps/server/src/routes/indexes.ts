import { Router } from 'express';
import { indexDefinition, recallAsked, recallRequest } from '@zesty-sieve/contract';
import { flagFor } from '../http/flagFor.ts';
import { handle, part, readBy } from '../http/handler.ts';
import { asJob } from '../http/job.ts';
import { onceOf, onceOfJson } from '../http/once.ts';
import type { Hub } from '../hub.ts';
import { makeIndex } from '../makeIndex.ts';
import { ServerProblem, unwrap } from '../problem.ts';

/** Indexes of a collection: told with their use, built, dropped. */
export function indexRoutes(hub: Hub): Router {
  const router = Router();

  router.get(
    '/collections/:c/indexes',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      await hub.runLog.settle();
      const [indexes, use, building] = await Promise.all([
        hub.engine.call((engine) => engine.indexes(collection)).then(unwrap),
        hub.storage.call((storage) => storage.indexUse(collection.id)),
        hub.engine.call((engine) => engine.buildsOf(collection.name)),
      ]);
      const used = new Map(use.map((one) => [one.name, one]));
      response.json({
        indexes: indexes.map((one) => ({
          ...one,
          uses: used.get(one.name)?.runs ?? 0,
          lastUsedAt: used.get(one.name)?.lastUsedAt ?? null,
        })),
        building,
      });
    }),
  );

  router.post(
    '/collections/:c/indexes',
    handle(async (request, response) => {
      const definition = readBy(indexDefinition, request.body);
      response.status(201).json(await makeIndex(hub, part(request, 'c'), definition, onceOfJson(request)));
    }),
  );

  router.post(
    '/collections/:c/indexes/:name/recall',
    handle(async (request, response) => {
      const asked = readBy(recallRequest, request.body ?? {});
      const collection = hub.catalog.collection(part(request, 'c'));
      const name = part(request, 'name');
      const flag = flagFor(response);
      const work = { kind: 'recall', of: collection.name, detail: name, cancel: () => flag.cancel() } as const;
      const measure = async (onProgress: (progress: object) => void) => {
        const measured = unwrap(
          await hub.engine.call((engine) => engine.measureRecall(collection, name, recallAsked(asked), flag.buffer, onProgress), {
            cancel: flag,
          }),
        );
        unwrap(await hub.storage.call((storage) => storage.keepRecall(collection.id, name, measured)));
        await hub.catalog.relist();
        hub.events.tell({ kind: 'indexes', collection: collection.name });
        return measured;
      };
      await asJob(request, response, (onProgress) => hub.work.during(work, () => measure(onProgress)));
    }),
  );

  router.delete(
    '/collections/:c/indexes/:name/build',
    handle(async (request, response) => {
      const { name: collection } = hub.catalog.collection(part(request, 'c'));
      const index = part(request, 'name');
      const isEnded = await hub.engine.call((engine) => engine.cancelBuild(collection, index));
      if (!isEnded) throw new ServerProblem('/not-found', `No index ${index} of ${collection} is being built.`);
      response.status(204).end();
    }),
  );

  router.delete(
    '/collections/:c/indexes/:name',
    handle(async (request, response) => {
      const name = part(request, 'name');
      const once = onceOf(request, '');
      await hub.commits.commit({
        collection: part(request, 'c'),
        once,
        kind: 'indexes',
        store: async (collection) => {
          if (!collection.indexes.some((index) => index.name === name)) {
            throw new ServerProblem(
              '/not-found',
              name === 'identity' ? 'The identity index stays with its collection.' : `${collection.name} has no index ${name}.`,
            );
          }
          return unwrap(await hub.storage.call((storage) => storage.removeIndex(collection.id, name), { once }));
        },
        follow: (engine, _stored, collection) => engine.dropIndex(collection, name),
      });
      response.status(204).end();
    }),
  );

  return router;
}
