import { z } from 'zod';
import { json, parameters } from './names.ts';
import { cost, diagnostic, guards, note, planResult, queryLine } from './queries.ts';

const changeText = z.string().max(1_000_000);

export const previewRequest = z.strictObject({
  change: changeText,
  parameters: parameters.optional(),
  guards: guards.partial().optional(),
  /** Which of the documents that would change are shown. */
  offset: z.int().nonnegative().default(0),
  size: z.int().min(0).max(200).default(20),
});
export type PreviewBody = z.input<typeof previewRequest>;

export const previewResult = planResult.extend({
  matched: z.int(),
  changed: z.int(),
  /** Documents that the same change, made again, would change again. */
  repeats: z.int(),
  sample: z.array(z.object({ identity: z.string(), before: json, after: json.nullable() })),
  hasMore: z.boolean(),
  /** What keeping it for its undo takes, about. */
  bytes: z.int(),
  /** Whether it can be taken back afterwards. */
  keeps: z.boolean(),
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
  /** A name by which the progress can be asked for. */
  track: z.string().max(64).optional(),
});
export type ChangeBody = z.input<typeof changeRequest>;
export const changeResult = z.object({
  changeId: z.string(),
  matched: z.int(),
  changed: z.int(),
  identities: z.array(z.string()),
  /** Whether it can be taken back. */
  kept: z.boolean(),
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
  /** Whether what it replaced is kept. */
  kept: z.boolean(),
  undoneAt: z.string().nullable(),
  /** Documents that are no longer as it left them. */
  changedSince: z.int(),
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
