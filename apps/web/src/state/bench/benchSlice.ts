import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ClauseOfSql, GuardLimits } from '@zesty-sieve/contract';
import type { ChartSettings } from './chartSettings.ts';
import { ask, stopped, stoppedByHand } from './ask.ts';
import {
  emptySlot,
  initialState,
  type BenchState,
  type ColumnChoices,
  type Comparison,
  type Draft,
  type IndexChoice,
  type Pinned,
  type SlotName,
  type View,
} from './benchState.ts';
import { emptyDraft, newTab } from './drafts.ts';
import { bringForward, forget, isBlank, lastLine, leave, use, writtenIn } from './tabTurns.ts';

export const benchSlice = createSlice({
  name: 'bench',
  initialState,
  reducers: {
    /** What the browser has kept of this window. Where something was opened before that was known, it stays in front. */
    tabsRestored: (state, { payload }: PayloadAction<Pick<BenchState, 'tabs' | 'tab' | 'recent'>>) => {
      state.isRestored = true;
      if (state.loaded === 0) Object.assign(state, payload);
      else for (const { draft } of payload.tabs) state.tabs.push({ id: newTab(state.tabs), draft });
    },
    typed: (state, { payload }: PayloadAction<string>) => {
      state.text = payload;
    },
    sqlTyped: (state, { payload }: PayloadAction<string>) => {
      state.sql = payload;
    },
    /** What the SQL became; nothing where it asks about tables. */
    sqlTranslated: (state, { payload }: PayloadAction<{ text: string; clauses: ClauseOfSql[] }>) => {
      state.text = payload.text;
      state.clauses = payload.clauses;
    },
    /** Goes on in another face: SQL, or the notation. The pipeline is the same. */
    faceChosen: (state, { payload }: PayloadAction<{ sql: string | null }>) => {
      const isSaved = state.savedText !== null && state.savedText === writtenIn(state);
      state.sql = payload.sql;
      state.clauses = [];
      state.cursorLine = lastLine(writtenIn(state));
      // A face that nobody has written in yet is what was saved, in other words.
      if (isSaved) state.savedText = writtenIn(state);
      leave(state);
      state.loaded++;
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
        savedText: payload.name === undefined || payload.name === null ? null : (payload.sql ?? payload.text),
        cursorLine: line ?? lastLine(payload.sql ?? payload.text),
      };
      // One that stands in front stays as it is, as one that is brought there does.
      const isHere = inPlace !== true && draft.name !== null && draft.name === state.name;
      if (known) bringForward(state, known.id);
      else if (!isHere) {
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
    /** What stood in a tab is saved; another one may be in front by now, or that one closed. */
    saved: (state, { payload }: PayloadAction<{ tab: string; name: string; note: string | null; text: string }>) => {
      const { tab, name, note, text } = payload;
      const draft = tab === state.tab ? state : state.tabs.find(({ id }) => id === tab)?.draft;
      if (draft !== undefined) Object.assign(draft, { name, note, savedText: text });
      use(state, name);
      leave(state);
    },
    /** A saved pipeline is called otherwise: in every tab that holds it. */
    renamed: (state, { payload: { name, next } }: PayloadAction<{ name: string; next: string }>) => {
      if (state.name === name) state.name = next;
      for (const { draft } of state.tabs) if (draft.name === name) draft.name = next;
      state.recent = [...new Set(state.recent.map((one) => (one === name ? next : one)))];
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
      // What the SQL became is the server's to say: it knows what documents look like by now.
      if (payload.sql !== undefined && state.sql === meta.arg.asked.sql) {
        slot.answer.asked = { ...meta.arg.asked, text: payload.sql.text };
        state.text = payload.sql.text;
        state.clauses = payload.sql.clauses;
      }
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

export const {
  begunWith,
  tabsRestored,
  draftedOn,
  documentsChanged,
  typed,
  sqlTyped,
  sqlTranslated,
  faceChosen,
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
