import { z } from 'zod';
import { json, pipelineName } from './names.ts';
import { guards } from './queries.ts';

/** Saved pipelines that are answered over HTTP for programs and for people, with limits. */

export const publicationName = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,64}$/, 'A publication’s name has letters, digits, - and _, at most 64.')
  .refine((name) => name.toLowerCase() !== 'openapi', 'openapi is the name of the description.');

const single = z.union([z.string(), z.number(), z.boolean()]);
export const publishedField = z.strictObject({
  path: z.string().min(1).max(200).describe('As in the notation: `@.region`.'),
  label: z.string().max(120).optional(),
  note: z.string().max(500).optional(),
  unit: z.string().max(40).optional(),
  type: z.enum(['text', 'number', 'boolean', 'date']).optional(),
  choices: z.array(single).max(200).optional(),
});
export type PublishedField = z.infer<typeof publishedField>;

export const publishedParameter = z.strictObject({
  name: z.string().regex(/^[A-Za-z_][A-Za-z0-9_]*$/, 'A parameter is written :name.'),
  kind: z.enum(['number', 'text', 'boolean', 'date', 'list', 'condition']),
  of: z.enum(['text', 'number']).optional().describe('What a list is of; text unless said.'),
  label: z.string().max(120).optional(),
  note: z.string().max(500).optional(),
  default: json.optional(),
  choices: z.array(single).max(1_000).optional(),
  least: single.optional(),
  greatest: single.optional(),
  fields: z
    .array(z.union([z.string(), publishedField]))
    .max(200)
    .optional()
    .describe('Of a condition: the fields that a caller may ask about, as paths or with what the page says of them.'),
});
export type PublishedParameter = z.infer<typeof publishedParameter>;

export const publicationCache = z.union([
  z.strictObject({
    freshSeconds: z.int().min(1).max(31_536_000),
    staleSeconds: z.int().min(0).max(31_536_000).default(0),
  }),
  z.strictObject({ until: z.literal('change') }),
]);
export type PublicationCache = z.infer<typeof publicationCache>;

export const publicationGuards = guards.partial().extend({ atOnce: z.int().min(1).max(1_000).optional() });

export const putPublication = z.strictObject({
  pipeline: pipelineName.describe('The name of a saved pipeline.'),
  title: z.string().max(200).optional(),
  parameters: z.array(publishedParameter).max(50).optional(),
  cache: publicationCache.nullable().optional(),
  guards: publicationGuards.optional(),
  maxRows: z.int().min(1).max(100_000).optional(),
  access: z.enum(['open', 'key']).optional(),
  origins: z
    .array(z.string().regex(/^https?:\/\/[^/\s]+$/, 'An origin is a scheme, a host and perhaps a port: https://example.org.'))
    .max(50)
    .optional(),
  columns: z
    .array(z.strictObject({ path: z.string().min(1), label: z.string().max(120).optional() }))
    .max(200)
    .optional(),
});
export type PutPublication = z.input<typeof putPublication>;

export const hourFigures = z.object({
  from: z.string().describe('The beginning of the hour.'),
  calls: z.int(),
  fromCache: z.int(),
  documentsRead: z.int(),
  documentsSaved: z.int().describe('Documents that were not read again, since an answer was kept.'),
  slowestTenthMs: z.number().describe('So long or longer took the slowest tenth of the calls.'),
  failures: z.int(),
});
export type HourFigures = z.infer<typeof hourFigures>;

export const publication = z.object({
  name: z.string(),
  pipeline: z.string(),
  title: z.string().nullable(),
  parameters: z.array(publishedParameter),
  cache: publicationCache.nullable(),
  guards: publicationGuards,
  maxRows: z.int(),
  access: z.enum(['open', 'key']),
  origins: z.array(z.string()),
  columns: z.array(z.object({ path: z.string(), label: z.string().optional() })).nullable(),
  updatedAt: z.string(),
  problem: z.string().nullable().describe('Why it cannot be answered as things stand.'),
  totals: hourFigures.omit({ from: true }).extend({ lastFailure: z.object({ at: z.string(), message: z.string() }).nullable() }),
  figures: z.array(hourFigures).describe('By the hour, the last one last; of the last seven days.'),
});
export type Publication = z.infer<typeof publication>;
export const publicationList = z.object({ publications: z.array(publication) });

export const newKey = z.strictObject({ name: z.string().trim().min(1).max(120) });
export const madeKey = z.object({ id: z.string(), name: z.string(), key: z.string().describe('Shown this once.') });
export const keyList = z.object({
  keys: z.array(z.object({ id: z.string(), name: z.string(), createdAt: z.string(), lastUsedAt: z.string().nullable() })),
});
export type PublicationKey = z.infer<typeof keyList>['keys'][number];

export const publishedAnswer = z.object({
  documents: z.array(json),
  hasMore: z.boolean(),
  next: z.string().optional().describe('The address of the rest.'),
});

/** What a page says of a publication, and what it takes. */
export const publishedForm = z.object({
  name: z.string(),
  title: z.string().nullable(),
  parameters: z.array(publishedParameter),
  columns: z
    .array(
      z.object({
        path: z.string(),
        names: z.array(z.string()).describe('The fields that the path goes through.'),
        label: z.string().optional(),
      }),
    )
    .nullable(),
  chart: json.nullable(),
  maxRows: z.int(),
});
export type PublishedForm = z.infer<typeof publishedForm>;
