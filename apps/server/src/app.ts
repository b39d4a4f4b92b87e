import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router, type Express } from 'express';
import type { Logger } from 'pino';
import { openApiDocument } from '@zesty-sieve/contract';
import { checkOrigins } from './http/origins.ts';
import { notFound, problemHandler } from './http/problemHandler.ts';
import type { Hub } from './hub.ts';
import { changeRoutes } from './routes/changes.ts';
import { collectionRoutes } from './routes/collections.ts';
import { documentRoutes } from './routes/documents.ts';
import { historyRoutes } from './routes/history.ts';
import { queryRoutes } from './routes/queries.ts';
import { serverRoutes } from './routes/server.ts';
import { transferRoutes } from './routes/transfer.ts';

export interface AppOptions {
  readonly hub: Hub;
  readonly log: Logger;
  readonly allowedHosts: ReadonlySet<string>;
  /** Where the built interface lies. */
  readonly webDirectory: string;
}

/** The HTTP side: the API below /api, and the interface at every other address. */
export function makeApp({ hub, log, allowedHosts, webDirectory }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.use(checkOrigins(allowedHosts));
  app.use((_request, response, next) => {
    response.setHeader('X-Content-Type-Options', 'nosniff');
    response.setHeader('Referrer-Policy', 'no-referrer');
    response.setHeader(
      'Content-Security-Policy',
      "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self' data:; frame-ancestors 'none'",
    );
    next();
  });

  const api = Router();
  const description = openApiDocument();
  api.get('/openapi.json', (_request, response) => void response.json(description));
  // These take their bodies as they come, for another thread to read.
  api.use(transferRoutes(hub));
  api.use(documentRoutes(hub));
  api.use(express.json({ limit: '64mb', strict: false }));
  api.use(collectionRoutes(hub));
  api.use(queryRoutes(hub));
  api.use(historyRoutes(hub));
  api.use(changeRoutes(hub));
  api.use(serverRoutes(hub));
  api.use(notFound);
  app.use('/api', api);

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
