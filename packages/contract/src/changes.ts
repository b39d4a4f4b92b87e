import { z } from 'zod';
import { json, parameters } from './names.ts';
import { cost, diagnostic, guards, note, queryLine } from './queries.ts';
import { planResult } from './plans.ts';

const changeText = z.string().max(1_000_000);

export const previewRequest = z.strictObject({
  change: changeText,
  parameters: parameters.optional(),
  guards: guards.partial().optional(),
  offset: z.int().nonnegative().default(0).describe('Which of the documents that would change are shown.'),
  size: z.int().min(0).max(200).default(20),
});
export type PreviewBody = z.input<typeof previewRequest>;

export const previewResult = planResult.extend({
  matched: z.int(),
  changed: z.int(),
  repeats: z.int().describe('Documents that the same change, made again, would change again.'),
  sample: z.array(z.object({ identity: z.string(), before: json, after: json.nullable() })),
  hasMore: z.boolean(),
  bytes: z.int().describe('What keeping it for its undo takes, about.'),
  keeps: z.boolean().describe('Whether it can be taken back afterwards.'),
  warnings: z.array(diagnostic),
  notes: z.array(note),
  lines: z.array(queryLine),
  cost,
});
export type PreviewAnswer = z.infer<typeof previewResult>;

export const changeRequest = z.strictObject({
  change: changeText,
  parameters: parameters.optional(),
  guards: guards.partial().optional(),
  track: z
    .string()
    .max(64)
    .optional()
    .describe('A name by which the progress can be asked for, and by which it is among `/work`, where it is ended.'),
});
export type ChangeBody = z.input<typeof changeRequest>;
export const changeResult = z.object({
  changeId: z.string(),
  matched: z.int(),
  changed: z.int(),
  identities: z.array(z.string()),
  kept: z.boolean().describe('Whether it can be taken back.'),
});
export type ChangeAnswer = z.infer<typeof changeResult>;

export const changeInfo = z.object({
  id: z.string(),
  collection: z.string(),
  change: z.string(),
  parameters: parameters.nullable(),
  madeAt: z.string(),
  matched: z.int(),
  changed: z.int(),
  kept: z.boolean().describe('Whether what it replaced is kept.'),
  undoneAt: z.string().nullable(),
  changedSince: z.int().describe('Documents that are no longer as it left them.'),
});
export type ChangeInfo = z.infer<typeof changeInfo>;
export const changeList = z.object({ changes: z.array(changeInfo) });

export const changedDocument = z.object({
  identity: z.string(),
  before: json.nullable(),
  after: json.nullable(),
  changedSince: z.boolean(),
});
export type ChangedDocumentInfo = z.infer<typeof changedDocument>;
export const changedDocumentPage = z.object({ documents: z.array(changedDocument), hasMore: z.boolean() });
export const changeProgress = z.object({ documents: z.int(), of: z.int() });
export type ChangeProgress = z.infer<typeof changeProgress>;
export const undoResult = z.object({ restored: z.int() });
