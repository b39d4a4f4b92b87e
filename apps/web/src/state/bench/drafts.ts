import { guards } from '@zesty-sieve/contract';
import { z } from 'zod';
import { keptName } from '../../api/database.ts';
import { keepText, keptJson } from '../kept.ts';
import { chartSettings } from './chartSettings.ts';
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
});

/**
 * The tabs as they were when the page was left, so that a reload loses nothing that was written. Another version may have kept them:
 * what is not as it should be is as in an empty draft, and all else stays.
 */
export function restoredTabs(): Kept {
  const { data } = keptTabs.safeParse(keptJson(place));
  if (data === undefined) return { tabs: [], tab: '1', recent: [] };
  const isThere = data.tabs.some(({ id }) => id === data.tab);
  return { ...data, tab: isThere ? data.tab : (data.tabs[0]?.id ?? '1') };
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
  keepText(place, JSON.stringify(kept));
}
