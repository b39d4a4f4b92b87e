import fc from 'fast-check';
import {
  benchSlice,
  begunWith,
  faceChosen,
  opened,
  renamed,
  saved,
  sqlTyped,
  tabAdded,
  tabChosen,
  tabClosed,
  typed,
} from '../src/state/bench/benchSlice.ts';
import { isBlank, writtenIn } from '../src/state/bench/tabTurns.ts';

/** What somebody does on the Bench, in any order: nothing that is written may go but by being closed, or written over in its own tab. */

const reduce = benchSlice.reducer;
type State = ReturnType<typeof reduce>;

const text = fc.constantFrom('', ' ', 'from huts', 'from huts\nlimit 3', 'from trails\nwhere @.a == 1');
const name = fc.constantFrom('late', 'early', 'huts');
const place = fc.nat(5);
const step = fc.oneof(
  text.map((one) => ({ do: 'type' as const, text: one })),
  text.map((one) => ({ do: 'type sql' as const, text: one })),
  fc.record({ do: fc.constant('open' as const), text, name: fc.option(name), inPlace: fc.boolean(), sql: fc.option(text) }),
  fc.constant({ do: 'add' as const }),
  place.map((at) => ({ do: 'choose' as const, at })),
  place.map((at) => ({ do: 'close' as const, at })),
  fc.option(text).map((sql) => ({ do: 'face' as const, sql })),
  name.map((one) => ({ do: 'save' as const, name: one })),
  fc.tuple(name, name).map(([from, to]) => ({ do: 'rename' as const, from, to })),
  text.map((one) => ({ do: 'begin' as const, text: one })),
);
type Step = typeof step extends fc.Arbitrary<infer T> ? T : never;

function after(state: State, one: Step): State {
  const idAt = (at: number) => state.tabs[at % Math.max(1, state.tabs.length)]?.id ?? 'none';
  switch (one.do) {
    case 'type':
      return reduce(state, typed(one.text));
    case 'type sql':
      return reduce(state, sqlTyped(one.text));
    case 'open':
      return reduce(state, opened({ text: one.text, name: one.name, inPlace: one.inPlace, ...(one.sql !== null && { sql: one.sql }) }));
    case 'add':
      return reduce(state, tabAdded());
    case 'choose':
      return reduce(state, tabChosen(idAt(one.at)));
    case 'close':
      return reduce(state, tabClosed(idAt(one.at)));
    case 'face':
      return reduce(state, faceChosen({ sql: one.sql }));
    case 'save':
      return reduce(state, saved({ tab: state.tab, name: one.name, note: null, text: writtenIn(state) }));
    case 'rename':
      return reduce(state, renamed({ name: one.from, next: one.to }));
    case 'begin':
      return reduce(state, begunWith({ text: one.text }));
  }
}

/** What stands in each tab, that in front as it is now. */
const standing = (state: State): Map<string, string> =>
  new Map(state.tabs.map(({ id, draft }) => [id, writtenIn(id === state.tab ? state : draft)]));

/** The tabs that a step may write in: whatever else there is stays as it was. */
function mayTouch(state: State, one: Step): readonly string[] {
  const at = one.do === 'close' ? state.tabs[one.at % Math.max(1, state.tabs.length)]?.id : undefined;
  const writes = ['type', 'type sql', 'face'].includes(one.do) || (one.do === 'open' && one.inPlace);
  return [...(at === undefined ? [] : [at]), ...(writes || isBlank(state) ? [state.tab] : [])];
}

test('whatever is opened, chosen, renamed and closed, what stands in the other tabs stays', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
      let state = reduce(undefined, begunWith({ text: 'from huts' }));
      for (const one of steps) {
        const [before, touched] = [standing(state), mayTouch(state, one)];
        state = after(state, one);
        const now = standing(state);
        for (const [id, written] of before) if (!touched.includes(id)) expect([one, id, now.get(id)]).toEqual([one, id, written]);
        // One tab is in front, and no two are taken for each other.
        expect(state.tabs.filter(({ id }) => id === state.tab)).toHaveLength(1);
        expect(new Set(state.tabs.map(({ id }) => id)).size).toBe(state.tabs.length);
        expect(new Set(state.recent).size).toBe(state.recent.length);
      }
    }),
    { numRuns: 600 },
  );
});

test('no saved pipeline is open twice by being opened', () => {
  fc.assert(
    fc.property(fc.array(step.filter((one) => one.do === 'open' || one.do === 'add' || one.do === 'choose'), { maxLength: 20 }), (steps) => {
      let state = reduce(undefined, begunWith({ text: 'from huts' }));
      for (const one of steps) state = after(state, one.do === 'open' ? { ...one, inPlace: false } : one);
      const names = state.tabs.flatMap(({ id, draft }) => (id === state.tab ? state.name : draft.name) ?? []);
      expect(new Set(names).size).toBe(names.length);
    }),
    { numRuns: 400 },
  );
}); // prettier-ignore
