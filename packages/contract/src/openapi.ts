import { z } from 'zod';
import { problem } from './problems.ts';
import { routes, type Route } from './routes.ts';

function schemaOf(schema: z.ZodType, io: 'input' | 'output'): object {
  const { $schema: _, ...plain } = z.toJSONSchema(schema, { io, unrepresentable: 'any' }) as Record<string, unknown>;
  return plain;
}

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
  };
}
