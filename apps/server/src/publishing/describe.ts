import { approximateHeader, asOfHeader } from '../http/saidOfRows.ts';
import type { PublishedParameter } from '@zesty-sieve/contract';
import { fieldPaths } from './parameters.ts';
import type { Open } from './publisher.ts';

function schemaOf(parameter: PublishedParameter): object {
  const { kind, of = 'text', choices, least, greatest } = parameter;
  const given = parameter.default === undefined ? {} : { default: parameter.default };
  const among = choices === undefined ? {} : { enum: choices };
  switch (kind) {
    case 'number':
      return {
        type: 'number',
        ...among,
        ...given,
        ...(least !== undefined && { minimum: least }),
        ...(greatest !== undefined && { maximum: greatest }),
      };
    case 'boolean':
      return { type: 'boolean', ...given };
    case 'list':
      return { type: 'array', items: { type: of === 'number' ? 'number' : 'string', ...among }, ...given };
    case 'date':
      return { type: 'string', format: 'date', ...among, ...given };
    default:
      return { type: 'string', ...among, ...given };
  }
}

function described(parameter: PublishedParameter, hasValue: boolean): object {
  const { name, kind, label, note } = parameter;
  const fields =
    kind === 'condition'
      ? `A condition over ${fieldPaths(parameter).join(', ')}: comparisons with constants, in, contains, starts_with, joined by && || and !.`
      : undefined;
  const description = [label, note, fields].filter((one) => one !== undefined).join('. ');
  return {
    name,
    in: 'query',
    required: kind !== 'condition' && parameter.default === undefined && !hasValue,
    ...(description !== '' && { description }),
    ...(kind === 'list' && { style: 'form', explode: true }),
    schema: schemaOf(parameter),
  };
}

const whole = (least: number, most?: number) => ({ type: 'integer', minimum: least, ...(most !== undefined && { maximum: most }) });
const answerSchema = {
  type: 'object',
  required: ['documents', 'hasMore'],
  properties: { documents: { type: 'array', items: {} }, hasMore: { type: 'boolean' }, next: { type: 'string' } },
};

/** The OpenAPI 3.1 description of publications. @param base what stands before their names */
export function describePublications(open: readonly Open[], base: string): object {
  const problemSchema = {
    type: 'object',
    description: 'Problem Details (RFC 9457)',
    properties: { type: { type: 'string' }, title: { type: 'string' }, status: { type: 'integer' }, detail: { type: 'string' } },
  };
  const failure = { description: 'A problem', content: { 'application/problem+json': { schema: problemSchema } } };
  const paths = Object.fromEntries(
    open.map(({ publication, saved }) => [
      `${base}/${publication.name}`,
      {
        get: {
          operationId: publication.name,
          summary: publication.title ?? publication.name,
          parameters: [
            ...publication.parameters.map((one) => described(one, saved?.parameters?.[one.name] !== undefined)),
            { name: 'format', in: 'query', required: false, schema: { type: 'string', enum: ['json', 'ndjson', 'csv'], default: 'json' } },
            {
              name: 'size',
              in: 'query',
              required: false,
              description: 'Rows of one answer, at most.',
              schema: whole(1, publication.maxRows),
            },
            { name: 'offset', in: 'query', required: false, description: 'Rows that are passed over.', schema: whole(0) },
          ],
          responses: {
            200: {
              description: 'Rows',
              headers: { ETag: { schema: { type: 'string' } }, 'Cache-Status': { schema: { type: 'string' } }, [approximateHeader]: { description: 'There where rows that belong to the answer may be lacking: how many candidates were looked at, and what share of the true best that was measured to find.', schema: { type: 'string' } }, [asOfHeader]: { description: 'There where the answer rests on kept rows that are out of date: when the oldest of them were made.', schema: { type: 'string', format: 'date-time' } } }, // prettier-ignore
              content: {
                'application/json': { schema: answerSchema },
                'application/x-ndjson': { schema: { type: 'string' } },
                'text/csv': { schema: { type: 'string' } },
              },
            },
            304: { description: 'As it was' },
            default: failure,
          },
          ...(publication.access === 'key' && { security: [{ key: [] }] }),
        },
      },
    ]),
  );
  return {
    openapi: '3.1.0',
    info: { title: 'Published pipelines', version: '1' },
    paths,
    components: { securitySchemes: { key: { type: 'http', scheme: 'bearer' } } },
  };
}
