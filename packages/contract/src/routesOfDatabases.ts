import * as d from './databases.ts';
import type { Route } from './route.ts';

/** Databases. Every other call is found below `/databases/:db` too. */
export const routesOfDatabases: readonly Route[] = [
  { method: 'get', path: '/databases', summary: 'Databases, each a file', status: 200, answer: d.databaseList },
  { method: 'post', path: '/databases', summary: 'A new database', body: d.namedDatabase, status: 201, answer: d.databaseInfo },
  { method: 'patch', path: '/databases/:db', summary: 'Gives it another name', body: d.namedDatabase, status: 200, answer: d.databaseInfo },
  { method: 'delete', path: '/databases/:db', summary: 'Removes it, and its file', query: d.removeDatabase, status: 204 },
  {
    method: 'post',
    path: '/databases/:db/copy-collection',
    summary: 'Copies a collection into another database, with its indexes',
    body: d.copyCollection,
    status: 201,
    answer: d.copiedCollection,
  },
  {
    method: 'get',
    path: '/databases/:db/backup',
    summary: 'The file as it is at one moment',
    status: 200,
    gives: ['application/vnd.sqlite3'],
  },
  {
    method: 'post',
    path: '/databases/:db/restore',
    summary: 'Puts a backup in its place, once that has been checked; what was there is kept',
    takes: ['application/vnd.sqlite3', 'application/octet-stream'],
    status: 200,
    answer: d.restoredDatabase,
  },
];
