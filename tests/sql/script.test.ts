import { tableScript, type Json } from '@zesty-sieve/core';
import { postgres } from './postgres.ts';
import { Sqlite } from './sqlite.ts';

const documents: Record<string, Json>[] = [
  { id: 'a', name: "o'clock", party: { size: 3 }, 'odd "name"': [1, null, true] },
  { id: '7', name: 'back\\slash \n line', party: { size: null } },
  { id: 'é😀', name: null, fee: 2.5 },
];
const indexes = [
  { name: 'by_size', keys: ['@.party.size desc', '@.name'], unique: false },
  { name: 'by_id', keys: ['@.id'], unique: true },
  { name: 'by_tag', keys: ['@.tags[*]'], unique: false },
  { name: 'words', keys: ['@.name'], unique: false, kind: 'text' },
];
const rows = documents.map((one) => ({ identity: String(one['id']), body: JSON.stringify(one) }));
const text = (dialect: 'sqlite' | 'postgresql'): string => {
  const script = tableScript('my huts', indexes, dialect);
  return script.before + script.rows(rows.slice(0, 2)) + script.rows(rows.slice(2)) + script.after;
};

test('a collection’s script runs in SQLite: the same documents, and indexes that serve what is written for it', async () => {
  const sqlite = new Sqlite();
  await sqlite.run(text('sqlite'));
  const found = await sqlite.all('SELECT id, body FROM "my huts" ORDER BY rowid');
  expect(found.map(({ body }) => JSON.parse(body as string) as Json)).toEqual(documents);
  const plan = await sqlite.all(`EXPLAIN QUERY PLAN SELECT body FROM "my huts" WHERE body ->> '$.party.size' = 3`);
  expect(JSON.stringify(plan)).toContain('by_size');
  expect(text('sqlite')).toContain('-- The index by_tag on @.tags[*] is not written');
  expect(text('sqlite')).toContain('-- The index words on @.name is not written: it is a text index');
  await sqlite.close();
});

test('and in PostgreSQL', () => {
  const names = "SELECT indexname FROM pg_indexes WHERE tablename = 'my huts' ORDER BY 1";
  const [found, made] = postgres(text('postgresql'), ['SELECT body FROM "my huts" ORDER BY id COLLATE "C"', names]);
  expect(found!.rows!.map(({ body }) => body)).toEqual([...documents].sort((a, b) => (String(a['id']) < String(b['id']) ? -1 : 1)));
  expect(made!.rows!.map(({ indexname }) => indexname)).toEqual(['by_id', 'by_size', 'my huts_pkey']);
}, 60_000);
