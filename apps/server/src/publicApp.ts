import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import type { Logger } from 'pino';
import { headers } from './http/headers.ts';
import { withPatience, type Patience } from './http/patience.ts';
import { notFound, problemHandler } from './http/problemHandler.ts';
import type { Databases, OpenDatabase, Served } from './databases/databases.ts';
import { within } from './routes/databases.ts';

/** What others see on a listener of its own: published answers and pages, and what those load. Nothing else is there. */
export function makePublicApp({
  databases,
  log,
  patience,
  webDirectory,
}: {
  readonly databases: Databases;
  readonly log: Logger;
  readonly patience: Patience;
  readonly webDirectory: string;
}): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.use(publishedAnswers(databases, 'publishedToAll'));
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
  router.get(['/p/:name', '/d/:db/p/:name'], (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(page);
  });
  return router;
}

/** Published answers of the default database, and of others by their names. */
export function publishedAnswers(databases: Databases, by: Exclude<keyof Served, 'api'>): express.Router {
  const router = express.Router();
  const answer = (open: OpenDatabase, request: express.Request, response: express.Response, next: express.NextFunction) =>
    within(open, open[by], request, response, next);
  router.use('/api/published', (request, response, next) => {
    const now = databases.mainNow;
    if (now !== undefined) answer(now, request, response, next);
    else databases.main.then((open) => answer(open, request, response, next), next);
  });
  router.use('/api/databases/:db/published', (request, response, next) => {
    databases.open(request.params.db).then((open) => answer(open, request, response, next), next);
  });
  return router;
}
