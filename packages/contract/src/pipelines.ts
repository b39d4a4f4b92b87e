import { z } from 'zod';
import { collectionName, json, parameters, pipelineName } from './names.ts';
import { guards, pipelineText } from './queries.ts';

/** When the rows of a materialized view are made anew. */
export const refreshPolicy = z
  .union([z.literal('on change'), z.literal('on demand'), z.strictObject({ everySeconds: z.int().min(1).max(31_536_000) })])
  .describe('After each change of what it reads; when that is asked for; or every so many seconds, where something has changed.');
export type RefreshPolicy = z.infer<typeof refreshPolicy>;

export const materializedInfo = z.object({
  refresh: refreshPolicy,
  state: z.enum(['fresh', 'stale', 'refreshing', 'failed']).describe('Fresh: its rows are those that its pipeline gives now.'),
  rows: z.int(),
  bytes: z.int(),
  refreshedAt: z.string().nullable().describe('Null before it was made for the first time.'),
  refreshMs: z.number().nullable(),
  follows: z
    .string()
    .describe('`each change`, where its refresh is `on change`; or why its rows cannot follow, and are worked out afresh as a whole.'),
  following: z
    .object({ changes: z.int(), meanUs: z.int() })
    .nullable()
    .describe('What following has cost since the start: for each change, on the mean, in microseconds. Null where nothing was followed.'),
  readers: z.array(z.string()).describe('Saved pipelines that read it.'),
  saved: z.int().describe('Documents that need not be read, since it answered instead.'),
  uses: z.int().describe('Questions that have read it, by its name or unasked.'),
  lastUsedAt: z.string().nullable(),
  failure: z.object({ message: z.string(), at: z.string() }).optional(),
});
export type MaterializedInfo = z.infer<typeof materializedInfo>;

export const savedPipeline = z.object({
  name: pipelineName,
  pipeline: pipelineText,
  sql: z.string().nullable().describe('The SQL in which it is written; then `pipeline` is what that became when it was saved.'),
  view: z.boolean(),
  materialized: materializedInfo.nullable().describe('Of a view whose rows are kept.'),
  parameters: parameters.nullable(),
  guards: guards.partial().nullable(),
  note: z.string().nullable(),
  chart: json.nullable().describe('How its output is drawn; what the interface keeps.'),
  updatedAt: z.string(),
});
export type SavedPipeline = z.infer<typeof savedPipeline>;
export const savePipeline = z.strictObject({
  pipeline: pipelineText.default('').describe('Not needed where `sql` is given: it is what that becomes.'),
  sql: z.string().max(1_000_000).nullable().optional(),
  view: z.boolean().default(false),
  materialized: z
    .strictObject({ refresh: refreshPolicy })
    .nullable()
    .optional()
    .describe('Keeps the rows of the view. Null: no longer. Left out: as before.'),
  parameters: parameters.optional(),
  guards: guards.partial().optional(),
  note: z.string().max(2_000).optional(),
  chart: json.nullable().optional(),
});
export const pipelineList = z.object({ pipelines: z.array(savedPipeline) });

/** Where the rows of a run are stored: a new collection, in place of one, after those of one, or merged into one by identity. */
export const storeRequest = z.strictObject({
  collection: collectionName,
  mode: z.enum(['new', 'replace', 'append', 'merge']),
  identity: z.string().default('@.id'),
});
/** Gives a saved pipeline another name. */
export const renamePipeline = z.object({ name: pipelineName });
/** Those that read it and were rewritten. */
export const renamedPipeline = z.object({ name: pipelineName, rewritten: z.array(z.string()) });
export type RenamedPipeline = z.infer<typeof renamedPipeline>;
export type StoreBody = z.input<typeof storeRequest>;
export const storeResult = z.object({ collection: z.string(), inserted: z.int(), replaced: z.int() });
export type StoreAnswer = z.infer<typeof storeResult>;
