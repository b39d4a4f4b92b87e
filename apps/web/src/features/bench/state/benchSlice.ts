import { createAsyncThunk, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Json } from '@zesty-sieve/core/language';
import type { GuardLimits, Measurement, Problem, QueryAnswer, QueryBody } from '@zesty-sieve/contract';

export type View = 'table' | 'documents' | 'shape' | 'plan';

/** How many documents a run reads that is made while typing pauses. */
export const previewReads = 5_000;
export const pageSize = 100;

/** A question as it was asked. */
export interface Asked {
  text: string;
  /** In full, or bounded to the first documents read. */
  full: boolean;
  /** Only up to this line; undefined for the whole pipeline. */
  line?: number;
}

/** What sending the answer took: bytes of its text, milliseconds from the question to its end. */
export interface Sent {
  bytes: number;
  ms: number;
}

export interface Answered {
  sent: Sent;
  asked: Asked;
  result: QueryAnswer;
}

interface Slot {
  /** What is under way. */
  pending: { requestId: string; asked: Asked } | null;
  answer: Answered | null;
  problem: { asked: Asked; problem: Problem } | null;
}

/** What building an index changed, measured. */
export interface Comparison {
  keys: string[];
  text: string;
  measurement: Measurement;
}

/** A question kept to be compared with. */
export interface Pinned {
  text: string;
  parameters: Record<string, string>;
  rowsReturned: number;
}

export interface BenchState {
  text: string;
  /** Grows when the text is set from outside the editor. */
  loaded: number;
  name: string | null;
  note: string | null;
  savedText: string | null;
  guards: Partial<GuardLimits> | null;
  /** What stands in the inputs of the parameters, by their names. */
  parameters: Record<string, string>;
  cursorLine: number;
  view: View;
  /** The whole pipeline, for the margin, the costs and the plan; and what comes out at the cursor's line. */
  whole: Slot;
  here: Slot;
  comparison: Comparison | null;
  /** A question whose rows each later run is compared with. */
  pinned: Pinned | null;
}

const emptySlot: Slot = { pending: null, answer: null, problem: null };

const initialState: BenchState = {
  text: '',
  loaded: 0,
  name: null,
  note: null,
  savedText: null,
  guards: null,
  parameters: {},
  cursorLine: 1,
  view: 'table',
  whole: emptySlot,
  here: emptySlot,
  comparison: null,
  pinned: null,
};

type SlotName = 'whole' | 'here';
interface AskArgument {
  parameters: Record<string, string>;
  slot: SlotName;
  asked: Asked;
  guards: Partial<GuardLimits> | null;
}

/** Asks the server; aborting the thunk ends the run there. */
export const ask = createAsyncThunk<{ result: QueryAnswer; sent: Sent }, AskArgument, { rejectValue: Problem }>(
  'bench/ask',
  async ({ asked, guards, parameters }, { signal, rejectWithValue }) => {
    const body: QueryBody = {
      pipeline: asked.text,
      pageSize,
      parameters: parametersFor(parameters),
      ...(asked.line !== undefined && { throughLine: asked.line }),
      ...(asked.full ? guards !== null && { guards } : { readAtMost: previewReads }),
    };
    const started = performance.now();
    try {
      const response = await fetch('/api/query', {
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
      if (signal.aborted)
        return rejectWithValue({ type: '/problems/cancelled', title: 'The run was stopped', status: 499, detail: 'The run was stopped.' });
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
const stopped: Problem = { type: '/problems/cancelled', title: 'The run was stopped', status: 499, detail: 'The run was stopped.' };

export const benchSlice = createSlice({
  name: 'bench',
  initialState,
  reducers: {
    typed: (state, { payload }: PayloadAction<string>) => {
      state.text = payload;
    },
    opened: (
      state,
      {
        payload,
      }: PayloadAction<{
        text: string;
        name?: string;
        note?: string | null;
        guards?: Partial<GuardLimits> | null;
        parameters?: Record<string, string>;
        line?: number;
        view?: View;
      }>,
    ) => {
      state.text = payload.text;
      state.loaded++;
      state.name = payload.name ?? null;
      state.note = payload.note ?? null;
      state.savedText = payload.name === undefined ? null : payload.text;
      state.guards = payload.guards ?? null;
      state.parameters = payload.parameters ?? {};
      state.cursorLine = payload.line ?? lastLine(payload.text);
      if (payload.view) state.view = payload.view;
      state.comparison = null;
      state.whole = emptySlot;
      state.here = emptySlot;
    },
    movedTo: (state, { payload }: PayloadAction<number>) => {
      state.cursorLine = payload;
    },
    viewed: (state, { payload }: PayloadAction<View>) => {
      state.view = payload;
    },
    compared: (state, { payload }: PayloadAction<Comparison | null>) => {
      state.comparison = payload;
    },
    parametersTyped: (state, { payload }: PayloadAction<Record<string, string>>) => {
      state.parameters = { ...state.parameters, ...payload };
    },
    pinned: (state, { payload }: PayloadAction<Pinned | null>) => {
      state.pinned = payload;
    },
    saved: (state, { payload }: PayloadAction<{ name: string; note: string | null; text: string }>) => {
      state.name = payload.name;
      state.note = payload.note;
      state.savedText = payload.text;
    },
    cleared: (state, { payload }: PayloadAction<SlotName>) => {
      state[payload] = emptySlot;
    },
  },
  extraReducers: (builder) => {
    builder.addCase(ask.pending, (state, { meta }) => {
      state[meta.arg.slot].pending = { requestId: meta.requestId, asked: meta.arg.asked };
    });
    builder.addCase(ask.fulfilled, (state, { meta, payload }) => {
      const slot = state[meta.arg.slot];
      if (slot.pending?.requestId !== meta.requestId) return;
      slot.pending = null;
      slot.problem = null;
      slot.answer = { asked: meta.arg.asked, ...payload };
    });
    builder.addCase(ask.rejected, (state, { meta, payload, error }) => {
      const slot = state[meta.arg.slot];
      if (slot.pending?.requestId !== meta.requestId) return;
      slot.pending = null;
      if (error.message === stoppedByHand) slot.problem = { asked: meta.arg.asked, problem: stopped };
      // A question that another has overtaken is nobody's problem.
      if (payload !== undefined) slot.problem = { asked: meta.arg.asked, problem: payload };
    });
  },
});

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

function lastLine(text: string): number {
  return text.trimEnd().split('\n').length;
}

export const { typed, opened, movedTo, viewed, compared, cleared, parametersTyped, pinned, saved } = benchSlice.actions;
