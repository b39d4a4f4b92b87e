import { Router } from 'express';
import { createCollection, indexDefinition, renameCollection } from '@zesty-sieve/contract';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import { CancelFlag, infoOf, type Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';

export function collectionRoutes(hub: Hub): Router {
  const router = Router();

  router.get(
    '/collections',
    handle((_request, response) => void response.json({ collections: hub.list() })),
  );

  router.post(
    '/collections',
    handle(async (request, response) => {
      const { name, identity, scratch } = readBy(createCollection, request.body);
      response.status(201).json(await hub.create(name, identity, scratch));
    }),
  );

  router.get(
    '/collections/:c',
    handle((request, response) => void response.json(infoOf(hub.collection(part(request, 'c'))))),
  );

  router.patch(
    '/collections/:c',
    handle(async (request, response) => {
      const { name } = readBy(renameCollection, request.body);
      response.json(await hub.rename(part(request, 'c'), name));
    }),
  );

  router.delete(
    '/collections/:c/documents',
    handle(async (request, response) => {
      response.json({ removed: await hub.clear(part(request, 'c')) });
    }),
  );

  router.delete(
    '/collections/:c',
    handle(async (request, response) => {
      await hub.remove(part(request, 'c'));
      response.status(204).end();
    }),
  );

  router.get(
    '/collections/:c/shape',
    handle(async (request, response) => {
      const collection = hub.collection(part(request, 'c'));
      sendJson(response, unwrap(await hub.engine.call((engine) => engine.shape(collection))));
    }),
  );

  router.get(
    '/collections/:c/indexes',
    handle(async (request, response) => {
      const collection = hub.collection(part(request, 'c'));
      response.json({ indexes: unwrap(await hub.engine.call((engine) => engine.indexes(collection))) });
    }),
  );

  router.post(
    '/collections/:c/indexes',
    handle(async (request, response) => {
      const definition = readBy(indexDefinition, request.body);
      const flag = new CancelFlag();
      const made = await hub.change(part(request, 'c'), (collection) =>
        hub.cancellable(
          flag,
          (cancel) => response.on('close', () => response.writableEnded || cancel()),
          async () => {
            const { definition: text, ...info } = unwrap(
              await hub.engine.call((engine) => engine.createIndex(collection, definition, flag.buffer)),
            );
            const stored = { name: info.name, definition: text, createdAt: info.createdAt ?? '', buildMs: info.buildMs };
            unwrap(await hub.storage.call((storage) => storage.addIndex(collection.id, stored)));
            return info;
          },
        ), 'indexes',
      ); // prettier-ignore
      response.status(201).json(made);
    }),
  );

  router.delete(
    '/collections/:c/indexes/:name',
    handle(async (request, response) => {
      const name = part(request, 'name');
      await hub.change(part(request, 'c'), async (collection) => {
        if (!collection.indexes.some((index) => index.name === name)) {
          throw new ServerProblem(
            '/not-found',
            name === 'identity' ? 'The identity index stays with its collection.' : `${collection.name} has no index ${name}.`,
          );
        }
        unwrap(await hub.storage.call((storage) => storage.removeIndex(collection.id, name)));
        await hub.engine.call((engine) => engine.dropIndex(collection.name, name));
      }, 'indexes'); // prettier-ignore
      response.status(204).end();
    }),
  );

  return router;
}
