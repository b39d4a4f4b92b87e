import { Router } from 'express';
import { handle, part } from '../http/handler.ts';
import type { Hub } from '../hub.ts';

/** Whether a collection is what its file says: asked for, followed and ended. */
export function checkRoutes(hub: Hub): Router {
  const router = Router();

  router.get(
    '/collections/:c/check',
    handle(async (request, response) => {
      response.json(await hub.checks.state(part(request, 'c')));
    }),
  );

  router.post(
    '/collections/:c/check',
    handle(async (request, response) => {
      response.json(await hub.checks.run(part(request, 'c')));
    }),
  );

  router.delete(
    '/collections/:c/check',
    handle((request, response) => {
      hub.checks.cancel(part(request, 'c'));
      response.status(204).end();
    }),
  );

  return router;
}
