import { apiUrl } from '../../api/apiUrl.ts';
import { createAsyncThunk } from '@reduxjs/toolkit';
import type { GuardLimits, Problem, QueryAnswer, QueryBody } from '@zesty-sieve/contract';
import type { Json } from '@zesty-sieve/core/language';
import { pageSize, previewReads, type Asked, type IndexChoice, type Sent, type SlotName } from './benchState.ts';

interface AskArgument {
  parameters: Record<string, string>;
  slot: SlotName;
  asked: Asked;
  guards: Partial<GuardLimits> | null;
  only: (string | number)[];
  indexChoice: IndexChoice;
}

/** Asks the server; aborting the thunk ends the run there. */
export const ask = createAsyncThunk<{ result: QueryAnswer; sent: Sent }, AskArgument, { rejectValue: Problem }>(
  'bench/ask',
  async ({ asked, guards, parameters, only, indexChoice }, { signal, rejectWithValue }) => {
    const body: QueryBody = {
      pipeline: asked.text,
      pageSize,
      parameters: parametersFor(parameters),
      ...(only.length > 0 && { only }),
      ...(indexChoice.kind === 'use' && { useIndex: indexChoice.index }),
      ...(indexChoice.kind === 'ignore' && { ignoreIndexes: [indexChoice.index] }),
      ...(asked.line !== undefined && { throughLine: asked.line }),
      ...(asked.full ? guards !== null && { guards } : { readAtMost: previewReads }),
    };
    const started = performance.now();
    try {
      const response = await fetch(apiUrl('query'), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal,
      });
      const text = await response.text();
      const answer = JSON.parse(text) as QueryAnswer | Problem;
      if (!response.ok) return rejectWithValue(answer as Problem);
      return { result: answer as QueryAnswer, sent: { bytes: new Blob([text]).size, ms: performance.now() - started } };
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

/** The values of parameters from what stands in their inputs: numbers, true, false, null and lists as such, else text. */
export function parametersFor(typed: Readonly<Record<string, string>>): Record<string, Json> {
  return Object.fromEntries(Object.entries(typed).flatMap(([name, text]) => (text.trim() === '' ? [] : [[name, valueOf(text)]])));
}

function valueOf(text: string): Json {
  try {
    return JSON.parse(text) as Json;
  } catch {
    return text;
  }
}
