import { z } from 'zod';
import { problem } from './problems.ts';
import { routes } from './routes.ts';
import type { Route } from './route.ts';

function schemaOf(schema: z.ZodType, io: 'input' | 'output'): object {
  const { $schema: _, ...plain } = z.toJSONSchema(schema, { io, unrepresentable: 'any' }) as Record<string, unknown>;
  return plain;
}

/** Writes that are made once where they carry an Idempotency-Key. */
const madeOnce: ReadonlySet<string> = new Set([
  'post /collections',
  'patch /collections/:c',
  'delete /collections/:c',
  'delete /collections/:c/documents',
  'post /collections/:c/documents',
  'put /collections/:c/documents',
  'put /collections/:c/documents/:id',
  'patch /collections/:c/documents/:id',
  'delete /collections/:c/documents/:id',
  'post /collections/:c/import',
  'post /collections/:c/indexes',
  'delete /collections/:c/indexes/:name',
  'post /changes',
  'post /changes/:id/undo',
  'post /runs/:runId/store',
  'put /pipelines/:name',
]);
const idempotencyKey = {
  name: 'Idempotency-Key',
  in: 'header',
  required: false,
  description: 'Within a day the same key gives the first answer, and the write is made once. Another request under the same key is a 422.',
  schema: { type: 'string', minLength: 1, maxLength: 255 },
};

function operation(route: Route): object {
  const names = [...route.path.matchAll(/:(\w+)/g)].map(([, name]) => name);
  const query = route.query
    ? Object.entries((schemaOf(route.query, 'input') as { properties?: Record<string, object> }).properties ?? {})
    : [];
  const answer: Record<string, object> = {};
  if (route.answer) answer['application/json'] = { schema: schemaOf(route.answer, 'output') };
  for (const type of route.gives ?? []) answer[type] ??= { schema: { type: 'string' } };
  const body = route.body
    ? { 'application/json': { schema: schemaOf(route.body, 'input') } }
    : Object.fromEntries((route.takes ?? []).map((type) => [type, { schema: {} }]));
  return {
    summary: route.summary,
    parameters: [
      ...names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
      ...query.map(([name, schema]) => ({ name, in: 'query', required: false, schema })),
      ...(madeOnce.has(`${route.method} ${route.path}`) ? [idempotencyKey] : []),
    ],
    ...(Object.keys(body).length > 0 && { requestBody: { required: true, content: body } }),
    responses: {
      [route.status]: { description: 'Done', ...(Object.keys(answer).length > 0 && { content: answer }) },
      default: { description: 'A problem (RFC 9457)', content: { 'application/problem+json': { schema: schemaOf(problem, 'output') } } },
    },
  };
}

/** The OpenAPI 3.1 description of the HTTP API. */
export function openApiDocument(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const route of routes) {
    const path = '/api' + route.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[route.method] = operation(route);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Zesty Sieve', version: '0.1.0', description: 'Pipelines over collections of JSON documents.' },
    paths,
    // Wanted on addresses that others can reach, and there alone.
    components: { securitySchemes: { token: { type: 'http', scheme: 'bearer' } } },
    security: [{}, { token: [] }],
  };
}
