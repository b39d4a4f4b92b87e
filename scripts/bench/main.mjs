import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildAtOnce, Engine, readDefinition } from '../../packages/core/dist/index.js';
import { network } from '../../demo/dist/network.js';
import { Database } from '../../apps/server/dist/storage/database.js';
import { Residency } from '../../apps/server/dist/engine/residency.js';
import { startServer } from '../steps.mjs';
import { alone, compare } from './compare.mjs';
import { benchIndexes } from './indexes.mjs';
import { benchMembers, benchPipelines } from './pipelines.mjs';
import { benchSql } from './sql.mjs';

const count = Number(process.argv[2] ?? 500_000);
const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-bench-'));
const say = (line) => process.stdout.write(`${line}\n`);
const nf = new Intl.NumberFormat('en');

say(
  `${nf.format(count)} bookings of the demo network; medians of alternating runs in one process, for three seconds or longer, after a second to warm up; what is measured alone, after it gets no faster. Ratios below 1 mean that the engine is faster.\n`,
);
const { document } = network(1).find(({ name }) => name === 'bookings');
const texts = Array.from({ length: count }, (_, i) => JSON.stringify(document(i)));

// The same documents in SQLite, with the indexes that one would make there.
const file = join(folder, 'bench.db');
const database = await Database.open(file);
await database.run('CREATE TABLE documents_1 (position INTEGER PRIMARY KEY, identity TEXT NOT NULL UNIQUE, body TEXT NOT NULL) STRICT');
await database.transaction(async () => {
  for (let i = 0; i < count; i += 500) {
    const part = texts.slice(i, i + 500);
    const values = part.flatMap((text, k) => [i + k, JSON.parse(text).id, text]);
    await database.run(`INSERT INTO documents_1 VALUES ${part.map(() => '(?,?,?)').join(',')}`, values);
  }
});

const host = { pause: () => new Promise((resolve) => setImmediate(resolve)), newId: () => 'run', now: () => new Date() };
const engine = new Engine(host);
const stored = { id: 1, name: 'bookings', identity: '@.id', count, bytes: texts.reduce((sum, text) => sum + text.length, 0), indexes: [] };
const documents = texts.map((text) => JSON.parse(text));
const collection = engine.define('bookings', '@.id');
documents.forEach((one, position) => collection.store.put(position, one));
void collection.identityIndex;

async function ask(pipeline, more = {}) {
  const answer = await engine.query({ pipeline, pageSize: 0, guards: { documentsRead: 1e9, memoryBytes: 4e9, timeMs: 1e6 }, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}
const rowCount = (result) => result.rowsReturned;

await compare({
  title: 'scan + filter',
  ours: async () => rowCount(await ask('from bookings\nwhere @.status == "late" && @.party.size >= 4')),
  other: () => {
    const rows = [];
    for (const one of documents) if (one.status === 'late' && typeof one.party.size === 'number' && one.party.size >= 4) rows.push(one);
    return rows.length;
  },
  against: 'a hand-written loop',
  goal: 1.5,
  times: 21,
  same: (a, b) => a === b,
});
await compare({
  title: 'scan + filter',
  ours: async () => rowCount(await ask('from bookings\nwhere @.status == "late" && @.party.size >= 4')),
  other: async () =>
    (
      await database.all(
        `SELECT position FROM documents_1 WHERE body ->> '$.status' = 'late' AND json_type(body, '$.party.size') = 'integer' AND body ->> '$.party.size' >= 4`,
      )
    ).length,
  against: 'SQLite, json functions',
  goal: 1,
  times: 3,
  same: (a, b) => a === b,
});
await compare({
  title: 'sort by a date',
  ours: async () => rowCount(await ask('from bookings\norder by @.bookedAt')),
  other: () => documents.map(({ bookedAt }) => bookedAt).sort((a, b) => (a < b ? -1 : a > b ? 1 : 0)).length,
  against: 'Array.sort on the keys',
  goal: 1.3,
  times: 7,
});
await compare({
  title: 'sort by a number',
  ours: async () => rowCount(await ask('from bookings\norder by @.party.size desc')),
  other: () => documents.map(({ party }) => Number(party.size)).sort((a, b) => b - a).length,
  against: 'Array.sort on the keys',
  goal: 1.3,
  times: 21,
});
await compare({
  title: 'top 20 by a date',
  ours: async () => rowCount(await ask('from bookings\norder by @.bookedAt\nlimit 20')),
  other: async () => (await database.all(`SELECT position FROM documents_1 ORDER BY body ->> '$.bookedAt' LIMIT 20`)).length,
  against: 'SQLite, json functions',
  goal: 1,
  times: 3,
});

await benchPipelines({ engine, ask, documents, database });
await benchMembers({ engine, ask, documents });
await benchSql({ engine, ask });

const store = collection.store;
await compare({
  title: 'building an index on two keys',
  ours: () => buildAtOnce(readDefinition({ keys: ['@.status', '@.arrivesOn desc'] }), store).entries,
  other: () =>
    documents
      .map(({ status, arrivesOn }, i) => ({ status, arrivesOn, i }))
      .sort((a, b) =>
        a.status < b.status ? -1 : a.status > b.status ? 1 : a.arrivesOn < b.arrivesOn ? 1 : a.arrivesOn > b.arrivesOn ? -1 : a.i - b.i,
      ).length,
  against: 'sorting its keys',
  goal: 1.5,
  times: 3,
});
await collection.buildIndex(readDefinition({ keys: ['@.status', '@.arrivesOn desc'] }), host.pause);
await database.run(`CREATE INDEX by_status ON documents_1 (body ->> '$.status', body ->> '$.arrivesOn' DESC)`);
await database.run('ANALYZE');
await alone({
  title: 'one document by identity',
  work: (i) => ask('from bookings\nwhere @.id == :id', { parameters: { id: documents[(i * 7919) % count].id } }),
  goalMs: 0.05,
});
await compare({
  title: 'index range, in order, first 20',
  ours: async () => rowCount(await ask('from bookings\nwhere @.status == "late"\norder by @.arrivesOn desc\nlimit 20')),
  other: async () =>
    (await database.all(`SELECT body FROM documents_1 WHERE body ->> '$.status' = 'late' ORDER BY body ->> '$.arrivesOn' DESC LIMIT 20`))
      .length,
  against: 'SQLite, the same index',
  goal: 1,
  times: 51,
  same: (a, b) => a === b,
});

await alone({
  title: 'the same, in the engine alone',
  work: () => ask('from bookings\nwhere @.status == "late"\norder by @.arrivesOn desc\nlimit 20'),
  goalMs: 0.1,
});
await benchIndexes({ engine, ask, collection, database, pause: host.pause });

const residency = new Residency(new Engine(host), { main: database, scratch: database }, 64e9, host.pause);
await compare({
  title: 'ready from SQLite',
  before: () => residency.forget(stored),
  ours: async () => (await residency.ensure(stored)).store.count,
  other: () => texts.map((text) => JSON.parse(text)).length,
  against: 'JSON.parse on the same text',
  goal: 1.4,
  times: 5,
  same: (a, b) => a === b,
});

// Over HTTP: loading, and one question by index.
const { child, address } = startServer({ ZESTY_SIEVE_DB: join(folder, 'server.db'), PORT: '0' });
const at = await address;
const call = (path, body) =>
  fetch(`${at}/api${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const small = Array.from({ length: count }, (_, i) => JSON.stringify({ id: `s-${i}`, hut: `h-${i % 120}`, n: i })).join('\n');
let load = 0;
await compare({
  title: 'loading small documents over HTTP',
  ours: async () => {
    const name = `small${++load}`;
    await call('/collections', { name });
    const response = await fetch(`${at}/api/collections/${name}/import`, {
      method: 'POST',
      headers: { 'content-type': 'application/x-ndjson' },
      body: small,
    });
    return (await response.json()).inserted;
  },
  other: async () => {
    const table = `plain_${load}`;
    await database.run(`CREATE TABLE ${table} (position INTEGER PRIMARY KEY, identity TEXT NOT NULL UNIQUE, body TEXT NOT NULL) STRICT`);
    const lines = small.split('\n');
    await database.transaction(async () => {
      for (let i = 0; i < count; i += 400) {
        const part = lines.slice(i, i + 400);
        await database.run(
          `INSERT INTO ${table} VALUES ${part.map(() => '(?,?,?)').join(',')}`,
          part.flatMap((line, k) => [i + k, `s-${i + k}`, line]),
        );
      }
    });
    return lines.length;
  },
  against: 'multi-row inserts alone',
  goal: 2,
  times: 1,
  same: (a, b) => a === b,
});
const started = performance.now();
await call('/collections', { name: 'rate' });
await fetch(`${at}/api/collections/rate/import`, { method: 'POST', headers: { 'content-type': 'application/x-ndjson' }, body: small });
say(`loading over HTTP: ${nf.format(Math.round(count / ((performance.now() - started) / 1000)))} small documents a second`);
// By a process of its own: what is measured is the server, and not what asks, which has two gigabytes for its collector to go through.
spawnSync(process.execPath, [join(import.meta.dirname, 'overHttp.mjs'), at, String(count)], { stdio: 'inherit' });

child.kill();
await database.close();
rmSync(folder, { recursive: true, force: true });

// In a process of its own: what stands above leaves two gigabytes behind, which whoever collects memory goes through.
spawnSync(process.execPath, [...process.execArgv, join(import.meta.dirname, 'search.mjs'), '84000', '500000'], { stdio: 'inherit' });
say('\nAgainst fair loops:');
spawnSync(process.execPath, [...process.execArgv, join(import.meta.dirname, 'fair.mjs'), '--fair', String(count)], { stdio: 'inherit' });
