import { textLanguage, vectorMetric } from './indexes.ts';
import { z } from 'zod';

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
  timeIsEstimated?: true | undefined;
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
  indexes: z.array(z.string()).optional().describe('Of a union or an intersection.'),
  rowCount: z.int().optional().describe('Rows that the step skips, or gives at most.'),
  misestimated: z.number().optional().describe('How many times more or fewer rows came than were expected, where it is tenfold or beyond.'),
  estimatedRows: z.number(),
  rows: z.int().nullable(),
  documentsRead: z.int().nullable(),
  indexEntriesRead: z.int().nullable(),
  timeMs: z.number().nullable(),
  timeIsEstimated: z.literal(true).optional().describe('Taken together with other steps of one loop, and shared out by their work.'),
  memoryBytes: z.number().nullable(),
  conditions: z
    .array(z.object({ condition: z.string(), lookedAt: z.int().nullable() }))
    .optional()
    .describe('The conditions tested here, in the order in which they are, with how many rows each looked at.'),
  matches: z
    .object({ none: z.int(), one: z.int(), several: z.int() })
    .optional()
    .describe('Of a join: rows that found no partner, one, or several.'),
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
  kind: z.enum(['text', 'place', 'vector']).optional().describe('Where it is of another kind than the ordered one.'),
  language: textLanguage.optional(),
  metric: vectorMetric.optional(),
  beside: z
    .array(z.array(z.string()))
    .optional()
    .describe('Further indexes that it is of use with alone: alternatives that ask for different keys take one each.'),
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

/** What following each change would take. */
export const followCosts = z
  .array(z.object({ collection: z.string(), us: z.int() }))
  .describe(
    'Where rows can follow each change: microseconds of work for one changed document of each collection, measured on some that are there; storing the rows comes on top.',
  );

export const rewrite = z.object({ rule: z.string(), detail: z.string(), lines: z.array(z.int()) });
export const planResult = z.object({
  plan: planStep,
  weighed: z.array(weighedWay),
  suggestions: z.array(suggestion),
  rewrites: z.array(rewrite).describe('What was done to the pipeline to give the same for less.'),
  follows: z
    .string()
    .optional()
    .describe(
      'Of a pipeline: whether its rows, were they kept, could follow each change of a document. `each change`, or why they would be worked out afresh.',
    ),
  followCosts: followCosts.optional(),
});
export type PlanAnswer = z.infer<typeof planResult>;
