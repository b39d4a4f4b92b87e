import { Router } from 'express';
import { createCollection, renameCollection } from '@zesty-sieve/contract';
import { infoOf } from '../catalog.ts';
import { handle, part, readBy } from '../http/handler.ts';
import { onceOf, onceOfJson } from '../http/once.ts';
import type { Hub } from '../hub.ts';

/** Collections: made, told, renamed, emptied, removed. */
export function collectionRoutes(hub: Hub): Router {
  const router = Router();

  router.get(
    '/collections',
    handle((_request, response) => void response.json({ collections: hub.catalog.list() })),
  );

  router.post(
    '/collections',
    handle(async (request, response) => {
      const { name, identity, scratch } = readBy(createCollection, request.body);
      response.status(201).json(await hub.collections.create(name, identity, scratch, onceOfJson(request)));
    }),
  );

  router.get(
    '/collections/:c',
    handle((request, response) => void response.json(infoOf(hub.catalog.collection(part(request, 'c'))))),
  );

  router.patch(
    '/collections/:c',
    handle(async (request, response) => {
      const { name, identity } = readBy(renameCollection, request.body);
      const old = part(request, 'c');
      if (identity !== undefined) await hub.collections.setIdentity(old, identity);
      response.json(
        name === undefined ? infoOf(hub.catalog.collection(old)) : await hub.collections.rename(old, name, onceOfJson(request)),
      );
    }),
  );

  router.delete(
    '/collections/:c/documents',
    handle(async (request, response) => {
      response.json({ removed: await hub.collections.clear(part(request, 'c'), onceOf(request, '')) });
    }),
  );

  router.delete(
    '/collections/:c',
    handle(async (request, response) => {
      await hub.collections.remove(part(request, 'c'), onceOf(request, ''));
      response.status(204).end();
    }),
  );

  return router;
}
