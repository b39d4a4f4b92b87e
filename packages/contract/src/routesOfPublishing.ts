import * as p from './publications.ts';
import type { Route } from './route.ts';

/** Publications: kept by those who work here, answered for others. */
export const routesOfPublishing: readonly Route[] = [
  { method: 'get', path: '/publications', summary: 'Publications, with their figures', status: 200, answer: p.publicationList },
  { method: 'get', path: '/publications/:name', summary: 'A publication', status: 200, answer: p.publication },
  {
    method: 'put',
    path: '/publications/:name',
    summary: 'Publishes a saved pipeline, or changes how',
    body: p.putPublication,
    status: 200,
    answer: p.publication,
  },
  { method: 'delete', path: '/publications/:name', summary: 'Publishes it no longer; its keys go too', status: 204 },
  { method: 'get', path: '/publications/:name/keys', summary: 'Its keys', status: 200, answer: p.keyList },
  { method: 'post', path: '/publications/:name/keys', summary: 'A new key', body: p.newKey, status: 201, answer: p.madeKey },
  { method: 'delete', path: '/publications/:name/keys/:id', summary: 'Removes a key', status: 204 },
  {
    method: 'get',
    path: '/published/:name',
    summary: 'Answers a published pipeline; what else it takes stands in /api/published/openapi.json',
    status: 200,
    answer: p.publishedAnswer,
    gives: ['application/x-ndjson', 'text/csv'],
  },
  { method: 'get', path: '/published/:name/form', summary: 'What its page shows and takes', status: 200, answer: p.publishedForm },
];
