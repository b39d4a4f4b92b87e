import { z } from 'zod';
import { indexOfSource } from './indexes.ts';
import { json, parameters } from './names.ts';
import { planResult } from './plans.ts';

export const guards = z.strictObject({
  timeMs: z.number().positive().max(3_600_000),
  documentsRead: z.int().nonnegative(),
  memoryBytes: z.int().nonnegative(),
});
export type GuardLimits = z.infer<typeof guards>;

const wayKind = z.enum([
  'full scan',
  'index',
  'index order',
  'index only',
  'union',
  'intersection',
  'aggregate',
  'early order',
  'hash join',
  'index join',
]);
export const pipelineText = z.string().max(1_000_000);
/** How a question is planned and run, in whatever face it is asked. */
export const askedOptions = {
  parameters: parameters.optional(),
  throughLine: z.int().positive().optional().describe('Only the stages up to this line.'),
  /** Identities of the only documents that are looked at, as if there were no others. */
  only: z
    .array(z.union([z.string(), z.number()]))
    .max(1_000)
    .optional(),
  useIndex: z
    .union([z.string(), z.array(z.string()).max(20)])
    .optional()
    .describe(
      'Indexes that are insisted on: all of them together if they can be, else one of them, as far as they serve. 404 where there is no such index.',
    ),
  ignoreIndexes: z.array(z.string()).optional().describe('Indexes that are passed over. 404 where there is no such index.'),
  ignoreViews: z
    .array(z.string())
    .optional()
    .describe('Materialized views that are not to answer unasked. 404 where there is no such view.'),
  ways: z
    .union([wayKind, z.array(wayKind).max(10)])
    .optional()
    .describe(
      'Kinds of ways to the documents and to partners that are insisted on, whatever they cost, to compare one with another. 422 with a type that ends in /way where there is none.',
    ),
};
const planOptions = { pipeline: pipelineText, ...askedOptions };

export const queryRequest = z.strictObject({
  ...planOptions,
  guards: guards.partial().optional(),
  pageSize: z.int().min(0).max(1_000).default(40),
  readAtMost: z.int().positive().optional().describe('A bounded run: ends without an error after so many documents, and says so.'),
  workAtMostMs: z
    .number()
    .positive()
    .max(3_600_000)
    .optional()
    .describe('A bounded run: reads no more after so many milliseconds of work, and says so.'),
});
export type QueryBody = z.input<typeof queryRequest>;

export const planRequest = z.strictObject({
  ...planOptions,
  whatIf: z.array(indexOfSource).max(20).optional(),
});
export type PlanBody = z.input<typeof planRequest>;
export const planQuery = z.object({
  show: z.enum(['plan', 'loop']).default('plan').describe('`loop` answers with text/plain: the generated JavaScript, to be read.'),
});

const edit = z.object({ from: z.int(), to: z.int(), insert: z.string() });
export const mend = z.object({ label: z.string(), edits: z.array(edit) });
export const diagnostic = z.object({
  severity: z.enum(['error', 'warning']),
  code: z.string(),
  message: z.string(),
  from: z.int().describe('UTF-16 offsets into the pipeline’s text.'),
  to: z.int(),
  line: z.int(),
  mend: mend.optional(),
});
export type DiagnosticInfo = z.infer<typeof diagnostic>;

export const parseRequest = z.strictObject({ pipeline: pipelineText });
export const parseResult = z.object({ diagnostics: z.array(diagnostic), canonical: z.string(), tree: z.unknown() });

export const cost = z.object({
  documentsRead: z.int(),
  indexEntriesRead: z.int(),
  rowsReturned: z.int(),
  memoryBytes: z.number().describe('The most bytes that the operators held at one time.'),
  timeMs: z.number(),
});
export type RunCost = z.infer<typeof cost>;

export const queryLine = z.object({
  line: z.int(),
  rowsOut: z.int(),
  timeMs: z.number(),
  timeIsEstimated: z.literal(true).optional().describe('Taken together with other lines of one loop, and shared out by their work.'),
  stoppedEarly: z.boolean(),
});
export const note = z.object({
  code: z.string(),
  line: z.int(),
  from: z.int(),
  to: z.int(),
  message: z.string(),
  count: z.int(),
  mend: mend.optional(),
});

/** Said of an answer that may leave out some of the true best. */
export const approximate = z.object({
  effort: z.int().describe('How many candidates were looked at.'),
  recall: z
    .number()
    .optional()
    .describe('The share of the true best that so much effort found when it was measured, 0 to 1; and when that was.'),
  measuredAt: z.string().optional(),
});

/** A materialized view that was read, unasked or by its name. */
export const readView = z.object({
  view: z.string(),
  state: z.enum(['fresh', 'stale']),
  refreshedAt: z.string().nullable(),
});
export type ReadViewInfo = z.infer<typeof readView>;

export const queryResult = planResult.extend({
  sources: z.array(readView).describe('The materialized views that were read, unasked or by name.'),
  approximate: approximate.nullable().describe('Null where the answer is exact.'),
  runId: z.string(),
  documents: z.array(json),
  rowsReturned: z.int(),
  hasMore: z.boolean(),
  cost,
  lines: z.array(queryLine),
  notes: z.array(note),
  bounded: z.boolean(),
});
export type QueryAnswer = z.infer<typeof queryResult>;

export const rowsQuery = z.object({
  offset: z.coerce.number().int().nonnegative().default(0),
  size: z.coerce.number().int().min(1).max(1_000).default(40),
});
export const rowsPage = z.object({
  documents: z.array(json),
  hasMore: z.boolean(),
  rowsReturned: z.int(),
  approximate: approximate.nullable(),
});
export type RowsPage = z.infer<typeof rowsPage>;

export const countRequest = z.strictObject({
  ...planOptions,
  line: z.int().positive().describe('The line of the where; what reaches it is counted.'),
  conditions: z.array(z.string().max(20_000)).max(200),
  readAtMost: z.int().positive().optional(),
});
export const countResult = z.object({ rows: z.int(), alone: z.array(z.int().nullable()), bounded: z.boolean() });
export type ConditionCountsAnswer = z.infer<typeof countResult>;

const compared = z.strictObject({ pipeline: pipelineText, parameters: parameters.optional() });
export const compareRequest = z.strictObject({ first: compared, second: compared });
export const compareResult = z.object({
  sameSet: z.boolean(),
  sameOrder: z.boolean(),
  approximate: z.array(approximate.nullable()).describe('Of each of the two: null where it is exact, and differences are differences.'),
  rows: z.array(z.int()),
  onlyInFirst: z.array(json),
  onlyInSecond: z.array(json),
  differing: z.array(z.object({ identity: z.string(), first: json, second: json })),
  counts: z.object({ onlyInFirst: z.int(), onlyInSecond: z.int(), differing: z.int() }),
});
export type ComparisonAnswer = z.infer<typeof compareResult>;

export const traceRequest = z.strictObject({ ...planOptions, identity: z.union([z.string(), z.number()]) });
export const traceResult = z.object({
  identity: z.string(),
  found: z.boolean(),
  droppedAt: z.int().optional(),
  lines: z.array(
    z.object({
      line: z.int(),
      outcome: z.enum(['kept', 'dropped', 'changed', 'absent']),
      conditions: z.array(
        z.object({
          condition: z.string(),
          held: z.boolean(),
          values: z.array(z.object({ path: z.string(), value: json, missing: z.boolean() })),
        }),
      ),
      place: z.object({ at: z.int(), of: z.int() }).optional(),
      row: json.optional(),
      rows: z.int().optional().describe('How many rows there are of the document here.'),
    }),
  ),
});
export type TraceAnswer = z.infer<typeof traceResult>;

export const originsRequest = z.strictObject({
  ...planOptions,
  guards: guards.partial().optional(),
  row: json.describe('As the pipeline gives it.'),
  offset: z.int().min(0).default(0),
  size: z.int().min(0).max(1_000).default(40),
});
export type OriginsBody = z.input<typeof originsRequest>;
export const originsResult = z.object({
  collection: z.string(),
  count: z.int().describe('How many documents the rows like it come from.'),
  documents: z.array(json),
  rows: z.int().describe('How many rows of the pipeline are like it; none where its documents have changed since.'),
});
export type OriginsAnswer = z.infer<typeof originsResult>;

export const measureRequest = z.strictObject({ ...planOptions, index: z.string(), times: z.int().min(1).max(25).default(7) });
export const measured = z.object({ documentsRead: z.int(), indexEntriesRead: z.int(), timesMs: z.array(z.number()), medianMs: z.number() });
export const measureResult = z.object({
  without: measured,
  with: measured,
  rowsReturned: z.int(),
  sameSet: z.boolean(),
  sameOrder: z.boolean(),
});
export type Measurement = z.infer<typeof measureResult>;
