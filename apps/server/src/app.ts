import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router, type Express } from 'express';
import type { Logger } from 'pino';
import { openApiDocument } from '@zesty-sieve/contract';
import { checkOrigin, checkToken, publishedHere, type Access } from './http/access.ts';
import { expectJson, hasBody } from './http/handler.ts';
import { headers } from './http/headers.ts';
import { withPatience, type Patience } from './http/patience.ts';
import type { Uploads } from './http/upload.ts';
import { notFound, problemHandler } from './http/problemHandler.ts';
import type { Hub } from './hub.ts';
import { publishedPages } from './publicApp.ts';
import { changeRoutes } from './routes/changes.ts';
import { checkRoutes } from './routes/checks.ts';
import { collectionRoutes } from './routes/collections.ts';
import { indexRoutes } from './routes/indexes.ts';
import { shapeRoutes } from './routes/shapes.ts';
import { documentRoutes } from './routes/documents.ts';
import { historyRoutes } from './routes/history.ts';
import { pipelineRoutes } from './routes/pipelines.ts';
import { publicationRoutes } from './routes/publications.ts';
import { publishedRoutes } from './routes/published.ts';
import { queryRoutes } from './routes/queries.ts';
import { sqlRoutes } from './routes/sql.ts';
import { wordRoutes } from './routes/words.ts';
import { serverRoutes } from './routes/server.ts';
import { transferRoutes } from './routes/transfer.ts';

export interface AppOptions {
  readonly hub: Hub;
  readonly log: Logger;
  readonly access: Access;
  readonly uploads: Uploads;
  readonly patience: Patience;
  /** Where the built interface lies. */
  readonly webDirectory: string;
}

/** The HTTP side: the API below /api, and the interface at every other address. */
export function makeApp({ hub, log, access, uploads, patience, webDirectory }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.use(publishedRoutes(hub, publishedHere(access)));
  app.use(withPatience(patience));
  app.use(headers);
  app.use(checkOrigin(access));
  app.use(checkToken(access));

  const api = Router();
  const description = openApiDocument();
  api.get('/openapi.json', (_request, response) => void response.json(description));
  // These take their bodies as they come, for another thread to read.
  api.use(transferRoutes(hub, uploads));
  api.use(documentRoutes(hub));
  // A page from elsewhere can send other kinds of bodies unasked.
  api.use((request, _response, next) => {
    if (hasBody(request)) expectJson(request);
    next();
  });
  api.use(express.json({ limit: '64mb', strict: false }));
  api.use(collectionRoutes(hub));
  api.use(shapeRoutes(hub));
  api.use(indexRoutes(hub));
  api.use(checkRoutes(hub));
  api.use(queryRoutes(hub));
  api.use(pipelineRoutes(hub));
  api.use(publicationRoutes(hub));
  api.use(sqlRoutes(hub));
  api.use(wordRoutes(hub));
  api.use(historyRoutes(hub));
  api.use(changeRoutes(hub));
  api.use(serverRoutes(hub));
  api.use(notFound);
  app.use('/api', api);

  app.use(publishedPages(webDirectory));
  if (existsSync(webDirectory)) {
    app.use(
      express.static(webDirectory, {
        index: false,
        maxAge: '1y',
        immutable: true,
        setHeaders: (response, path) => void (path.endsWith('.html') && response.setHeader('Cache-Control', 'no-cache')),
      }),
    );
    // The interface finds its screen by the address.
    app.get('/{*path}', (_request, response) => response.sendFile(join(webDirectory, 'index.html')));
  }
  app.use(problemHandler(log));
  return app;
}
