import { usualSurface } from '@zesty-sieve/core/language';
import { network, type DemoDocument } from './network.ts';
import { pipelines } from './pipelines.ts';

const all = new Map(network(1).map(({ name, count, document }) => [name, { count, document }]));
const made = new Map<string, DemoDocument[]>();
/** Every so many documents of a collection; making all of them takes long, so they are made once. */
const some = (name: string, most = 4_000): DemoDocument[] => {
  const { count, document } = all.get(name) as { count: number; document: (i: number) => DemoDocument };
  const step = Math.max(1, Math.floor(count / most));
  const key = `${name} ${step}`;
  const before = made.get(key);
  if (before !== undefined) return before;
  const documents = Array.from({ length: Math.ceil(count / step) }, (_, i) => document(i * step));
  made.set(key, documents);
  return documents;
};
const values = (documents: readonly DemoDocument[], field: string): unknown[] => documents.map((document) => document[field]);

test('the network is the same every time, and a scale multiplies bookings and reports alone', () => {
  for (const { name, count, document } of network(1)) {
    for (const i of [0, 1, Math.floor(count / 2), count - 1])
      expect(JSON.stringify(document(i))).toBe(JSON.stringify(all.get(name)?.document(i)));
  }
  expect(Object.fromEntries(network(1).map(({ name, count }) => [name, count]))).toEqual({
    huts: 120,
    members: 8_000,
    bookings: 50_000,
    reports: 84_000,
    routes: 400,
  });
  expect(Object.fromEntries(network(3).map(({ name, count }) => [name, count]))).toEqual({
    huts: 120,
    members: 8_000,
    bookings: 150_000,
    reports: 252_000,
    routes: 400,
  });
});

test('identities are texts of their own, and what names another document names one that there is', () => {
  for (const [name, { count }] of all) {
    const ids = new Set(values(some(name, count), 'id'));
    expect([name, ids.size]).toEqual([name, count]);
    expect([...ids].every((id) => typeof id === 'string')).toBe(true);
  }
  const huts = new Set(values(some('huts'), 'id'));
  const members = new Set(values(some('members', 8_000), 'id'));
  const share = (list: readonly unknown[], known: ReadonlySet<unknown>) => list.filter((one) => known.has(one)).length / list.length;
  expect(share(values(some('bookings'), 'hutId'), huts)).toBeGreaterThan(0.98);
  expect(share(values(some('bookings'), 'memberId'), members)).toBeGreaterThan(0.98);
  expect(share(values(some('reports'), 'hutId'), huts)).toBeGreaterThan(0.98);
});

test('statuses are uneven: most arrived, few were late, fewer were lost', () => {
  const counts = new Map<unknown, number>();
  for (const status of values(some('bookings'), 'status')) counts.set(status, (counts.get(status) ?? 0) + 1);
  const of = (status: string) => (counts.get(status) ?? 0) / 4_000;
  expect(of('arrived')).toBeGreaterThan(0.5);
  expect(of('late')).toBeGreaterThan(0.03);
  expect(of('late')).toBeLessThan(0.2);
  expect(of('lost')).toBeLessThan(of('late'));
  expect(of('lost')).toBeGreaterThan(0);
});

test('the data is odd on purpose, as real data is', () => {
  const huts = some('huts');
  const bookings = some('bookings', 50_000);
  const reports = some('reports', 84_000);
  const odd = {
    'a number stored as text': huts.some(({ bunks }) => typeof bunks === 'string'),
    'a field that is missing': huts.some((hut) => !('winterRoom' in hut)) && huts.some((hut) => 'winterRoom' in hut),
    'a null': huts.some(({ region }) => region === null),
    'an empty array': huts.some(({ ratings }) => Array.isArray(ratings) && ratings.length === 0),
    'a field that is a text here and an array there': ['string', 'object'].every((type) =>
      bookings.some(({ channel }) => typeof channel === type),
    ),
    // eslint-disable-next-line no-control-regex -- beyond ASCII is what is looked for
    'names beyond ASCII': /[^\x00-\x7f]/.test(JSON.stringify(some('members').map(({ name }) => name))),
    'a very long text': [...bookings, ...reports].some((one) => JSON.stringify(one).length > 3_000),
    'one enormous array': [...bookings, ...reports, ...some('routes')].some((one) =>
      Object.values(one).some((value) => Array.isArray(value) && value.length > 200),
    ),
  };
  expect(Object.entries(odd).filter(([, isThere]) => !isThere)).toEqual([]);
});

test('every saved pipeline can be read, reads what there is, and says what to notice', () => {
  const views = new Set(pipelines.filter(({ view }) => view === true).map(({ name }) => name));
  expect(new Set(pipelines.map(({ name }) => name)).size).toBe(pipelines.length);
  for (const { name, pipeline, note, sql } of pipelines) {
    expect([name, (note ?? '').length > 20]).toEqual([name, true]);
    if (sql !== undefined) continue;
    const { findings, stages } = usualSurface.parse(pipeline);
    expect([name, findings]).toEqual([name, []]);
    for (const { stage } of stages) {
      if (stage !== undefined && 'source' in stage) expect([name, all.has(stage.source) || views.has(stage.source)]).toEqual([name, true]);
    }
  }
});
