import { apiUrl } from '../../api/apiUrl.ts';
import { createAsyncThunk } from '@reduxjs/toolkit';
import type { ClauseOfSql, GuardLimits, PlanStep, Problem, QueryAnswer, QueryBody, SqlAnswer } from '@zesty-sieve/contract';
import { parametersFor } from './parameters.ts';
import { pageSize, previewMs, type Asked, type IndexChoice, type Sent, type SlotName } from './benchState.ts';

interface AskArgument {
  parameters: Record<string, string>;
  slot: SlotName;
  asked: Asked;
  guards: Partial<GuardLimits> | null;
  only: (string | number)[];
  indexChoice: IndexChoice;
}

interface Told {
  result: QueryAnswer;
  sent: Sent;
  /** What the SQL became, where it was asked in SQL. */
  sql?: { text: string; clauses: ClauseOfSql[] };
}

const noStep: PlanStep = { step: '', detail: '', lines: [], estimatedRows: 0, rows: null, documentsRead: null, indexEntriesRead: null, timeMs: null, memoryBytes: null, inputs: [] }; // prettier-ignore

/** An answer in SQL as any other; what tells of tables has no plan, and its rows are all there. */
function inSql(answer: SqlAnswer): Omit<Told, 'sent'> {
  const result: QueryAnswer = { ...answer, runId: answer.runId ?? `table ${Date.now()}`, plan: answer.plan ?? noStep };
  const isQuestion = answer.runId !== null && answer.pipeline !== null;
  return { result, ...(isQuestion && { sql: { text: answer.pipeline!, clauses: answer.clauses } }) };
}

/** Asks the server; aborting the thunk ends the run there. */
export const ask = createAsyncThunk<Told, AskArgument, { rejectValue: Problem }>(
  'bench/ask',
  async ({ asked, guards, parameters, only, indexChoice }, { signal, rejectWithValue }) => {
    const body: Omit<QueryBody, 'pipeline'> = {
      pageSize,
      parameters: parametersFor(parameters),
      ...(only.length > 0 && { only }),
      ...(indexChoice.kind === 'use' && { useIndex: indexChoice.index }),
      ...(indexChoice.kind === 'ignore' && { ignoreIndexes: [indexChoice.index] }),
      ...(asked.line !== undefined && { throughLine: asked.line }),
      ...(asked.full ? guards !== null && { guards } : { workAtMostMs: previewMs }),
    };
    const started = performance.now();
    try {
      const response = await fetch(apiUrl(asked.sql === undefined ? 'query' : 'sql'), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(asked.sql === undefined ? { pipeline: asked.text, ...body } : { sql: asked.sql, ...body }),
        signal,
      });
      const text = await response.text();
      const answer = JSON.parse(text) as QueryAnswer | SqlAnswer | Problem;
      if (!response.ok) return rejectWithValue(answer as Problem);
      const sent = { bytes: new Blob([text]).size, ms: performance.now() - started };
      return 'clauses' in answer ? { ...inSql(answer as SqlAnswer), sent } : { result: answer as QueryAnswer, sent };
    } catch (error) {
      if (signal.aborted) return rejectWithValue(stopped);
      return rejectWithValue({
        type: '/problems/unreachable',
        title: 'The server does not answer',
        status: 0,
        detail: `The server does not answer: ${(error as Error).message}. Is it still running?`,
      });
    }
  },
);

/** Why a run was ended, where someone ended it rather than another question. */
export const stoppedByHand = 'stopped by hand';
export const stopped: Problem = { type: '/problems/cancelled', title: 'The run was stopped', status: 499, detail: 'The run was stopped.' };
