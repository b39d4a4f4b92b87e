import { guards } from '@zesty-sieve/contract';
import { z } from 'zod';
import { keepText, keptText } from '../kept.ts';
import { chartSettings } from './chartSettings.ts';
import { isScratch, type Draft, type Tab } from './draft.ts';
import { ownWindow } from './draftsPlace.ts';

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
/** What is kept of a window, and when it was: milliseconds since 1970. */
export interface KeptDrafts extends Kept {
  at: number;
}

const text = z.string().nullable().catch(null);
const keptDraft = z.object({
  text: z.string().catch(''),
  sql: text,
  name: text,
  note: text,
  savedText: text,
  guards: guards.partial().nullable().catch(null),
  parameters: z.record(z.string(), z.string()).catch({}),
  cursorLine: z.int().min(1).catch(1),
  chart: chartSettings.nullable().catch(null),
});
const keptTab = z.object({ id: z.string().min(1), draft: keptDraft });
const keptTabs = z.object({
  tabs: z.array(z.unknown()).transform((tabs) => tabs.map((tab) => keptTab.safeParse(tab)).flatMap(({ data }) => (data ? [data] : []))),
  tab: z.string().catch('1'),
  recent: z.array(z.string()).catch([]),
  at: z.number().catch(0),
});

/**
 * The tabs as a text tells them. Another version may have kept it: what is not as it should be is as in an empty draft, and all else
 * stays; undefined where it is none.
 */
export function draftsIn(text: string | null): KeptDrafts | undefined {
  let json: unknown;
  try {
    json = JSON.parse(text ?? 'null');
  } catch {
    return undefined;
  }
  const { data } = keptTabs.safeParse(json);
  if (data === undefined) return undefined;
  const isThere = data.tabs.some(({ id }) => id === data.tab);
  return { ...data, tab: isThere ? data.tab : (data.tabs[0]?.id ?? '1') };
}

export const writtenDrafts = (drafts: KeptDrafts): string => JSON.stringify(drafts);

/** The tabs as they were when the page was left, so that a reload loses nothing that was written. */
export function restoredTabs(): Kept {
  const { tabs, tab, recent } = draftsIn(keptText(ownWindow.place)) ?? { tabs: [], tab: '1', recent: [] };
  return { tabs, tab, recent };
}

/** Of several windows that are closed: the tabs of the one that was left last as they stood there, and of the others what was written. */
export function joinedDrafts(windows: readonly KeptDrafts[]): KeptDrafts {
  const [last, ...others] = [...windows].sort((a, b) => b.at - a.at);
  const joined: KeptDrafts = last === undefined ? { tabs: [], tab: '1', recent: [], at: 0 } : { ...last, tabs: [...last.tabs] };
  const told = ({ text, sql, name, parameters }: Draft): string => JSON.stringify([text, sql, name, parameters]);
  const known = new Set(joined.tabs.map(({ draft }) => told(draft)));
  for (const { tabs, recent } of others) {
    for (const { draft } of tabs) {
      if (isScratch(draft) || known.has(told(draft))) continue;
      known.add(told(draft));
      joined.tabs.push({ id: newTab(joined.tabs), draft });
    }
    joined.recent = [...new Set([...joined.recent, ...recent])].slice(0, recentKept);
  }
  return joined;
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
  const front = tabs.map((one) => (one.id === tab ? { id: tab, draft } : one));
  keepText(ownWindow.place, writtenDrafts({ tabs: front, tab, recent, at: Date.now() }));
}
