import { Router } from 'express';
import { newKey, publicationName, putPublication } from '@zesty-sieve/contract';
import { handle, part, readBy } from '../http/handler.ts';
import type { Hub } from '../hub.ts';

/** Publications as those who work here keep them. */
export function publicationRoutes(hub: Hub): Router {
  const router = Router();
  const { publisher } = hub;
  const nameIn = (request: Parameters<typeof part>[0]) => readBy(publicationName, part(request, 'name'));

  router.get(
    '/publications',
    handle(async (_request, response) => {
      response.json({ publications: (await publisher.all()).map((one) => publisher.told(one)) });
    }),
  );
  router.get(
    '/publications/:name',
    handle(async (request, response) => {
      response.json(publisher.told(await publisher.find(part(request, 'name'))));
    }),
  );
  router.put(
    '/publications/:name',
    handle(async (request, response) => {
      response.json(await publisher.put(nameIn(request), readBy(putPublication, request.body)));
    }),
  );
  router.delete(
    '/publications/:name',
    handle(async (request, response) => {
      await publisher.remove(part(request, 'name'));
      response.status(204).end();
    }),
  );
  router.get(
    '/publications/:name/keys',
    handle(async (request, response) => {
      response.json({ keys: await publisher.keysOf(part(request, 'name')) });
    }),
  );
  router.post(
    '/publications/:name/keys',
    handle(async (request, response) => {
      const { name } = readBy(newKey, request.body);
      response
        .status(201)
        .setHeader('Cache-Control', 'no-store')
        .json(await publisher.addKey(part(request, 'name'), name));
    }),
  );
  router.delete(
    '/publications/:name/keys/:id',
    handle(async (request, response) => {
      await publisher.removeKey(part(request, 'name'), part(request, 'id'));
      response.status(204).end();
    }),
  );
  return router;
}
