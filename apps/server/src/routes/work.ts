import { Router } from 'express';
import { handle, part } from '../http/handler.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem } from '../problem.ts';

/** Work that takes long: all of it in one place. */
export function workRoutes(hub: Hub): Router {
  const router = Router();
  router.get(
    '/work',
    handle(async (_request, response) => void response.json({ work: await hub.work.list() })),
  );
  router.delete(
    '/work/:id',
    handle(async (request, response) => {
      if (!(await hub.work.cancel(part(request, 'id'))))
        throw new ServerProblem('/not-found', 'This is not under way any more, or cannot be ended.');
      response.status(204).end();
    }),
  );
  return router;
}
