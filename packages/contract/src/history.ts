import { z } from 'zod';
import { textLanguage, vectorMetric } from './indexes.ts';
import { indexOfCollection } from './indexes.ts';
import { json, parameters } from './names.ts';
import { approximate, cost, guards, measured, pipelineText, queryLine } from './queries.ts';
import { followCosts, planStep, rewrite, suggestion, weighedWay } from './plans.ts';
import { runOrders } from './runOrders.ts';

/** The guard that ended a run: on which line, how far it had come, and where it was set. */
export const guardStop = z.object({ kind: z.string(), line: z.int(), reached: z.number(), limit: z.number() });

/** A run as it is kept. */
export const keptRun = z.object({
  id: z.string(),
  at: z.string().describe('RFC 3339'),
  pipeline: z.string(),
  sql: z.string().nullable().describe('The SQL that it was asked in; null for the notation.'),
  name: z.string().nullable().describe('The saved pipeline whose text it was.'),
  publication: z.string().nullable().describe('The publication that it was made for.'),
  parameters: parameters.nullable(),
  collections: z.array(z.string()),
  cost,
  guard: guardStop.nullable(),
  indexesUsed: z.array(z.string()).describe('As `collection.index`.'),
  baseline: z.boolean().describe('Whether it is the one that later runs of its pipeline are held against.'),
  baselineReads: z.int().nullable().describe('What its pipeline’s baseline read, where it has one.'),
  times: z.int().optional().describe('How many runs of the same text and parameters it stands for, where each question is listed once.'),
});
export type KeptRun = z.infer<typeof keptRun>;

export const keptRunDetail = keptRun.extend({
  approximate: approximate.nullish().describe('Null where the answer was exact.'),
  plan: planStep,
  weighed: z.array(weighedWay),
  suggestions: z.array(suggestion),
  rewrites: z.array(rewrite),
  lines: z.array(queryLine),
  indexSet: z.record(z.string(), z.array(z.string())).describe('The indexes that there were, by collection.'),
});
export type KeptRunDetail = z.infer<typeof keptRunDetail>;

export const runListQuery = z.object({
  order: z.enum(runOrders).default('recent'),
  collection: z.string().optional(),
  name: z.string().optional().describe('A saved pipeline.'),
  stopped: z.enum(['true', 'false']).optional().describe('Only those that a guard ended.'),
  text: z.string().max(500).optional().describe('A part of the pipeline’s text.'),
  once: z.enum(['true', 'false']).optional().describe('Of the runs of one text with the same parameters, the first in the order alone.'),
  offset: z.coerce.number().int().nonnegative().default(0),
  size: z.coerce.number().int().min(1).max(500).default(100),
});
export type RunListQuery = z.input<typeof runListQuery>;
export const runList = z.object({
  runs: z.array(keptRun),
  total: z.int(),
  unwritten: z
    .object({ runs: z.int(), reason: z.string() })
    .optional()
    .describe('Runs that could not be written, and why, where there are any.'),
});
export type RunList = z.infer<typeof runList>;

export const baselineRequest = z.object({ runId: z.string().nullable() });

/** Two questions that are run in turn. */
const sideRequest = z.strictObject({
  pipeline: z.string().max(1_000_000),
  parameters: parameters.optional(),
  ignoreIndexes: z.array(z.string()).optional(),
});
export const pairRequest = z.strictObject({ first: sideRequest, second: sideRequest, times: z.int().min(1).max(25).default(9) });

export const pairResult = z.object({
  first: measured,
  second: measured,
  rows: z.array(z.int()),
  sameSet: z.boolean(),
  sameOrder: z.boolean(),
});
export type PairAnswer = z.infer<typeof pairResult>;
export type PairBody = z.input<typeof pairRequest>;

/** An index that would save most over the runs that were kept. */
export const advisedIndex = z.object({
  collection: z.string(),
  keys: z.array(z.string()),
  kind: z.enum(['text', 'place', 'vector']).optional().describe('Where it is of another kind than the ordered one.'),
  language: textLanguage.optional(),
  metric: vectorMetric.optional(),
  beside: z.array(z.array(z.string())).optional().describe('Further indexes that it is of use with alone.'),
  documentsSaved: z.number().describe('Documents that the kept runs would not have read, estimated.'),
  serves: z.array(
    z.object({ pipeline: z.string(), name: z.string().nullable(), runs: z.int(), documentsRead: z.number(), instead: z.number() }),
  ),
});
export const idleIndex = z.object({
  collection: z.string(),
  index: z.string(),
  keys: z.array(z.string()),
  bytes: z.int(),
  runsSince: z.int(),
});
export const coveredIndex = z.object({
  collection: z.string(),
  index: z.string(),
  keys: z.array(z.string()),
  by: z.string(),
  bytes: z.int(),
});
/** Lines that were asked so often that their rows are worth keeping. */
export const advisedView = z.object({
  pipeline: z.string().describe('What the questions begin with, up to the group.'),
  collection: z.string(),
  runs: z.int(),
  rows: z.int().describe('How many would be kept.'),
  documentsSaved: z.number().describe('What those runs would not have read.'),
  refreshMs: z.number().describe('What it takes to make the rows anew, in the background after each change.'),
  follows: z
    .string()
    .describe('`each change`, where its rows could be kept up with each change of a document; or why they are made anew as a whole.'),
  followCosts,
  names: z.array(z.string()).describe('Saved pipelines among the questions.'),
});
export type AdvisedView = z.infer<typeof advisedView>;

/** A view whose rows are kept, and that nothing has read. */
export const idleView = z.object({
  view: z.string(),
  collections: z.array(z.string()).describe('What it is made of.'),
  bytes: z.int(),
  since: z.string().describe('When it was read last, or, where it never was, since when it is kept.'),
  wasRead: z.boolean(),
  runsSince: z.int().describe('Runs that have read the same collections since.'),
  following: z.object({ changes: z.int(), meanUs: z.int() }).nullable().describe('What keeping it up has cost since the start.'),
});
export type IdleView = z.infer<typeof idleView>;

export const advice = z.object({
  runs: z.int().describe('How many runs it is drawn from.'),
  build: z.array(advisedIndex),
  unused: z.array(idleIndex),
  covered: z.array(coveredIndex),
  views: z.array(advisedView).describe('Views that would be worth keeping.'),
  idleViews: z.array(idleView).describe('Kept views that nothing reads.'),
});
export type Advice = z.infer<typeof advice>;

/** Who would read more without an index. */
export const indexUser = z.object({
  pipeline: z.string(),
  name: z.string().nullable(),
  runs: z.int(),
  documentsRead: z.number(),
  without: z.number(),
});
export const indexUsers = z.object({ users: z.array(indexUser) });
export type IndexUsers = z.infer<typeof indexUsers>;

/** Indexes that are not built, held against the questions that were asked before. */
export const whatIfRequest = z.strictObject({
  indexes: z.array(indexOfCollection).max(10).default([]),
  views: z
    .array(z.strictObject({ pipeline: pipelineText, parameters: parameters.optional() }))
    .max(3)
    .default([])
    .describe('Lines whose rows might be kept: they are worked out, within the guards of the settings, and planned with.'),
});
export type WhatIfBody = z.input<typeof whatIfRequest>;
export const whatIfResult = z.object({
  runs: z.int(),
  serves: advisedIndex.shape.serves,
  costs: z
    .array(z.object({ entries: z.int(), bytes: z.int().describe('In memory.'), buildMs: z.number() }))
    .describe('What each of the indexes would take, about: built over a sample.'),
  views: z
    .array(
      z.object({
        rows: z.int(),
        madeMs: z.number().describe('What working them out took.'),
        follows: advisedView.shape.follows,
        followCosts,
        serves: advisedIndex.shape.serves.describe('Questions that were asked before and would be answered from these rows.'),
      }),
    )
    .describe('What each of the views would be.'),
});
export type WhatIfAnswer = z.infer<typeof whatIfResult>;

/** What an index knows of its values: those of the first key, words, places, vectors. */
export const indexSummary = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('ordered'),
    entries: z.int(),
    absent: z.int(),
    distinct: z.int(),
    least: json.optional(),
    greatest: json.optional(),
    quantiles: z.array(json),
    common: z.array(z.object({ value: json, count: z.int() })),
  }),
  z.object({
    kind: z.literal('text'),
    entries: z.int(),
    language: textLanguage.nullable(),
    paths: z.array(
      z.object({
        path: z.string(),
        documents: z.int().describe('Documents that have a text there.'),
        terms: z.int(),
        words: z.int().describe('Of all texts, stop words left out.'),
        commonest: z.array(z.object({ term: z.string(), documents: z.int() })),
      }),
    ),
  }),
  z.object({ kind: z.literal('place'), entries: z.int() }),
  z.object({
    kind: z.literal('vector'),
    entries: z.int(),
    dimensions: z.int(),
    skipped: z.int().describe('Arrays that are no vectors of this length.'),
    metric: vectorMetric,
    links: z.int(),
    buildEffort: z.int(),
  }),
]);
export type IndexSummaryInfo = z.infer<typeof indexSummary>;

export const settings = z.object({ guards, runsKept: z.int().min(10).max(100_000) });
export type Settings = z.infer<typeof settings>;
export const settingsChange = z.object({ guards: guards.partial().optional(), runsKept: z.int().min(10).max(100_000).optional() });
