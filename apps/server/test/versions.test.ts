import { join } from 'node:path';
import { SequelizeStorage, Umzug } from 'umzug';
import { Database } from '../src/storage/database.ts';
import { migrate } from '../src/storage/migrate.ts';
import { beginning } from '../src/storage/migrations/001-beginning.ts';
import { createTable, tableOf } from '../src/storage/table.ts';
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
    await database.run(`INSERT INTO ${tableOf(1)} VALUES (?, ?, ?)`, [i, `h${i}`, `{"id":"h${i}","bunks":${bunks}}`]);
  await database.run(
    `INSERT INTO indexes (collectionId, name, definition, createdAt) VALUES (1, 'bunks', '{"keys":["@.bunks"]}', '2025-01-01T00:00:00Z')`,
  );
  await database.run(
    "INSERT INTO pipelines (name, pipeline, view, updatedAt) VALUES ('large', 'from huts\nwhere @.bunks > 20', 1, '2025-01-01T00:00:00Z')",
  );
  await database.close();
}

test('a database of the first version is migrated, with all that it holds', async () => {
  await writeFirstVersion();
  await server.start();
  const answer = await server.call<{ documents: unknown[] }>('POST', '/query', { pipeline: 'from large' });
  expect(answer.body.documents).toEqual([{ id: 'h0', bunks: 30 }]);
  expect(
    (await server.call<{ indexes: { name: string }[] }>('GET', '/collections/huts/indexes')).body.indexes.map(({ name }) => name),
  ).toContain('bunks');
  const done = await server.call('POST', '/changes', { change: 'from huts\nset @.bunks = 1' });
  expect(done).toMatchObject({ status: 200, body: { changed: 2, kept: true } });
  await server.kill('SIGTERM');
});

test('a database of a later version is refused with words, and left as it is', async () => {
  const database = await Database.open(file);
  await migrate(database);
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
