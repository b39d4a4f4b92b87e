import { ageText, followText, keepingOf, keepings, policyOf, stateText, type Keeping } from '../src/parts/views/keeping.ts';
import { brief } from '../src/parts/numbers.ts';

test.each<Keeping>(Object.keys(keepings) as Keeping[])(
  'how rows are kept is one choice of a form, and comes back from it: %s',
  (keeping) => {
    expect(keepingOf(policyOf(keeping, 60) ?? undefined)).toBe(keeping);
  },
);
test('every so often says how often', () => expect(policyOf('time', 90)).toEqual({ everySeconds: 90 }));

test.each<[Parameters<typeof followText>[0], string]>([
  [undefined, ''],
  [[], ''],
  [[{ collection: 'bookings', us: 34.6 }], 'about 35\u00a0µs for a changed document of bookings'],
  [
    [{ collection: 'bookings', us: 0.2 }, { collection: 'members', us: 2_600 }],
    'about 1\u00a0µs for a changed document of bookings, 2.6 ms for one of members',
  ],
])('what following %j takes: %s', (costs, text) => expect(followText(costs)).toBe(text)); // prettier-ignore

test.each<[number, string]>([
  [-5, '0 s'],
  [4_400, '4 s'],
  [89_000, '89 s'],
  [90_000, '2 min'],
  [5_399_000, '90 min'],
  [5_400_000, '2 h'],
  [172_000_000, '48 h'],
  [200_000_000, '2 days'],
])('an age of %d ms is told as %s', (ms, text) => expect(ageText(ms)).toBe(text));

const at = '2026-03-01T00:00:00Z';
test.each<[Parameters<typeof stateText>[0], string]>([
  [{ state: 'fresh', refreshedAt: at }, 'up to date'],
  [{ state: 'stale', refreshedAt: at }, 'out of date'],
  [{ state: 'refreshing', refreshedAt: at }, 'being made anew'],
  [{ state: 'failed', refreshedAt: at }, 'could not be made anew'],
  [{ state: 'refreshing', refreshedAt: null }, 'being made for the first time'],
  [{ state: 'stale', refreshedAt: null }, 'being made for the first time'],
  [{ state: 'failed', refreshedAt: null }, 'could not be made'],
])('%j is told as %s', (view, text) => expect(stateText(view)).toBe(text));

test.each<[number, string]>([
  [0, '1\u00a0µs'],
  [994, '994\u00a0µs'],
  [996, '1 ms'],
  [25_000, '25 ms'],
])('%d µs are told as %s', (us, text) => expect(brief(us)).toBe(text));
