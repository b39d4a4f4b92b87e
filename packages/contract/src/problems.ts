import { z } from 'zod';
import { diagnostic } from './queries.ts';
import { suggestion } from './plans.ts';

/** Problem Details (RFC 9457). `type` is stable; its last part names the problem. */
export const problem = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string().optional(),
  diagnostics: z.array(diagnostic).optional(),
  line: z.int().optional(),
  reached: z.number().optional(),
  limit: z.number().optional(),
  suggestions: z.array(suggestion).optional(),
  calledNow: z.string().optional().describe('What a database is called now that had the name which was asked for.'),
});
export type Problem = z.infer<typeof problem>;

export const problemTypeBase = '/problems';

export const problemTitles = {
  '/pipeline': [422, 'The pipeline has errors'],
  '/sql': [422, 'The SQL has errors'],
  '/guard-time': [422, 'The run was stopped: it took longer than its guard allows'],
  '/guard-documents-read': [422, 'The run was stopped: it read more documents than its guard allows'],
  '/guard-memory': [422, 'The run was stopped: it held more memory than its guard allows'],
  '/way': [422, 'There is no such way to the documents'],
  '/unique': [422, 'A unique index refuses this'],
  '/index': [422, 'The index cannot be made'],
  '/recall': [422, 'There is nothing to measure'],
  '/document': [422, 'The document cannot be stored'],
  '/schema': [422, 'The document is not of the expected form'],
  '/in-use': [409, 'Something else needs this'],
  '/request': [400, 'The request is not understood'],
  '/malformed': [400, 'The body cannot be read'],
  '/not-found': [404, 'There is no such thing'],
  '/duplicate-identity': [409, 'The identity is taken'],
  '/changed-since': [409, 'Documents have changed since'],
  '/exists': [409, 'The name is taken'],
  '/precondition': [412, 'The document has changed since it was read'],
  '/gone': [410, 'The rows are no longer kept'],
  '/silent': [408, 'The request did not come to its end'],
  '/unauthorized': [401, 'A token is wanted'],
  '/damaged': [503, 'The database cannot be opened'],
  '/folder': [507, 'The folder cannot be written'],
  '/key': [401, 'A key is wanted'],
  '/parameters': [400, 'The parameters cannot be used as they are'],
  '/method': [405, 'It is not asked in this way'],
  '/idempotency': [422, 'The Idempotency-Key stands for something else'],
  '/busy': [503, 'Too much of this is under way'],
  '/too-large': [413, 'The body is too large'],
  '/media-type': [415, 'The content type is not one of those taken here'],
  '/forbidden-origin': [403, 'Requests from there are not answered'],
  '/cancelled': [499, 'The run was cancelled'],
  '/collection-too-large': [507, 'The collection does not fit in memory'],
  '/restarted': [503, 'The engine was restarted'],
  '/internal': [500, 'Something went wrong on the server'],
} as const satisfies Record<string, readonly [number, string]>;
export type ProblemType = keyof typeof problemTitles;
