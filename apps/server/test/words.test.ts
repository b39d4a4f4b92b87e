import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
  await server.call('POST', '/collections', { name: 'reports' });
  await server.call('POST', '/collections/reports/documents', [
    { id: 1, text: 'The bridge is gone, use the ford.' },
    { id: 2, text: 'Bridges, bridges everywhere' },
    { id: 3, text: 'Three ibex' },
    ...Array.from({ length: 1_000 }, (_, i) => ({ id: i + 10, n: i })),
  ]);
});
afterAll(() => server.remove());

const scores = async () => {
  const { body } = await server.call('POST', '/query', { pipeline: 'from reports\nbest 5 by relevance(@.text, "bridge ford", "english") as s\nselect @.id, @.s' }); // prettier-ignore
  return { rows: (body['documents'] as { id: number; s: number }[]).map(({ id, s }) => [id, s]), plan: JSON.stringify(body['plan']) };
};

test('the example of the guide has the score that is worked out there, by scan, by index, after changes and after a restart', async () => {
  const [first, second] = [Math.log(1.6), Math.log(1 + 2.5 / 1.5)];
  const byScan = await scores();
  expect(byScan.rows).toEqual([[1, first * 0.4 + second * 0.4], [2, first * 0.625]]); // prettier-ignore
  expect([(byScan.rows[0]![1] as number).toFixed(4), (byScan.rows[1]![1] as number).toFixed(4)]).toEqual(['0.5803', '0.2938']);
  const made = await server.call('POST', '/collections/reports/indexes', { kind: 'text', keys: ['@.text'], language: 'english' });
  expect([made.status, made.body]).toMatchObject([201, { name: 'text_text', kind: 'text', language: 'english', entries: 8 }]);
  const byIndex = await scores();
  expect(byIndex.rows).toEqual(byScan.rows);
  expect(byIndex.plan).toContain('text index search');
  await server.call('POST', '/collections/reports/documents', [{ id: 5_000, text: 'a ford, a bridge' }]);
  expect((await scores()).rows).not.toEqual(byScan.rows);
  await server.call('DELETE', '/collections/reports/documents/5000');
  expect((await scores()).rows).toEqual(byScan.rows);
  await server.kill('SIGTERM');
  await server.start();
  const again = await scores();
  expect(again.rows).toEqual(byScan.rows);
  expect(again.plan).toContain('text index search');
});

test('texts are shown as an index sees them', async () => {
  const { body } = await server.call('POST', '/analyse', { texts: ['The footbridges are gone'], words: 'bridg* the gone', language: 'english' }); // prettier-ignore
  expect(body).toEqual({
    texts: [[{ word: 'The', from: 0, term: null }, { word: 'footbridges', from: 4, term: 'footbridg' }, { word: 'are', from: 16, term: null }, { word: 'gone', from: 20, term: 'gone' }]],
    words: [{ kind: 'beginning', text: 'bridg' }, { kind: 'term', text: 'gone' }],
  }); // prettier-ignore
  expect((await server.call('POST', '/analyse', { texts: ['x'], language: 'klingon' })).status).toBe(400);
});

test.each([
  [{ kind: 'text', keys: ['@.text'], unique: true }],
  [{ kind: 'text', keys: ['@.text'], where: '@.id > 3' }],
  [{ kind: 'text', keys: ['lower(@.text)'] }],
  [{ kind: 'text', keys: ['@.text desc'] }],
  [{ keys: ['@.text'], language: 'english' }],
  [{ kind: 'text', keys: [] }],
])('%j is no index', async (definition) => {
  expect([400, 422]).toContain((await server.call('POST', '/collections/reports/indexes', definition)).status);
});
