export interface Call {
  /** The address below /api, its parameters filled in. */
  readonly path: string;
  readonly body?: unknown;
  readonly headers?: Record<string, string>;
  /** Where another of the documented ways to end is taken. */
  readonly status?: number;
}

const lines = { 'content-type': 'application/x-ndjson' };
const late = 'from stays\nwhere @.status == "late"';
/** What earlier calls gave that later ones ask for. */
export const known = { runId: '', changeId: '', otherRun: '', key: '', keyId: '' };

/** Every call of the API once, in an order in which each finds what it needs. A forgotten one fails `contract.test.ts`. */
export const calls: readonly (readonly [route: string, call: () => Call])[] = [
  ['post /collections', () => ({ path: '/collections', body: { name: 'stays', identity: '@.id' } })],
  ['post /collections/:c/documents', () => ({ path: '/collections/stays/documents', body: [{ id: 'first', status: 'late', n: 1, nights: [{ fee: 3 }] }] })], // prettier-ignore
  ['post /imports/preview', () => ({ path: '/imports/preview', body: '{"id": 1, "a": "x"}\n{"id": 2}\n', headers: lines })],
  ['post /collections/:c/import', () => ({ path: '/collections/stays/import?onDuplicate=skip', body: Array.from({ length: 1_500 }, (_, id) => JSON.stringify({ id, n: id % 9, status: id % 50 === 0 ? 'late' : 'fine', hutId: `h${id % 9}` })).join('\n'), headers: lines })], // prettier-ignore
  ['get /collections', () => ({ path: '/collections' })],
  ['get /collections/:c', () => ({ path: '/collections/stays' })],
  ['get /collections/:c/documents', () => ({ path: '/collections/stays/documents?after=3&size=2' })],
  ['put /collections/:c/documents', () => ({ path: '/collections/stays/documents', body: [{ id: 1, n: 5, status: 'fine' }, { id: 'new', n: 0, status: 'late' }] })], // prettier-ignore
  ['post /collections/:c/documents/read', () => ({ path: '/collections/stays/documents/read', body: { identities: [1, 'nobody'] } })],
  ['get /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1' })],
  ['put /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1', body: { id: 1, n: 6, status: 'fine' } })],
  ['patch /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1', body: '{"n": 7}', headers: { 'content-type': 'application/merge-patch+json' } })], // prettier-ignore
  ['delete /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1' })],
  ['get /collections/:c/shape', () => ({ path: '/collections/stays/shape' })],
  ['put /collections/:c/fields', () => ({ path: '/collections/stays/fields', body: { path: '@.n', note: 'how many', unit: 'people' } })],
  ['get /collections/:c/json-schema', () => ({ path: '/collections/stays/json-schema' })],
  ['get /collections/:c/expected', () => ({ path: '/collections/stays/expected' })],
  ['put /collections/:c/expected', () => ({ path: '/collections/stays/expected', body: { mode: 'warn', schema: { properties: { n: { type: 'number' } } } } })], // prettier-ignore
  ['post /collections/:c/expected/check', () => ({ path: '/collections/stays/expected/check' })],
  ['post /overlaps', () => ({ path: '/overlaps', body: { first: 'stays', second: 'stays' } })],
  ['get /collections/:c/export', () => ({ path: '/collections/stays/export?format=csv' })],
  ['post /query', () => ({ path: '/query', body: { pipeline: late } })],
  ['get /runs/:runId/rows', () => ({ path: `/runs/${known.runId}/rows?offset=2&size=3` })],
  ['get /runs/:runId/rows.ndjson', () => ({ path: `/runs/${known.runId}/rows.ndjson` })],
  ['get /runs/:runId/rows.json', () => ({ path: `/runs/${known.runId}/rows.json` })],
  ['get /runs/:runId/rows.csv', () => ({ path: `/runs/${known.runId}/rows.csv` })],
  ['post /runs/:runId/store', () => ({ path: `/runs/${known.runId}/store`, body: { collection: 'kept', mode: 'new' } })],
  ['post /plan', () => ({ path: '/plan', body: { pipeline: late, whatIf: [{ keys: ['@.status'] }] } })],
  ['post /sql', () => ({ path: '/sql', body: { sql: "SELECT n FROM stays WHERE status = 'late'" } })],
  ['post /analyse', () => ({ path: '/analyse', body: { texts: ['The bridges'], words: 'bridg*', language: 'english' } })],
  ['post /sql/translate', () => ({ path: '/sql/translate', body: { sql: 'SELECT n FROM stays' } })],
  ['post /counts', () => ({ path: '/counts', body: { pipeline: late, line: 2, conditions: ['@.status == "late"', '@.n > 3'] } })],
  ['post /compare', () => ({ path: '/compare', body: { first: { pipeline: late }, second: { pipeline: `${late}\nlimit 3` } } })],
  ['post /trace', () => ({ path: '/trace', body: { pipeline: late, identity: 3 } })],
  [
    'post /origins',
    () => ({ path: '/origins', body: { pipeline: `${late}\ngroup by @.n measure parties = count()`, row: { n: 3, parties: 1 } } }),
  ],
  ['post /parse', () => ({ path: '/parse', body: { pipeline: 'from stays\nwhere @.statsu == "late"' } })],
  [
    'put /pipelines/:name',
    () => ({
      path: '/pipelines/Late',
      body: { pipeline: late, view: true, materialized: { refresh: 'on demand' }, note: 'who came late' },
    }),
  ],
  ['get /pipelines', () => ({ path: '/pipelines' })],
  ['get /pipelines/:name', () => ({ path: '/pipelines/Late' })],
  ['patch /pipelines/:name', () => ({ path: '/pipelines/Late', body: { name: 'tardy' } })],
  ['post /pipelines/:name/refresh', () => ({ path: '/pipelines/tardy/refresh' })],
  ['delete /pipelines/:name/refresh', () => ({ path: '/pipelines/tardy/refresh', status: 404 })],
  ['put /pipelines/:name/baseline', () => ({ path: '/pipelines/tardy/baseline', body: { runId: null } })],
  ['post /collections/:c/indexes', () => ({ path: '/collections/stays/indexes', body: { keys: ['@.status', '@.n desc'] } })],
  ['get /collections/:c/indexes', () => ({ path: '/collections/stays/indexes' })],
  ['get /collections/:c/indexes/:name/users', () => ({ path: '/collections/stays/indexes/status_n_desc/users' })],
  ['get /collections/:c/indexes/:name/summary', () => ({ path: '/collections/stays/indexes/status_n_desc/summary' })],
  [
    'post /collections/:c/indexes/:name/recall',
    () => ({ path: '/collections/stays/indexes/status_n_desc/recall', body: { queries: 5 }, status: 422 }),
  ],
  ['post /collections/:c/check', () => ({ path: '/collections/stays/check' })],
  ['get /collections/:c/check', () => ({ path: '/collections/stays/check' })],
  ['delete /collections/:c/check', () => ({ path: '/collections/stays/check', status: 404 })],
  ['post /measure', () => ({ path: '/measure', body: { pipeline: late, index: 'status_n_desc', times: 2 } })],
  ['post /measure/pair', () => ({ path: '/measure/pair', body: { first: { pipeline: late }, second: { pipeline: late, ignoreIndexes: ['status_n_desc'] }, times: 2 } })], // prettier-ignore
  ['get /work', () => ({ path: '/work' })],
  ['delete /work/:id', () => ({ path: '/work/nothing', status: 404 })],
  ['get /runs', () => ({ path: '/runs?once=true&order=slowest' })],
  ['get /runs/:runId', () => ({ path: `/runs/${known.runId}` })],
  ['get /advice', () => ({ path: '/advice' })],
  ['post /what-if', () => ({ path: '/what-if', body: { indexes: [{ collection: 'stays', keys: ['@.n'] }] } })],
  ['get /settings', () => ({ path: '/settings' })],
  ['put /settings', () => ({ path: '/settings', body: { runsKept: 500 } })],
  ['post /changes/preview', () => ({ path: '/changes/preview', body: { change: `${late}\nset @.n = @.n + 1`, size: 2 } })],
  ['post /changes', () => ({ path: '/changes', body: { change: `${late}\nset @.n = @.n + 1` } })],
  ['get /changes', () => ({ path: '/changes' })],
  ['get /changes/:id', () => ({ path: `/changes/${known.changeId}` })],
  ['get /changes/:id/documents', () => ({ path: `/changes/${known.changeId}/documents?size=2` })],
  ['post /changes/:id/undo', () => ({ path: `/changes/${known.changeId}/undo` })],
  // What is not under way is not there.
  ['get /changes/progress/:track', () => ({ path: '/changes/progress/nobody', status: 404 })],
  ['get /imports/:track', () => ({ path: '/imports/nobody', status: 404 })],
  ['delete /collections/:c/indexes/:name/build', () => ({ path: '/collections/stays/indexes/nobody/build', status: 404 })],
  ['delete /collections/:c/indexes/:name', () => ({ path: '/collections/stays/indexes/status_n_desc' })],
  ['get /databases', () => ({ path: '/databases' })],
  ['post /databases', () => ({ path: '/databases', body: { name: 'second' } })],
  ['post /databases/:db/copy-collection', () => ({ path: '/databases/test/copy-collection', body: { collection: 'stays', to: 'second' } })],
  ['patch /databases/:db', () => ({ path: '/databases/second', body: { name: 'third' } })],
  ['get /databases/:db/backup', () => ({ path: '/databases/third/backup' })],
  ['post /databases/:db/restore', () => ({ path: '/databases/third/restore', body: 'no database at all', headers: { 'content-type': 'application/vnd.sqlite3' }, status: 400 })], // prettier-ignore
  ['delete /databases/:db', () => ({ path: '/databases/third?name=third' })],
  ['get /backup', () => ({ path: '/backup' })],
  ['patch /collections/:c', () => ({ path: '/collections/kept', body: { name: 'other' } })],
  ['delete /collections/:c/documents', () => ({ path: '/collections/other/documents' })],
  ['put /publications/:name', () => ({ path: '/publications/tardy-stays', body: { pipeline: 'tardy', access: 'key' } })],
  ['get /publications', () => ({ path: '/publications' })],
  ['get /publications/:name', () => ({ path: '/publications/tardy-stays' })],
  ['post /publications/:name/keys', () => ({ path: '/publications/tardy-stays/keys', body: { name: 'board' } })],
  ['get /publications/:name/keys', () => ({ path: '/publications/tardy-stays/keys' })],
  ['get /published/:name', () => ({ path: '/published/tardy-stays?size=2', headers: { authorization: `Bearer ${known.key}` } })],
  ['get /published/:name/form', () => ({ path: '/published/tardy-stays/form', headers: { authorization: `Bearer ${known.key}` } })],
  ['delete /publications/:name/keys/:id', () => ({ path: `/publications/tardy-stays/keys/${known.keyId}` })],
  ['delete /publications/:name', () => ({ path: '/publications/tardy-stays' })],
  ['delete /pipelines/:name', () => ({ path: '/pipelines/tardy' })],
  ['delete /collections/:c', () => ({ path: '/collections/other' })],
];

/** Keeps what a call gave that later ones ask for. */
export function remember(name: string, body: Record<string, unknown>): void {
  if (name === 'post /query') known.runId = String(body.runId);
  if (name === 'post /publications/:name/keys') [known.key, known.keyId] = [String(body.key), String(body.id)];
  if (name === 'post /changes') known.changeId = String(body.changeId);
}
