import { createAsyncThunk, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Json } from '@zesty-sieve/core/language';
import type { ChartSettings } from '../output/chart/chartData.ts';
import { emptyDraft, newTab, recentKept, restoredTabs } from './drafts.ts';
import type { GuardLimits, Measurement, Problem, QueryAnswer, QueryBody } from '@zesty-sieve/contract';

export type View = 'table' | 'documents' | 'shape' | 'chart' | 'plan';

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

/** What was chosen about the columns of the output, by their identities. */
export interface ColumnChoices {
  hidden: string[];
  /** In their chosen order; columns that are not named come after, in the order of the rows. */
  order: string[];
  /** Arrays whose elements have columns of their own. */
  spread: string[];
  /** Objects that are kept in one column. */
  folded: string[];
}
export const plainColumns: ColumnChoices = { hidden: [], order: [], spread: [], folded: [] };

/** A question kept to be compared with. */
export interface Pinned {
  text: string;
  parameters: Record<string, string>;
  rowsReturned: number;
}

/** A pipeline as it is being written. */
export interface Draft {
  text: string;
  name: string | null;
  note: string | null;
  savedText: string | null;
  guards: Partial<GuardLimits> | null;
  /** What stands in the inputs of the parameters, by their names. */
  parameters: Record<string, string>;
  cursorLine: number;
  chart: ChartSettings | null;
}

export interface Tab {
  id: string;
  /** As it was left; that of the tab in front is behind what stands on the Bench. */
  draft: Draft;
}

export type IndexChoice = { readonly kind: 'planned' } | { readonly kind: 'use' | 'ignore'; readonly index: string };

export interface BenchState extends Draft {
  tabs: Tab[];
  /** The tab in front, whose draft is the state's own. */
  tab: string;
  /** Names of saved pipelines, the one used last first. */
  recent: string[];
  /** Grows when the text is set from outside the editor. */
  loaded: number;
  view: View;
  /** The whole pipeline, for the margin, the costs and the plan; and what comes out at the cursor's line. */
  whole: Slot;
  here: Slot;
  comparison: Comparison | null;
  /** Identities of the documents that the pipeline is drafted on; none for all. */
  only: (string | number)[];
  /** Whether an index is insisted on or passed over for now, without dropping it. */
  indexChoice: IndexChoice;
  /** A collection whose documents have changed since the last run. */
  changedSince: string | null;
  /** How the table's columns are laid out. */
  columns: ColumnChoices;
  /** A question whose rows each later run is compared with. */
  pinned: Pinned | null;
}

const emptySlot: Slot = { pending: null, answer: null, problem: null };

const initialState: BenchState = {
  ...emptyDraft,
  loaded: 0,
  view: 'table',
  whole: emptySlot,
  here: emptySlot,
  comparison: null,
  only: [],
  indexChoice: { kind: 'planned' },
  changedSince: null,
  columns: plainColumns,
  pinned: null,
  ...restoredTabs(),
};

type SlotName = 'whole' | 'here';
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
    /** Opens a pipeline in a tab of its own; a tab in which nothing stands is used for it. */
    opened: (
      state,
      { payload }: PayloadAction<Partial<Draft> & { text: string; name?: string | null; line?: number; view?: View; inPlace?: boolean }>,
    ) => {
      const known = state.tabs.find(({ id, draft }) => id !== state.tab && draft.name !== null && draft.name === payload.name);
      const { line, view, inPlace, ...given } = payload;
      const draft: Draft = {
        ...emptyDraft,
        ...given,
        savedText: payload.name === undefined || payload.name === null ? null : payload.text,
        cursorLine: line ?? lastLine(payload.text),
      };
      if (known) bringForward(state, known.id);
      else {
        if (!isBlank(state) && inPlace !== true) {
          leave(state);
          state.tab = newTab(state.tabs);
        }
        Object.assign(state, draft);
        leave(state);
        forget(state);
      }
      if (view) state.view = view;
      if (draft.name !== null) use(state, draft.name);
    },
    /** What a Bench on which nothing stands begins with; someone may have begun to write before it was known. */
    begunWith: (state, { payload }: PayloadAction<{ text: string; view?: View }>) => {
      if (isBlank(state)) {
        Object.assign(state, { ...emptyDraft, text: payload.text, cursorLine: lastLine(payload.text) });
        forget(state);
      }
      leave(state);
      if (payload.view) state.view = payload.view;
    },
    tabChosen: (state, { payload }: PayloadAction<string>) => {
      // Before the first pipeline has been opened nothing stands on the Bench that could be left.
      if (state.loaded > 0) leave(state);
      bringForward(state, payload);
    },
    tabAdded: (state) => {
      leave(state);
      state.tab = newTab(state.tabs);
      Object.assign(state, emptyDraft);
      leave(state);
      forget(state);
    },
    tabClosed: (state, { payload }: PayloadAction<string>) => {
      const at = state.tabs.findIndex(({ id }) => id === payload);
      state.tabs = state.tabs.filter(({ id }) => id !== payload);
      if (state.tab !== payload) return;
      const next = state.tabs[Math.min(at, state.tabs.length - 1)];
      if (next !== undefined) {
        bringForward(state, next.id);
        return;
      }
      Object.assign(state, emptyDraft);
      state.tab = newTab(state.tabs);
      leave(state);
      forget(state);
    },
    movedTo: (state, { payload }: PayloadAction<number>) => {
      state.cursorLine = payload;
    },
    /** Puts the cursor on a line from outside the editor. */
    jumpedTo: (state, { payload }: PayloadAction<number>) => {
      state.cursorLine = payload;
      state.loaded++;
    },
    viewed: (state, { payload }: PayloadAction<View>) => {
      state.view = payload;
    },
    draftedOn: (state, { payload }: PayloadAction<(string | number)[]>) => {
      state.only = payload;
    },
    documentsChanged: (state, { payload }: PayloadAction<string>) => {
      if (state.whole.answer !== null) state.changedSince = payload;
    },
    compared: (state, { payload }: PayloadAction<Comparison | null>) => {
      state.comparison = payload;
    },
    chartChosen: (state, { payload }: PayloadAction<ChartSettings | null>) => {
      state.chart = payload;
    },
    columnsChosen: (state, { payload }: PayloadAction<Partial<ColumnChoices>>) => {
      state.columns = { ...state.columns, ...payload };
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
      use(state, payload.name);
      leave(state);
    },
    /** A saved pipeline is called otherwise: in every tab that holds it. */
    renamed: (state, { payload: { name, next } }: PayloadAction<{ name: string; next: string }>) => {
      if (state.name === name) state.name = next;
      for (const { draft } of state.tabs) if (draft.name === name) draft.name = next;
      state.recent = state.recent.map((one) => (one === name ? next : one));
      leave(state);
    },
    indexChosen: (state, { payload }: PayloadAction<IndexChoice>) => {
      state.indexChoice = payload;
    },
    guardsChosen: (state, { payload }: PayloadAction<Partial<GuardLimits> | null>) => {
      state.guards = payload;
      leave(state);
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
      if (meta.arg.slot === 'whole') state.changedSince = null;
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

/** Keeps what stands on the Bench in its tab. */
function leave(state: BenchState): void {
  const { text, name, note, savedText, guards, parameters, cursorLine, chart } = state;
  const draft = { text, name, note, savedText, guards, parameters, cursorLine, chart };
  const tab = state.tabs.find(({ id }) => id === state.tab);
  if (tab) tab.draft = draft;
  else state.tabs.push({ id: state.tab, draft });
}

function bringForward(state: BenchState, id: string): void {
  const tab = state.tabs.find((one) => one.id === id);
  if (tab === undefined) return;
  state.tab = id;
  Object.assign(state, tab.draft);
  forget(state);
}

/** Forgets what was answered: it was another pipeline's. */
function forget(state: BenchState): void {
  state.loaded++;
  state.comparison = null;
  state.only = [];
  state.columns = plainColumns;
  state.whole = emptySlot;
  state.here = emptySlot;
}

function use(state: BenchState, name: string): void {
  state.recent = [name, ...state.recent.filter((one) => one !== name)].slice(0, recentKept);
}

function isBlank({ text, name }: Draft): boolean {
  return name === null && text.trim() === '';
}

/** Whether a draft holds what is saved nowhere. */
export function isEdited({ name, text, savedText }: Draft): boolean {
  return name === null
    ? text.trim().split('\n').length > 1 || (text.trim() !== '' && !/^from\s+\S*$/.test(text.trim()))
    : text !== savedText;
}

function lastLine(text: string): number {
  return text.trimEnd().split('\n').length;
}

export const {
  begunWith,
  draftedOn,
  documentsChanged,
  typed,
  jumpedTo,
  chartChosen,
  columnsChosen,
  opened,
  tabChosen,
  tabAdded,
  tabClosed,
  movedTo,
  viewed,
  compared,
  cleared,
  parametersTyped,
  pinned,
  saved,
  renamed,
  indexChosen,
  guardsChosen,
} = benchSlice.actions;
