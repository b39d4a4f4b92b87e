import { z } from 'zod';
import { planStep } from './plans.ts';
import { askedOptions, diagnostic, guards, pipelineText, queryResult } from './queries.ts';

const sqlText = z.string().max(1_000_000);

export const sqlRequest = z.strictObject({
  sql: sqlText,
  ...askedOptions,
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
export type SqlBody = z.input<typeof sqlRequest>;

/** A clause of the SQL, and the 1-based lines of the pipeline that it became. Offsets are UTF-16. */
export const clauseLines = z.object({ from: z.int(), to: z.int(), lines: z.array(z.int()) });
export type ClauseOfSql = z.infer<typeof clauseLines>;

export const sqlResult = queryResult.extend({
  runId: z.string().nullable().describe('Null for DESCRIBE, SHOW TABLES and EXPLAIN, whose rows are all here.'),
  plan: planStep.nullable(),
  pipeline: pipelineText.nullable().describe('What the SQL became, in its canonical layout; lines are of this text.'),
  clauses: z.array(clauseLines),
  diagnostics: z.array(diagnostic).describe('Warnings, with spans in the SQL.'),
});
export type SqlAnswer = z.infer<typeof sqlResult>;

export const sqlDialect = z.enum(['iso', 'sqlite', 'postgresql']);
export type SqlDialect = z.infer<typeof sqlDialect>;
export const translateRequest = z.union([
  z.strictObject({ sql: sqlText }),
  z.strictObject({ pipeline: pipelineText, dialect: sqlDialect.default('iso'), rows: z.enum(['columns', 'json']).default('columns') }),
]);
export type TranslateBody = z.input<typeof translateRequest>;
export const translateResult = z.union([
  z.object({
    pipeline: pipelineText.nullable().describe('Null where the SQL has errors, or asks for no rows of documents.'),
    clauses: z.array(clauseLines),
    parameters: z.array(z.string()),
    diagnostics: z.array(diagnostic),
  }),
  z.object({
    sql: sqlText.nullable().describe('Null where a stage cannot be said.'),
    notes: z.array(z.object({ line: z.int(), message: z.string(), unsaid: z.boolean().describe('Whether it cannot be said at all.') })),
  }),
]);
export type TranslateAnswer = z.infer<typeof translateResult>;
