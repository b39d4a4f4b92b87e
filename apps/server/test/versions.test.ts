import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { DataTypes } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { Database } from '../src/storage/database.ts';
import { copyBefore, migrate, migrations } from '../src/storage/migrate.ts';
import type { Migration } from '../src/storage/migrations/migration.ts';
import { beginning } from '../src/storage/migrations/001-beginning.ts';
import { createTable, tableOf } from '../src/storage/table.ts';
import type { CheckState, CollectionCheck } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

const server = new TestServer();
afterAll(() => server.remove());
const file = join(server.folder, 'test.db');

/** A database as the first version left it. */
async function writeFirstVersion(): Promise<void> {
  const database = await Database.open(file);
  const { sequelize } = database;
  const storage = new SequelizeStorage({ sequelize, modelName: 'migrations' });
  await new Umzug({ migrations: [beginning], context: sequelize.getQueryInterface(), storage, logger: undefined }).up();
  await database.run("INSERT INTO collections (id, name, identity, count, bytes, nextPosition) VALUES (1, 'huts', '@.id', 2, 40, 2)");
  await createTable(database, 1);
  for (const [i, bunks] of [30, 12].entries())
    await database.run(`INSERT INTO ${tableOf(1)} VALUES (?, ?, ?)`, [i, `h${i}`, `{"id":"h${i}","bunks":${bunks},"region":"north"}`]);
  await database.run(
    `INSERT INTO indexes (collectionId, name, definition, createdAt) VALUES (1, 'bunks', '{"keys":["@.bunks"]}', '2025-01-01T00:00:00Z')`,
  );
  // Taken by versions that did not look: documents that share what is unique, and a key that changes from day to day.
  for (const [name, definition] of [
    ['one-region', '{"name":"one-region","keys":["@.region"],"unique":true}'],
    ['today', '{"name":"today","keys":["date_diff(\\"day\\", @.since, now())"]}'],
  ])
    await database.run("INSERT INTO indexes (collectionId, name, definition, createdAt) VALUES (1, ?, ?, '2025-01-01T00:00:00Z')", [
      name,
      definition,
    ]);
  await database.run(
    "INSERT INTO pipelines (name, pipeline, view, updatedAt) VALUES ('large', 'from huts\nwhere @.bunks > 20', 1, '2025-01-01T00:00:00Z')",
  );
  await database.close();
}

test('a database of the first version is migrated, with all that it holds', async () => {
  await writeFirstVersion();
  await server.start();
  const answer = await server.call<{ documents: unknown[] }>('POST', '/query', { pipeline: 'from large' });
  expect(answer.body.documents).toEqual([{ id: 'h0', bunks: 30, region: 'north' }]);
  expect(
    (await server.call<{ indexes: { name: string }[] }>('GET', '/collections/huts/indexes')).body.indexes.map(({ name }) => name),
  ).toContain('bunks');
  const done = await server.call('POST', '/changes', { change: 'from huts\nset @.bunks = 1' });
  expect(done).toMatchObject({ status: 200, body: { changed: 2, kept: true } });
  await server.kill('SIGTERM');
});

test('its indexes are held against its documents once, by themselves', async () => {
  await server.start();
  const look = async () => (await server.call<CheckState>('GET', '/collections/huts/check')).body;
  let state = await look();
  while (state.last === null) state = await look();
  expect(state.last).toMatchObject({ documents: 2, sound: false });
  expect(state.last.indexes.map(({ name, sound, rebuilt }) => [name, sound, rebuilt])).toEqual([
    ['identity', true, false],
    ['bunks', true, false],
    ['one-region', true, false],
  ]);
  expect(state.last.problems.map(({ index, reason }) => [index, reason.slice(0, 40)])).toEqual([
    ['one-region', 'Several documents have "north", so that '],
    ['today', 'It is not used. The key date_diff("day",'],
  ]);
  // Whoever asks is answered all the same.
  const answer = await server.call<{ rowsReturned: number }>('POST', '/query', { pipeline: 'from huts\nwhere @.region == "north"' });
  expect(answer.body.rowsReturned).toBe(2);
  const again = await server.call<CollectionCheck>('POST', '/collections/huts/check');
  expect([again.status, again.body.sound]).toEqual([200, false]);
  await server.kill('SIGTERM');
  await server.start();
  // Not another time.
  expect((await look()).last?.at).toBe(again.body.at);
  await server.kill('SIGTERM');
});

test('a database of a later version is refused with words, and left as it is', async () => {
  const database = await Database.open(file);
  await migrate(database, file);
  await database.run("INSERT INTO migrations (name) VALUES ('900-later')");
  await database.close();
  await expect(server.start()).rejects.toThrow('ended with 1');
  expect(server.said).toMatch(
    /written by a newer version of Zesty Sieve \(it has the step 900-later\)\. Start that version, or name another file/,
  );
  const after = await Database.open(file);
  expect(await after.all('SELECT body FROM documents_1')).toHaveLength(2);
  await after.close();
});

test('a step that is cut off half way has not been made, and the file is kept as it was before', async () => {
  const halfWay: Migration = {
    name: '006-half-way',
    up: async ({ context }) => {
      await context.addColumn('collections', 'half', { type: DataTypes.TEXT });
      throw new Error('the power went');
    },
  };
  const whole: Migration = { ...halfWay, up: ({ context }) => context.addColumn('collections', 'half', { type: DataTypes.TEXT }) };
  const path = join(server.folder, 'steps.db');
  const open = await Database.open(path);
  await migrate(open, path);
  await open.run("INSERT INTO collections (name, identity) VALUES ('kept', '@.id')");
  expect(existsSync(copyBefore(path))).toBe(false);
  await expect(migrate(open, path, [...migrations, halfWay])).rejects.toThrow('the power went');
  const copy = await Database.open(copyBefore(path));
  expect(await copy.all('SELECT name FROM collections')).toEqual([{ name: 'kept' }]);
  await copy.close();
  expect(statSync(copyBefore(path)).mode & 0o077).toBe(0);
  // The start after it makes the step; the copy stays until one has had nothing to do.
  await migrate(open, path, [...migrations, whole]);
  expect(await open.all('SELECT name, half FROM collections')).toEqual([{ name: 'kept', half: null }]);
  expect(existsSync(copyBefore(path))).toBe(true);
  await migrate(open, path, [...migrations, whole]);
  expect(existsSync(copyBefore(path))).toBe(false);
  await open.close();
});
