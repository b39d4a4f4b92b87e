import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Engine } from '@zesty-sieve/core';
import { Residency } from '../src/engine/residency.ts';
import { Database } from '../src/storage/database.ts';
import type { StoredCollection } from '../src/storage/stored.ts';
import { createTable, tableOf } from '../src/storage/table.ts';

const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-residency-'));
const megabyte = 1024 * 1024;
let database: Database;
let residency: Residency;
let engine: Engine;
beforeAll(async () => {
  database = await Database.open(join(folder, 'test.db'));
  engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'x', now: () => new Date() });
  residency = new Residency(engine, { main: database, scratch: database }, 4 * megabyte, () => Promise.resolve());
});
afterAll(async () => {
  await database.close();
  rmSync(folder, { recursive: true });
});

/** A collection of so many documents of some hundred bytes. */
async function made(id: number, name: string, count: number): Promise<StoredCollection> {
  await createTable(database, id);
  const bodies = Array.from({ length: count }, (_, i) => [i, JSON.stringify({ id: `${i}`, n: i, text: 'words '.repeat(20) })]);
  await database.run(
    `INSERT INTO ${tableOf(id)} (position, identity, body) SELECT value ->> 0, value ->> 0, value ->> 1 FROM json_each(?)`,
    [JSON.stringify(bodies)],
  );
  const bytes = bodies.reduce((sum, [, body]) => sum + String(body).length, 0);
  return { id, name, identity: '@.id', count, bytes, scratch: false, version: 1, isView: false, indexes: [], checked: true };
}
const inMemory = () => [...engine.collections.keys()].sort();

test('what is in memory is weighed as it is, not as it was when it came', async () => {
  const [a, b, c] = [await made(1, 'a', 2_000), await made(2, 'b', 2_000), await made(3, 'c', 2_000)];
  await residency.ensureAll([a, b]);
  const before = residency.heldBytes;
  expect(before).toBeGreaterThan(4_000 * 150);
  // It grows in memory, and its entry in the list does not know.
  await residency.follow(
    a,
    (collection) =>
    collection.apply(Array.from({ length: 8_000 }, (_, i) => ({ position: 2_000 + i, document: { id: `m${i}`, n: i, text: `more ${i} `.repeat(15) } }))), // prettier-ignore
  );
  expect(residency.heldBytes).toBeGreaterThan(before * 2);
  await residency.ensure(b);
  await residency.ensure(c);
  // The one that was used longest ago has left.
  expect(inMemory()).toEqual(['b', 'c']);
});

test('a name that is given to another collection is another collection', async () => {
  const second = await made(4, 'b', 10);
  expect((await residency.ensure(second)).store.count).toBe(10);
  residency.forget({ id: 2, name: 'b' });
  expect(inMemory()).toEqual(['b', 'c']);
  expect((await residency.ensure(second)).store.count).toBe(10);
});

test('what cannot follow is no longer what is stored, and leaves', async () => {
  const [c] = [...engine.collections.values()].filter(({ name }) => name === 'c');
  expect(c.store.count).toBe(2_000);
  const broken = residency.follow({ id: 3, name: 'c' }, () => Promise.reject(new Error('no')));
  await expect(broken).rejects.toThrow('no');
  expect(inMemory()).not.toContain('c');
});
