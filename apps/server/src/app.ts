import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import type { Logger } from 'pino';
import type { Databases } from './databases/databases.ts';
import { checkOrigin, checkToken, type Access } from './http/access.ts';
import { headers } from './http/headers.ts';
import { withPatience, type Patience } from './http/patience.ts';
import { problemHandler } from './http/problemHandler.ts';
import { publishedAnswers, publishedPages } from './publicApp.ts';
import { databaseRoutes, within } from './routes/databases.ts';

export interface AppOptions {
  readonly databases: Databases;
  readonly log: Logger;
  readonly access: Access;
  readonly patience: Patience;
  /** Where the built interface lies. */
  readonly webDirectory: string;
}

/** The HTTP side: the API below /api, and the interface at every other address. */
export function makeApp({ databases, log, access, patience, webDirectory }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.use(publishedAnswers(databases, 'publishedHere'));
  app.use(withPatience(patience));
  app.use(headers);
  app.use(checkOrigin(access));
  app.use(checkToken(access));
  app.use('/api', databaseRoutes(databases));
  // Without a name it is the one that the server was started on.
  app.use('/api', (request, response, next) => {
    const now = databases.mainNow;
    if (now !== undefined) within(now, now.api, request, response, next);
    else databases.main.then((open) => within(open, open.api, request, response, next), next);
  });
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
