import { analyseRequest } from '@zesty-sieve/contract';
import { Router } from 'express';
import { handle, readBy, sendJson } from '../http/handler.ts';
import type { Hub } from '../hub.ts';

/** What texts are to a text index. */
export function wordRoutes(hub: Hub): Router {
  const router = Router();
  router.post(
    '/analyse',
    handle(async (request, response) => {
      const asked = readBy(analyseRequest, request.body);
      sendJson(response, await hub.engine.call((engine) => engine.analyse(asked)));
    }),
  );
  return router;
}
