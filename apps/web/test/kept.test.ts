import { keepLessons, lessonBegun, lessonSlice, type LessonState } from '../src/state/lessons.ts';
import { tabClosed } from '../src/state/bench/benchSlice.ts';
import { emptyDraft, keepTabs, restoredTabs } from '../src/state/bench/drafts.ts';
import { keepText, keptJson, keptText } from '../src/state/kept.ts';

/** What a browser keeps; one that keeps nothing throws, as some do. */
class Storage {
  readonly kept = new Map<string, string>();
  isShut = false;
  getItem(name: string): string | null {
    if (this.isShut) throw new Error('SecurityError');
    return this.kept.get(name) ?? null;
  }
  setItem(name: string, text: string): void {
    if (this.isShut) throw new Error('QuotaExceededError');
    this.kept.set(name, text);
  }
}
let storage: Storage;
beforeEach(() => {
  storage = new Storage();
  Object.assign(globalThis, { localStorage: storage });
});
afterAll(() => void Reflect.deleteProperty(globalThis, 'localStorage'));

const none = { tabs: [], tab: '1', recent: [] };
const written = { ...emptyDraft, text: 'from huts\nlimit 3', name: 'huts', parameters: { least: '3' }, cursorLine: 2 };
const tabsPlace = 'zesty-sieve-drafts';

test('tabs come back as they were left, the one in front with what stands on the Bench', () => {
  const tabs = [
    { id: '1', draft: emptyDraft },
    { id: '2', draft: { ...emptyDraft, sql: 'SELECT 1' } },
  ];
  keepTabs({ tabs, tab: '1', recent: ['huts'], ...written });
  expect(restoredTabs()).toEqual({ tabs: [{ id: '1', draft: written }, tabs[1]], tab: '1', recent: ['huts'] });
});

test.each<[string, unknown, object]>([
  ['nothing', undefined, none],
  ['what is no JSON', '{"tabs": [', none],
  ['a list', [], none],
  ['a text', 'tabs', none],
  ['tabs that are none', { tabs: 7 }, none],
  ['an older draft, which knew less', { tabs: [{ id: '1', draft: { text: 'from huts' } }], tab: '1' }, { tabs: [{ id: '1', draft: { ...emptyDraft, text: 'from huts' } }], tab: '1', recent: [] }],
  ['one whose chart and guards nobody knows', { tabs: [{ id: '1', draft: { ...written, chart: { kind: 'pie' }, guards: { timeMs: -1 } } }], tab: '1', recent: [1] }, { tabs: [{ id: '1', draft: written }], tab: '1', recent: [] }],
  ['a tab that is none among others', { tabs: [null, { id: 7 }, { id: '3', draft: written }], tab: '1', recent: [] }, { tabs: [{ id: '3', draft: written }], tab: '3', recent: [] }],
])('of %s, what can be used comes back', (_, kept, restored) => {
  if (kept !== undefined) storage.setItem(tabsPlace, typeof kept === 'string' ? kept : JSON.stringify(kept));
  expect(restoredTabs()).toEqual(restored);
}); // prettier-ignore

test('a browser that keeps nothing has nothing, and nothing fails', () => {
  storage.isShut = true;
  expect([restoredTabs(), keptText('any'), keptJson('any')]).toEqual([none, null, undefined]);
  keepText('any', 'thing');
  keepTabs({ tabs: [], tab: '1', recent: [], ...written });
  keepLessons(lessonSlice.getInitialState());
  storage.isShut = false;
  expect(storage.kept.size).toBe(0);
});

test('how far one is with the lessons is kept, and what another version kept is understood as far as it goes', () => {
  const beginning: LessonState = { id: null, tab: null, step: 0, done: [], isWelcomed: false };
  expect(lessonSlice.getInitialState()).toEqual(beginning);
  const state = lessonSlice.reducer(beginning, lessonBegun({ id: 'first', tab: '2' }));
  keepLessons(state);
  expect(lessonSlice.getInitialState()).toEqual({ ...beginning, id: 'first', tab: '2', isWelcomed: true });
  // A tab that is made later may have the identity of the one that was closed.
  expect(lessonSlice.reducer(state, tabClosed('2')).tab).toBeNull();
  expect(lessonSlice.reducer(state, tabClosed('1'))).toBe(state);
  for (const [kept, understood] of [
    ['[]', beginning],
    ['{"id":"first","step":-2,"done":"all","isWelcomed":true}', { ...beginning, id: 'first', isWelcomed: true }],
  ] as const) {
    storage.setItem('zesty-sieve-lessons', kept);
    expect(lessonSlice.getInitialState()).toEqual(understood);
  }
});
