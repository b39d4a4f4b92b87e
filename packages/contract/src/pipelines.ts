import { z } from 'zod';
import { collectionName, json, parameters, pipelineName } from './names.ts';
import { guards, pipelineText } from './queries.ts';

export const savedPipeline = z.object({
  name: pipelineName,
  pipeline: pipelineText,
  sql: z.string().nullable().describe('The SQL in which it is written; then `pipeline` is what that became when it was saved.'),
  view: z.boolean(),
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
