import { z } from 'zod';
import { indexOfSource } from './indexes.ts';
import { collectionName, json, parameters, pipelineName } from './names.ts';

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
const pipelineText = z.string().max(1_000_000);
const planOptions = {
  pipeline: pipelineText,
  parameters: parameters.optional(),
  /** Only the stages up to this line. */
  throughLine: z.int().positive().optional(),
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
  ways: z
    .union([wayKind, z.array(wayKind).max(10)])
    .optional()
    .describe(
      'Kinds of ways to the documents and to partners that are insisted on, whatever they cost, to compare one with another. 422 with a type that ends in /way where there is none.',
    ),
};

export const queryRequest = z.strictObject({
  ...planOptions,
  guards: guards.partial().optional(),
  pageSize: z.int().min(0).max(1_000).default(40),
  /** A bounded run: ends without an error after so many documents, and says so. */
  readAtMost: z.int().positive().optional(),
});
export type QueryBody = z.input<typeof queryRequest>;

export const planRequest = z.strictObject({
  ...planOptions,
  whatIf: z.array(indexOfSource).max(20).optional(),
});
export type PlanBody = z.input<typeof planRequest>;

const edit = z.object({ from: z.int(), to: z.int(), insert: z.string() });
export const mend = z.object({ label: z.string(), edits: z.array(edit) });
export const diagnostic = z.object({
  severity: z.enum(['error', 'warning']),
  code: z.string(),
  message: z.string(),
  /** UTF-16 offsets into the pipeline's text. */
  from: z.int(),
  to: z.int(),
  line: z.int(),
  mend: mend.optional(),
});
export type DiagnosticInfo = z.infer<typeof diagnostic>;

export const parseRequest = z.strictObject({ pipeline: pipelineText });
export const parseResult = z.object({ diagnostics: z.array(diagnostic), canonical: z.string(), tree: z.unknown() });

export interface PlanStep {
  step: string;
  detail: string;
  lines: number[];
  collection?: string;
  index?: string;
  keys?: string[];
  indexes?: string[];
  rowCount?: number;
  misestimated?: number;
  estimatedRows: number;
  rows: number | null;
  documentsRead: number | null;
  indexEntriesRead: number | null;
  timeMs: number | null;
  memoryBytes: number | null;
  conditions?: { condition: string; lookedAt: number | null }[];
  matches?: { none: number; one: number; several: number };
  inputs: PlanStep[];
}
export const planStep: z.ZodType<PlanStep> = z.object({
  step: z.string(),
  detail: z.string(),
  lines: z.array(z.int()),
  collection: z.string().optional(),
  index: z.string().optional(),
  keys: z.array(z.string()).optional(),
  /** Of a union or an intersection. */
  indexes: z.array(z.string()).optional(),
  /** Rows that the step skips, or gives at most. */
  rowCount: z.int().optional(),
  /** How many times more or fewer rows came than were expected, where it is tenfold or beyond. */
  misestimated: z.number().optional(),
  estimatedRows: z.number(),
  rows: z.int().nullable(),
  documentsRead: z.int().nullable(),
  indexEntriesRead: z.int().nullable(),
  timeMs: z.number().nullable(),
  memoryBytes: z.number().nullable(),
  /** The conditions tested here, in the order in which they are, with how many rows each looked at. */
  conditions: z.array(z.object({ condition: z.string(), lookedAt: z.int().nullable() })).optional(),
  /** Of a join: rows that found no partner, one, or several. */
  matches: z.object({ none: z.int(), one: z.int(), several: z.int() }).optional(),
  get inputs() {
    return z.array(planStep);
  },
});

export const weighedWay = z.object({
  way: z.string(),
  collection: z.string(),
  index: z.string().optional(),
  keys: z.array(z.string()).optional(),
  whatIf: z.boolean(),
  chosen: z.boolean(),
  reason: z.string(),
  documentsRead: z.number().optional(),
  indexEntriesRead: z.number().optional(),
  cost: z.number().optional(),
  lines: z.array(z.int()),
});
export type WeighedWay = z.infer<typeof weighedWay>;

export const suggestion = z.object({
  collection: z.string(),
  keys: z.array(z.string()),
  /** Where it is of another kind than the ordered one. */
  kind: z.string().optional(),
  /** Further indexes that it is of use with alone: alternatives that ask for different keys take one each. */
  beside: z.array(z.array(z.string())).optional(),
  documentsRead: z.number(),
  indexEntriesRead: z.number(),
  insteadOf: z.number(),
  servesOrder: z.boolean(),
  /** What each key adds to those before it; at the end, what the fields that are read would add as keys. */
  savings: z.array(
    z.object({
      serves: z.enum(['equality', 'order', 'range', 'fields']),
      keys: z.array(z.string()),
      documentsRead: z.number(),
      rowsSorted: z.number(),
    }),
  ),
  reason: z.string(),
  lines: z.array(z.int()),
});
export type IndexSuggestion = z.infer<typeof suggestion>;

export const rewrite = z.object({ rule: z.string(), detail: z.string(), lines: z.array(z.int()) });
export const planResult = z.object({
  plan: planStep,
  weighed: z.array(weighedWay),
  suggestions: z.array(suggestion),
  /** What was done to the pipeline to give the same for less. */
  rewrites: z.array(rewrite),
});
export type PlanAnswer = z.infer<typeof planResult>;

export const cost = z.object({
  documentsRead: z.int(),
  indexEntriesRead: z.int(),
  rowsReturned: z.int(),
  /** The most bytes that the operators held at one time. */
  memoryBytes: z.number(),
  timeMs: z.number(),
});
export type RunCost = z.infer<typeof cost>;

export const queryLine = z.object({ line: z.int(), rowsOut: z.int(), timeMs: z.number(), stoppedEarly: z.boolean() });
export const note = z.object({
  code: z.string(),
  line: z.int(),
  from: z.int(),
  to: z.int(),
  message: z.string(),
  count: z.int(),
  mend: mend.optional(),
});

export const queryResult = planResult.extend({
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
export const rowsPage = z.object({ documents: z.array(json), hasMore: z.boolean(), rowsReturned: z.int() });
export type RowsPage = z.infer<typeof rowsPage>;

export const countRequest = z.strictObject({
  ...planOptions,
  /** The line of the where; what reaches it is counted. */
  line: z.int().positive(),
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
      /** How many rows there are of the document here. */
      rows: z.int().optional(),
    }),
  ),
});
export type TraceAnswer = z.infer<typeof traceResult>;

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

export const savedPipeline = z.object({
  name: pipelineName,
  pipeline: pipelineText,
  view: z.boolean(),
  parameters: parameters.nullable(),
  guards: guards.partial().nullable(),
  note: z.string().nullable(),
  /** How its output is drawn; what the interface keeps. */
  chart: json.nullable(),
  updatedAt: z.string(),
});
export type SavedPipeline = z.infer<typeof savedPipeline>;
export const savePipeline = z.strictObject({
  pipeline: pipelineText,
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
