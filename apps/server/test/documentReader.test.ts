import fc from 'fast-check';
import type { JsonObject } from '@zesty-sieve/core';
import { DocumentReader } from '../src/engine/documentReader.ts';
import { Database } from '../src/storage/database.ts';
import type { StoredCollection } from '../src/storage/stored.ts';
import { createTable, tableOf } from '../src/storage/table.ts';

let database: Database;
let reader: DocumentReader;
beforeAll(async () => {
  database = await Database.open(':memory:');
  reader = new DocumentReader({ main: database, scratch: database });
});
afterAll(() => database.close());

let tables = 0;
type Stored = readonly (readonly [number, JsonObject])[];

/** @param bytes as the list of collections tells them: those of much are read with more care */
async function madeOf(documents: Stored, bytes = 0): Promise<StoredCollection> {
  const id = ++tables;
  await createTable(database, id);
  const rows = documents.map(([position, document]) => [position, `${position}`, JSON.stringify(document)]);
  await database.run(`INSERT INTO ${tableOf(id)} SELECT value ->> 0, value ->> 1, value ->> 2 FROM json_each(?)`, [JSON.stringify(rows)]);
  return { id, name: `c${id}`, identity: '@.id', count: documents.length, bytes, scratch: false, version: 1, isView: false, indexes: [], checked: true }; // prettier-ignore
}

async function readOf(stored: StoredCollection, from = 0, to = Infinity): Promise<Stored> {
  const found: [number, JsonObject][] = [];
  await reader.read(stored, { from, to }, (position, document) => void found.push([position, document]));
  return found;
}

/** Texts of ASCII alone, of one byte a letter beyond it, of two, of four; halves of a pair, and what JSON writes with a backslash. */
const letters = fc.constantFrom('plain', 'Zürich', 'é', 'Łódź', '山小屋', '🏔', '\ud800', '\u0000', '"\\\n', 'ends with ÿ', '');
const document = fc.record({ id: fc.nat(), text: letters, tags: fc.array(letters, { maxLength: 2 }) });

test('documents are read as they were written, in order of position, whatever letters they have and wherever positions are missing', async () => {
  const positions = fc.uniqueArray(fc.nat(60), { maxLength: 30 }).map((some) => some.sort((a, b) => a - b));
  await fc.assert(
    fc.asyncProperty(positions, fc.array(document, { minLength: 30, maxLength: 30 }), fc.nat(60), fc.nat(60), async (at, some, a, b) => {
      const documents = at.map((position, i) => [position, some[i]!] as const);
      const stored = await madeOf(documents, a % 2 === 0 ? 0 : much);
      expect(await readOf(stored)).toEqual(documents);
      const [from, to] = [Math.min(a, b), Math.max(a, b)];
      expect(await readOf(stored, from, to)).toEqual(documents.filter(([position]) => position >= from && position < to));
    }),
    { numRuns: 150 },
  );
});

test('more than are fetched at once come whole, with progress, and mixed', async () => {
  const documents = Array.from(
    { length: 7_001 },
    (_, i) => [i * 2 + 5, { id: i, text: i % 3 === 0 ? `Łódź ${i}` : `plain ${i}` }] as const,
  );
  const stored = await madeOf(documents);
  expect(await readOf(stored)).toEqual(documents);
  const told: number[] = [];
  await reader.read(
    stored,
    { from: 0, to: Infinity },
    () => undefined,
    (count) => void told.push(count),
  );
  expect(told.at(-1)).toBe(7_001);
  expect(told.length).toBeGreaterThan(1);
});

const much = 1024 ** 3;

test('documents that together are more than a text can hold come one part after another', async () => {
  const stored = { ...(await madeOf([])), bytes: 620 * 1024 * 1024, count: 20 };
  // Each has 30 MB; every fourth is not ASCII.
  await database.run(
    `WITH RECURSIVE n(n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM n WHERE n < 19)
     INSERT INTO ${tableOf(stored.id)} SELECT n, n, json_object('id', n, 'text', iif(n % 4 = 0, 'é', '') || hex(zeroblob(15 * 1024 * 1024))) FROM n`,
  );
  const told: number[] = [];
  const lengths: number[] = [];
  await reader.read(
    stored,
    { from: 0, to: Infinity },
    (_, { text }) => void lengths.push((text as string).length - 30 * 1024 * 1024),
    (count) => void told.push(count),
  );
  expect(lengths).toEqual(Array.from({ length: 20 }, (_, i) => (i % 4 === 0 ? 1 : 0)));
  expect(told).toEqual([3, 6, 9, 12, 15, 18, 20]);
  await database.run(`DROP TABLE ${tableOf(stored.id)}`);
}, 60_000);

test('a table that is missing is said to be, and whoever stops in the middle leaves nothing locked', async () => {
  const stored = await madeOf(Array.from({ length: 5_000 }, (_, i) => [i, { id: i }] as const));
  const stop = () => {
    throw new Error('enough');
  };
  await expect(reader.read(stored, { from: 0, to: Infinity }, stop)).rejects.toThrow('enough');
  await database.run(`DROP TABLE ${tableOf(stored.id)}`);
  await expect(readOf(stored)).rejects.toThrow('no such table');
});
