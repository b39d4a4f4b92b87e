import { plainColumns, emptySlot, type BenchState, type Draft } from './benchState.ts';
import { isScratch } from './draft.ts';
import { recentKept } from './drafts.ts';

/** Keeps what stands on the Bench in its tab. */
export function leave(state: BenchState): void {
  const { text, sql, name, note, savedText, guards, parameters, cursorLine, chart } = state;
  const draft = { text, sql, name, note, savedText, guards, parameters, cursorLine, chart };
  const tab = state.tabs.find(({ id }) => id === state.tab);
  if (tab) tab.draft = draft;
  else state.tabs.push({ id: state.tab, draft });
}

export function bringForward(state: BenchState, id: string): void {
  const tab = state.tabs.find((one) => one.id === id);
  if (tab === undefined) return;
  state.tab = id;
  Object.assign(state, tab.draft);
  forget(state);
}

/** Forgets what was answered: it was another pipeline's. */
export function forget(state: BenchState): void {
  state.loaded++;
  state.comparison = null;
  state.clauses = [];
  state.only = [];
  state.columns = plainColumns;
  state.whole = emptySlot;
  state.here = emptySlot;
}

export function use(state: BenchState, name: string): void {
  state.recent = [name, ...state.recent.filter((one) => one !== name)].slice(0, recentKept);
}

export function isBlank({ text, sql, name }: Draft): boolean {
  return name === null && text.trim() === '' && (sql ?? '').trim() === '';
}

/** Whether a draft holds what is saved nowhere. */
export function isEdited(draft: Draft): boolean {
  const { name, sql, text, savedText } = draft;
  if (name !== null) return (sql ?? text) !== savedText;
  return sql === null ? !isScratch(draft) : sql.trim() !== '';
}

/** What is written, in whichever face: that is what is saved. */
export function writtenIn({ sql, text }: Pick<Draft, 'sql' | 'text'>): string {
  return sql ?? text;
}

export function lastLine(text: string): number {
  return text.trimEnd().split('\n').length;
}
