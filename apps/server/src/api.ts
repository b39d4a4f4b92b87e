import express, { Router } from 'express';
import { openApiDocument } from '@zesty-sieve/contract';
import type { Served } from './databases/databases.ts';
import { publishedHere, publishedToAll, type Access } from './http/access.ts';
import { expectJson, hasBody } from './http/handler.ts';
import { notFound } from './http/problemHandler.ts';
import type { Uploads } from './http/upload.ts';
import type { Hub } from './hub.ts';
import { changeRoutes } from './routes/changes.ts';
import { checkRoutes } from './routes/checks.ts';
import { collectionRoutes } from './routes/collections.ts';
import { documentRoutes } from './routes/documents.ts';
import { historyRoutes } from './routes/history.ts';
import { indexRoutes } from './routes/indexes.ts';
import { pipelineRoutes } from './routes/pipelines.ts';
import { publicationRoutes } from './routes/publications.ts';
import { publishedRoutes } from './routes/published.ts';
import { queryRoutes } from './routes/queries.ts';
import { serverRoutes } from './routes/server.ts';
import { shapeRoutes } from './routes/shapes.ts';
import { sqlRoutes } from './routes/sql.ts';
import { transferRoutes } from './routes/transfer.ts';
import { wordRoutes } from './routes/words.ts';
import { workRoutes } from './routes/work.ts';

const description = openApiDocument();

/** Every call about one database. */
export function apiOf(hub: Hub, uploads: Uploads, access: Access): Served {
  const api = Router();
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
  api.use(workRoutes(hub));
  api.use(historyRoutes(hub));
  api.use(changeRoutes(hub));
  api.use(serverRoutes(hub));
  api.use(notFound);
  return { api, publishedHere: publishedRoutes(hub, publishedHere(access)), publishedToAll: publishedRoutes(hub, publishedToAll) };
}
