import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import type { Logger } from 'pino';
import { publishedToAll } from './http/access.ts';
import { headers } from './http/headers.ts';
import { withPatience, type Patience } from './http/patience.ts';
import { notFound, problemHandler } from './http/problemHandler.ts';
import type { Hub } from './hub.ts';
import { publishedRoutes } from './routes/published.ts';

/** What others see on a listener of its own: published answers and pages, and what those load. Nothing else is there. */
export function makePublicApp({
  hub,
  log,
  patience,
  webDirectory,
}: {
  readonly hub: Hub;
  readonly log: Logger;
  readonly patience: Patience;
  readonly webDirectory: string;
}): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.use(publishedRoutes(hub, publishedToAll));
  app.use(withPatience(patience));
  app.use(headers);
  app.use(publishedPages(webDirectory));
  app.use(notFound);
  app.use(problemHandler(log));
  return app;
}

/** The page of a publication, and the files that it loads: they lie apart from those of the interface. */
export function publishedPages(webDirectory: string): express.Router {
  const router = express.Router();
  const page = join(webDirectory, 'published.html');
  if (!existsSync(page)) return router;
  router.use('/published-files', express.static(join(webDirectory, 'published-files'), { index: false, maxAge: '1y', immutable: true }));
  router.get('/p/:name', (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(page);
  });
  return router;
}
