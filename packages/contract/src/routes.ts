import type { z } from 'zod';
import * as h from './changes.ts';
import * as c from './collections.ts';
import * as q from './queries.ts';

export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** With `:name` for parameters, below `/api`. */
  readonly path: string;
  readonly summary: string;
  readonly body?: z.ZodType;
  /** Content types of a body that is no JSON of a schema. */
  readonly takes?: readonly string[];
  readonly query?: z.ZodType;
  readonly status: number;
  readonly answer?: z.ZodType;
  readonly gives?: readonly string[];
}

/** Every call of the HTTP API: the OpenAPI document is made from this table. */
export const routes: readonly Route[] = [
  { method: 'get', path: '/collections', summary: 'The collections with their counts and sizes', status: 200, answer: c.collectionList },
  { method: 'post', path: '/collections', summary: 'Makes a collection', body: c.createCollection, status: 201, answer: c.collection },
  { method: 'get', path: '/collections/:c', summary: 'Describes a collection', status: 200, answer: c.collection },
  {
    method: 'patch',
    path: '/collections/:c',
    summary: 'Gives a collection another name',
    body: c.renameCollection,
    status: 200,
    answer: c.collection,
  },
  { method: 'delete', path: '/collections/:c/documents', summary: 'Removes all documents', status: 200, answer: c.cleared },
  {
    method: 'put',
    path: '/collections/:c/fields',
    summary: 'Notes on a field and its unit',
    body: c.fieldNote,
    status: 200,
    answer: c.fieldNote,
  },
  { method: 'get', path: '/collections/:c/json-schema', summary: 'The shape as a JSON Schema', status: 200 },
  {
    method: 'get',
    path: '/collections/:c/expected',
    summary: 'The JSON Schema that documents are expected to meet',
    status: 200,
    answer: c.expectation,
  },
  {
    method: 'put',
    path: '/collections/:c/expected',
    summary: 'Sets what documents are expected to be like',
    body: c.expectation,
    status: 200,
    answer: c.expectation,
  },
  {
    method: 'post',
    path: '/collections/:c/expected/check',
    summary: 'Checks all documents against what is expected',
    status: 200,
    answer: c.expectationCheck,
  },
  {
    method: 'post',
    path: '/overlaps',
    summary: 'Pairs of fields of two collections whose values overlap',
    body: c.overlapRequest,
    status: 200,
    answer: c.overlapList,
  },
  {
    method: 'post',
    path: '/imports/preview',
    summary: 'What the beginning of a file holds, before anything is stored',
    takes: ['application/x-ndjson', 'application/json', 'text/csv'],
    query: c.importOptions,
    status: 200,
    answer: c.importPreview,
  },
  { method: 'get', path: '/events', summary: 'What changes on the server, as it happens', status: 200, gives: ['text/event-stream'] },
  {
    method: 'get',
    path: '/backup',
    summary: 'A copy of the database, taken while the server runs',
    status: 200,
    gives: ['application/vnd.sqlite3'],
  },
  {
    method: 'post',
    path: '/changes/preview',
    summary: 'What a change would do, from a run that writes nothing',
    body: h.previewRequest,
    status: 200,
    answer: h.previewResult,
  },
  {
    method: 'post',
    path: '/changes',
    summary: 'Makes a change, all of it or nothing',
    body: h.changeRequest,
    status: 200,
    answer: h.changeResult,
  },
  { method: 'get', path: '/changes', summary: 'The changes that were made', status: 200, answer: h.changeList },
  { method: 'get', path: '/changes/:id', summary: 'A change that was made', status: 200, answer: h.changeInfo },
  {
    method: 'get',
    path: '/changes/:id/documents',
    summary: 'The documents that a change touched, before and after',
    query: q.rowsQuery,
    status: 200,
    answer: h.changedDocumentPage,
  },
  { method: 'post', path: '/changes/:id/undo', summary: 'Takes a change back', status: 200, answer: h.undoResult },
  { method: 'get', path: '/changes/progress/:track', summary: 'How far a tracked change has come', status: 200, answer: h.changeProgress },
  { method: 'delete', path: '/collections/:c', summary: 'Removes a collection with its documents and indexes', status: 204 },
  {
    method: 'get',
    path: '/collections/:c/shape',
    summary: 'Field paths with types, presence, ranges and top values',
    status: 200,
    answer: c.shape,
  },
  {
    method: 'post',
    path: '/collections/:c/documents',
    summary: 'Adds one document or an array of them, all or nothing',
    takes: ['application/json'],
    status: 201,
    answer: c.inserted,
  },
  {
    method: 'put',
    path: '/collections/:c/documents',
    summary: 'Replaces whole documents, or adds them',
    takes: ['application/json'],
    status: 200,
  },
  {
    method: 'post',
    path: '/collections/:c/documents/read',
    summary: 'Reads many documents by identity',
    body: c.readDocuments,
    status: 200,
  },
  {
    method: 'get',
    path: '/collections/:c/documents/:id',
    summary: 'One document, as it was stored',
    status: 200,
    gives: ['application/json'],
  },
  {
    method: 'put',
    path: '/collections/:c/documents/:id',
    summary: 'Replaces one document, or adds it',
    takes: ['application/json'],
    status: 200,
  },
  {
    method: 'patch',
    path: '/collections/:c/documents/:id',
    summary: 'Changes one document',
    takes: ['application/json-patch+json', 'application/merge-patch+json'],
    status: 200,
  },
  { method: 'delete', path: '/collections/:c/documents/:id', summary: 'Removes one document', status: 204 },
  {
    method: 'post',
    path: '/collections/:c/import',
    summary: 'Loads a file; progress as server-sent events where they are accepted',
    takes: ['application/x-ndjson', 'application/json', 'text/csv'],
    query: c.importOptions,
    status: 200,
    answer: c.importResult,
    gives: ['text/event-stream'],
  },
  { method: 'get', path: '/imports/:track', summary: 'How far a tracked import has come', status: 200, answer: c.importProgress },
  {
    method: 'get',
    path: '/collections/:c/export',
    summary: 'Streams all documents',
    status: 200,
    gives: ['application/x-ndjson', 'application/json', 'text/csv'],
  },
  { method: 'get', path: '/collections/:c/indexes', summary: 'The indexes of a collection', status: 200, answer: c.indexList },
  { method: 'post', path: '/collections/:c/indexes', summary: 'Builds an index', body: c.indexDefinition, status: 201, answer: c.index },
  { method: 'delete', path: '/collections/:c/indexes/:name', summary: 'Drops an index', status: 204 },
  { method: 'post', path: '/query', summary: 'Runs a pipeline', body: q.queryRequest, status: 200, answer: q.queryResult },
  { method: 'get', path: '/runs/:runId/rows', summary: 'A page of the rows of a run', query: q.rowsQuery, status: 200, answer: q.rowsPage },
  { method: 'get', path: '/runs/:runId/rows.ndjson', summary: 'All rows of a run', status: 200, gives: ['application/x-ndjson'] },
  { method: 'get', path: '/runs/:runId/rows.json', summary: 'All rows of a run', status: 200, gives: ['application/json'] },
  { method: 'get', path: '/runs/:runId/rows.csv', summary: 'All rows of a run', status: 200, gives: ['text/csv'] },
  { method: 'post', path: '/plan', summary: 'Plans a pipeline without running it', body: q.planRequest, status: 200, answer: q.planResult },
  {
    method: 'post',
    path: '/measure',
    summary: 'Runs a pipeline with and without an index in turn, and compares',
    body: q.measureRequest,
    status: 200,
    answer: q.measureResult,
  },
  {
    method: 'post',
    path: '/counts',
    summary: 'How many of the rows that reach a line each condition keeps alone',
    body: q.countRequest,
    status: 200,
    answer: q.countResult,
  },
  {
    method: 'post',
    path: '/compare',
    summary: 'Compares the rows of two pipelines',
    body: q.compareRequest,
    status: 200,
    answer: q.compareResult,
  },
  {
    method: 'post',
    path: '/trace',
    summary: 'Follows one document through the lines',
    body: q.traceRequest,
    status: 200,
    answer: q.traceResult,
  },
  { method: 'post', path: '/parse', summary: 'Reads and checks a pipeline', body: q.parseRequest, status: 200, answer: q.parseResult },
  { method: 'get', path: '/pipelines', summary: 'The saved pipelines', status: 200, answer: q.pipelineList },
  { method: 'get', path: '/pipelines/:name', summary: 'A saved pipeline', status: 200, answer: q.savedPipeline },
  { method: 'put', path: '/pipelines/:name', summary: 'Saves a pipeline', body: q.savePipeline, status: 200, answer: q.savedPipeline },
  { method: 'delete', path: '/pipelines/:name', summary: 'Removes a saved pipeline', status: 204 },
];
