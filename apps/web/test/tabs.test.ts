import {
  benchSlice,
  begunWith,
  faceChosen,
  opened,
  saved,
  tabsRestored,
  sqlTranslated,
  sqlTyped,
  tabAdded,
  tabChosen,
  tabClosed,
  typed,
} from '../src/state/bench/benchSlice.ts';
import { isEdited } from '../src/state/bench/tabTurns.ts';

const reduce = benchSlice.reducer;
type State = ReturnType<typeof reduce>;
type Action = Parameters<typeof reduce>[1];

function after(...actions: readonly Action[]): State {
  return actions.reduce((state: State | undefined, action) => reduce(state, action), undefined) as State;
}
const standing = ({ tabs, tab, text }: State) => tabs.map(({ id, draft }) => (id === tab ? `[${text}]` : draft.text));

test('a Bench on which nothing stands begins with a collection, and what was typed meanwhile is kept', () => {
  expect(standing(after(begunWith({ text: 'from bookings\n' })))).toEqual(['[from bookings\n]']);
  expect(standing(after(typed('from huts'), begunWith({ text: 'from bookings\n' })))).toEqual(['[from huts]']);
});

test('a pipeline is opened in a tab of its own, and in the one at hand where nothing stands there', () => {
  const two = after(begunWith({ text: 'from huts' }), typed('from huts\nlimit 3'), opened({ text: 'from trails' }));
  expect(standing(two)).toEqual(['from huts\nlimit 3', '[from trails]']);
  const reused = after(begunWith({ text: 'from huts' }), tabAdded(), opened({ text: 'from trails' }));
  expect(standing(reused)).toEqual(['from huts', '[from trails]']);
  const inPlace = after(begunWith({ text: 'from huts' }), opened({ text: 'from trails', inPlace: true }));
  expect(standing(inPlace)).toEqual(['[from trails]']);
});

test('a saved pipeline that is open already is brought forward with what was written in it', () => {
  const saved = { text: 'from huts', name: 'all huts' };
  const state = after(opened(saved), typed('from huts\nlimit 3'), opened({ text: 'from trails' }), opened(saved));
  expect(standing(state)).toEqual(['[from huts\nlimit 3]', 'from trails']);
  expect(state.recent).toEqual(['all huts']);
  expect(isEdited(state)).toBe(true);
});

test('what was saved is so in its own tab, whichever is in front by then', () => {
  const two = after(opened({ text: 'from huts\nlimit 1' }), opened({ text: 'from trails\nlimit 2' }));
  const [first, second] = two.tabs.map(({ id }) => id);
  const state = reduce(two, saved({ tab: first!, name: 'some huts', note: null, text: 'from huts\nlimit 1' }));
  expect([state.name, state.savedText, state.tab]).toEqual([null, null, second]);
  const back = reduce(state, tabChosen(first!));
  expect([back.name, isEdited(back), back.recent]).toEqual(['some huts', false, ['some huts']]);
  // One that has been closed meanwhile is saved, and nothing else is called so.
  const closed = reduce(reduce(two, tabClosed(first!)), saved({ tab: first!, name: 'some huts', note: null, text: 'x' }));
  expect(closed.tabs.map(({ draft }) => draft.name)).toEqual([null]);
});

test('what was kept comes to the front where nothing was opened yet, and beside it where something was', () => {
  const { tabs, tab, recent } = after(opened({ text: 'from huts\nlimit 1' }), opened({ text: 'from trails\nlimit 2' }));
  const fresh = after(tabsRestored({ tabs, tab, recent }));
  expect([fresh.isRestored, fresh.loaded, fresh.tabs, fresh.tab]).toEqual([true, 0, tabs, tab]);
  const late = after(opened({ text: 'from routes' }), tabsRestored({ tabs, tab, recent }));
  expect(standing(late)).toEqual(['[from routes]', 'from huts\nlimit 1', 'from trails\nlimit 2']);
  expect(new Set(late.tabs.map(({ id }) => id)).size).toBe(3);
});

test('a tab is closed, the one in its place comes forward, and the last leaves an empty one', () => {
  const three = after(opened({ text: 'a' }), opened({ text: 'b' }), opened({ text: 'c' }));
  const [first, second, third] = three.tabs.map(({ id }) => id);
  expect(standing(reduce(three, tabClosed(third)))).toEqual(['a', '[b]']);
  expect(standing(reduce(reduce(three, tabChosen(first)), tabClosed(first)))).toEqual(['[b]', 'c']);
  expect(standing(reduce(three, tabClosed(second)))).toEqual(['a', '[c]']);
  expect(standing([first, second, third].reduce((state, id) => reduce(state, tabClosed(id)), three))).toEqual(['[]']);
});

test.each<[string, string | null, string | null, boolean]>([
  ['from huts', null, null, false],
  ['from huts\nlimit 3', null, null, true],
  ['', null, null, false],
  ['from huts', 'all huts', 'from huts', false],
  ['from huts\nlimit 3', 'all huts', 'from huts', true],
])('%j of the pipeline %j, saved as %j: edited is %j', (text, name, savedText, edited) => {
  expect(isEdited({ ...after(tabAdded()), text, name, savedText })).toBe(edited);
});

test('a question in SQL is edited by what is written, whatever that becomes, and crosses as saved', () => {
  const saved = after(opened({ text: 'from huts', sql: 'SELECT * FROM huts', name: 'all huts' }));
  expect(isEdited(saved)).toBe(false);
  expect(isEdited(reduce(saved, sqlTranslated({ text: 'from huts\nlimit 1', clauses: [] })))).toBe(false);
  expect(isEdited(reduce(saved, sqlTyped('SELECT * FROM huts LIMIT 1')))).toBe(true);
  const crossed = reduce(saved, faceChosen({ sql: null }));
  expect([crossed.sql, crossed.text, isEdited(crossed)]).toEqual([null, 'from huts', false]);
});
