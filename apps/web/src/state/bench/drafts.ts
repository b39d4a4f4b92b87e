import { keptName } from '../../api/database.ts';
import type { Draft, Tab } from './draft.ts';

const place = keptName('zesty-sieve-drafts');
export const recentKept = 6;

export const emptyDraft: Draft = {
  text: '',
  sql: null,
  name: null,
  note: null,
  savedText: null,
  guards: null,
  parameters: {},
  cursorLine: 1,
  chart: null,
};

/** An identity that no tab has. */
export function newTab(tabs: readonly Tab[]): string {
  return String(Math.max(0, ...tabs.map(({ id }) => Number(id) || 0)) + 1);
}

interface Kept {
  tabs: Tab[];
  tab: string;
  recent: string[];
}

/** The tabs as they were when the page was left, so that a reload loses nothing that was written. */
export function restoredTabs(): Kept {
  const none: Kept = { tabs: [], tab: '1', recent: [] };
  try {
    const kept = JSON.parse(localStorage.getItem(place) ?? 'null') as Kept | null;
    if (kept === null || !Array.isArray(kept.tabs)) return none;
    return { tabs: kept.tabs.map(({ id, draft }) => ({ id, draft: { ...emptyDraft, ...draft } })), tab: kept.tab, recent: kept.recent };
  } catch {
    // Kept by another version, or the browser keeps nothing: there is nothing to restore.
    return none;
  }
}

/** Keeps the tabs in the browser. */
export function keepTabs({ tabs, tab, recent, ...live }: Kept & Draft): void {
  const draft: Draft = {
    text: live.text,
    sql: live.sql,
    name: live.name,
    note: live.note,
    savedText: live.savedText,
    guards: live.guards,
    parameters: live.parameters,
    cursorLine: live.cursorLine,
    chart: live.chart,
  };
  const kept: Kept = { tabs: tabs.map((one) => (one.id === tab ? { id: tab, draft } : one)), tab, recent };
  try {
    localStorage.setItem(place, JSON.stringify(kept));
  } catch {
    // A browser that keeps nothing still works; only a reload forgets.
  }
}
