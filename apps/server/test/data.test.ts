import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { expectationCheck, importPreview, overlapList, shape, type ImportResult } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
});
afterAll(() => server.remove());

let made = 0;
async function collection(documents: unknown[] = [], identity?: string): Promise<string> {
  const name = `d${++made}`;
  await server.call('POST', '/collections', { name, ...(identity && { identity }) });
  if (documents.length > 0) await server.call('POST', `/collections/${name}/documents`, documents);
  return name;
}
const exported = async (name: string, format = 'ndjson') =>
  (await server.call<string>('GET', `/collections/${name}/export?format=${format}`)).body;
const lines = async (name: string) =>
  (await exported(name))
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as unknown);

describe('what a file holds is told before anything is stored', () => {
  const preview = async (body: string | Uint8Array, type: string, query = '', headers: Record<string, string> = {}) =>
    importPreview.parse((await server.call('POST', `/imports/preview${query}`, body, { 'content-type': type, ...headers })).body);

  test('the first documents, their shape, and what could be the identity', async () => {
    const text = Array.from({ length: 50 }, (_, i) => JSON.stringify({ no: i, key: `k${i}`, kind: i % 2 ? 'a' : 'b' })).join('\n');
    const whole = await preview(text, 'application/x-ndjson');
    expect([whole.documents.length, whole.identities]).toEqual([20, ['@.no', '@.key']]);
    expect(whole.shape.find(({ path }) => path === '@.kind')?.top).toHaveLength(2);
    const part = await preview(gzipSync(text).subarray(0, 120), 'application/x-ndjson', '?part=beginning', { 'content-encoding': 'gzip' });
    expect(part.problems).toEqual([]);
    expect(part.documents.length).toBeGreaterThan(2);
    const broken = await preview('{"a": 1}\n{"a": \n[1]', 'application/x-ndjson');
    expect(broken.problems.map(({ line }) => line)).toEqual([2, 3]);
  });

  test('a CSV: its delimiter, columns without a header, types of single columns', async () => {
    const text = 'no;size;paid;note\n007;4;true;a\n008;x;false;b\n';
    expect((await preview(text, 'text/csv')).delimiter).toBe(';');
    const options = '?delimiter=%3B&columns=no:text,size:number,note:skip';
    const typed = await preview(text, 'text/csv', options);
    expect(typed.documents).toEqual([{ no: '007', size: 4, paid: true }]);
    expect(typed.problems).toEqual([{ line: 3, reason: 'size is to be a number, and is "x"' }]);
    const name = await collection([], '@.no');
    const loaded = await server.call<ImportResult>('POST', `/collections/${name}/import${options}`, text, { 'content-type': 'text/csv' });
    expect(loaded.body).toMatchObject({ inserted: 1, rejected: [{ line: 3 }] });
    expect(await lines(name)).toEqual([{ no: '007', size: 4, paid: true }]);
    expect((await preview('1,2\n3,4\n', 'text/csv', '?header=no')).documents).toEqual([{ column1: 1, column2: 2 }, { column1: 3, column2: 4 }]); // prettier-ignore
  });
});

test('notes on a field stand in the shape, and go with their words', async () => {
  const name = await collection([{ id: 1, fee: 3 }]);
  const noteOf = async () =>
    shape.parse((await server.call('GET', `/collections/${name}/shape`)).body).fields.find(({ path }) => path === '@.fee');
  await server.call('PUT', `/collections/${name}/fields`, { path: '@.fee', note: 'what a night costs', unit: 'francs' });
  expect(await noteOf()).toMatchObject({ note: 'what a night costs', unit: 'francs', whole: 1, distinct: { count: 1, exact: true } });
  await server.call('PUT', `/collections/${name}/fields`, { path: '@.fee', note: '', unit: '' });
  expect((await noteOf())?.unit).toBeUndefined();
});

describe('what documents are expected to be like', () => {
  const schema = {
    type: 'object',
    required: ['fee'],
    properties: { fee: { type: 'number', minimum: 0 }, day: { type: 'string', format: 'date' } },
  };

  test('is refused on every way in, or told of, or only checked', async () => {
    const name = await collection([
      { id: 1, fee: 1 },
      { id: 2, fee: -4, day: '2026-02-30' },
    ]);
    expect((await server.call('POST', `/collections/${name}/expected/check`)).status).toBe(400);
    expect((await server.call('PUT', `/collections/${name}/expected`, { schema: { type: 'nonsense' }, mode: 'off' })).status).toBe(400);
    await server.call('PUT', `/collections/${name}/expected`, { schema, mode: 'refuse' });
    const check = expectationCheck.parse((await server.call('POST', `/collections/${name}/expected/check`)).body);
    expect(check).toEqual({
      checked: 2,
      failing: 1,
      examples: [{ identity: '2', problems: ['@.fee must be >= 0', '@.day must match format "date"'] }],
    });

    const refused = (await server.call('POST', `/collections/${name}/documents`, [{ id: 3, fee: 1 }, { id: 4 }])).body;
    expect(refused).toMatchObject({ type: '/problems/schema', identity: '4', problems: ["@ must have required property 'fee'"] });
    expect((await server.call('PUT', `/collections/${name}/documents/1`, { id: 1, fee: 'x' })).status).toBe(422);
    expect(
      (await server.call('PATCH', `/collections/${name}/documents/1`, '{"fee": null}', { 'content-type': 'application/merge-patch+json' }))
        .status,
    ).toBe(422);
    expect((await server.call('POST', '/changes', { change: `from ${name}\nwhere @.id == 1\nremove @.fee` })).status).toBe(422);
    const loaded = await server.call<ImportResult>('POST', `/collections/${name}/import`, '{"id":5,"fee":2}\n{"id":6,"day":"x"}', {
      'content-type': 'application/x-ndjson',
    });
    expect(loaded.body).toMatchObject({ inserted: 1, rejectedCount: 1 });
    expect((await lines(name)).length).toBe(3);

    await server.call('PUT', `/collections/${name}/expected`, { schema, mode: 'warn' });
    const warned = await server.call<{ warnings: string[] }>('POST', `/collections/${name}/documents`, { id: 7, fee: 1, day: 'soon' });
    expect([warned.status, warned.body.warnings]).toEqual([201, ['7: @.day must match format "date"']]);
  });
});

test('formats of JSON Schema are checked, each: a schema that names one is not passed over', async () => {
  const name = await collection([{ id: 1, host: '10.0.0.256', at: '25:00:00Z' }]);
  const properties = { host: { type: 'string', format: 'ipv4' }, at: { type: 'string', format: 'time' } };
  await server.call('PUT', `/collections/${name}/expected`, { schema: { properties }, mode: 'warn' });
  const { examples } = expectationCheck.parse((await server.call('POST', `/collections/${name}/expected/check`)).body);
  expect(examples).toEqual([{ identity: '1', problems: ['@.host must match format "ipv4"', '@.at must match format "time"'] }]);
});

test('fields of two collections whose values overlap are paired, the key first', async () => {
  const huts = await collection(Array.from({ length: 40 }, (_, i) => ({ id: `h${i}`, region: `r${i % 5}` })));
  const nights = await collection(
    Array.from({ length: 300 }, (_, i) => ({ id: i, hutId: `h${i % 30}`, legs: [{ to: `h${(i * 7) % 40}` }], fee: i % 40 })),
  );
  const { pairs } = overlapList.parse((await server.call('POST', '/overlaps', { first: nights, second: huts })).body);
  expect(pairs.slice(0, 2)).toEqual([
    expect.objectContaining({ first: '@.hutId', second: '@.id', share: 1, back: 0.75, common: 30 }),
    expect.objectContaining({ first: '@.legs[*].to', second: '@.id', share: 1, back: 1, common: 40, unique: [false, true] }),
  ]);
});

test('the shape of two thousand fields is told among three hundred collections', async () => {
  const named = (at: number) => `field_${at}_of_a_kind_${at % 7}`;
  const value = (at: number, id: number) => (at % 2 === 0 ? `text ${id} of ${at}` : id * at);
  const wide = (id: number) => ({
    id: `w-${id}`,
    ...Object.fromEntries(Array.from({ length: 2_000 }, (_, at) => [named(at), value(at, id)])),
  });
  for (let n = 0; n < 300; n++) await server.call('POST', '/collections', { name: `many_${n}` });
  for (let n = 0; n < 300; n++) await server.call('POST', `/collections/many_${n}/documents`, [{ id: `m-${n}` }]);
  await server.call('POST', '/collections', { name: 'wide' });
  await server.call(
    'POST',
    '/collections/wide/documents',
    Array.from({ length: 40 }, (_, id) => wide(id)),
  );
  const { body } = await server.call<{ fields: { path: string; oddities?: string[] }[] }>('GET', '/collections/wide/shape');
  expect(body.fields).toHaveLength(2_000);
  expect(body.fields.filter(({ oddities }) => oddities !== undefined)).toEqual([]);
  for (let n = 0; n < 300; n++) await server.call('DELETE', `/collections/many_${n}`);
  await server.call('DELETE', '/collections/wide');
});

test('the shape follows changes, and is given as a JSON Schema', async () => {
  const name = await collection(Array.from({ length: 20 }, (_, i) => ({ id: i, a: i })));
  const fieldsOf = async () =>
    shape.parse((await server.call('GET', `/collections/${name}/shape`)).body).fields.map(({ path, types }) => [path, types]);
  await fieldsOf();
  await server.call('POST', '/changes', { change: `from ${name}\nwhere @.id < 5\nset @.a = text(@.a), @.b = 1` });
  await server.call('DELETE', `/collections/${name}/documents/19`);
  expect(await fieldsOf()).toEqual([
    ['@.id', { number: 19 }],
    ['@.a', { text: 5, number: 14 }],
    ['@.b', { number: 5 }],
  ]);
  const schema = await fetch(`${server.address}/api/collections/${name}/json-schema`).then(
    (response) => response.json() as Promise<{ properties: object }>,
  );
  expect(schema.properties).toMatchObject({ a: { type: ['string', 'integer'] }, b: { type: 'integer' } });
});

test('whatever JSON goes in comes out equal: by import and export, and one document at a time', async () => {
  const name = fc.oneof(fc.string({ maxLength: 6 }), fc.constantFrom('__proto__', 'constructor', 'a.b', '', ' ', 'length', 'é"\\'));
  const json = fc.letrec<{ value: unknown }>((tie) => ({
    value: fc.oneof(
      { maxDepth: 3 },
      fc.string({ unit: 'grapheme', maxLength: 12 }),
      fc.double({ noNaN: true, noDefaultInfinity: true }).map((n) => (Object.is(n, -0) ? 0 : n)),
      fc.maxSafeInteger(),
      fc.boolean(),
      fc.constant(null),
      fc.array(tie('value'), { maxLength: 4 }),
      fc
        .array(fc.tuple(name, tie('value')), { maxLength: 4 })
        .map((entries) => JSON.parse(`{${entries.map(([k, v]) => `${JSON.stringify(k)}:${JSON.stringify(v)}`).join(',')}}`) as unknown),
    ),
  })).value;
  await fc.assert(
    fc.asyncProperty(fc.array(json, { minLength: 1, maxLength: 8 }), async (values) => {
      const documents = values.map((value, i) => ({ id: i, value }));
      const one = await collection();
      await server.call('POST', `/collections/${one}/import`, documents.map((document) => JSON.stringify(document)).join('\n'), {
        'content-type': 'application/x-ndjson',
      });
      expect(await lines(one)).toEqual(documents);
      const two = await collection();
      await server.call('POST', `/collections/${two}/import`, await exported(one, 'json'), { 'content-type': 'application/json' });
      for (const { id } of documents) expect((await server.call('GET', `/collections/${two}/documents/${id}`)).body).toEqual(documents[id]);
      const rows = await server.call<{ documents: unknown[] }>('POST', '/query', { pipeline: `from ${two}` });
      expect(rows.body.documents).toEqual(documents);
      await server.call('DELETE', `/collections/${one}`);
      await server.call('DELETE', `/collections/${two}`);
    }),
    { numRuns: 40 },
  );
});

test('flat documents come back equal through a CSV', async () => {
  const cell = fc.oneof(
    fc.string({ unit: 'grapheme', minLength: 1, maxLength: 10 }).filter((text) => !/^\s|\s$/.test(text)),
    fc.integer(),
    fc.boolean(),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(fc.record({ a: cell, b: cell }), { minLength: 1, maxLength: 10 }), async (rows) => {
      const documents = rows.map((row, i) => ({ id: i, ...row }));
      const one = await collection(documents);
      const two = await collection();
      await server.call('POST', `/collections/${two}/import`, await exported(one, 'csv'), { 'content-type': 'text/csv' });
      expect(await lines(two)).toEqual(documents);
    }),
    { numRuns: 30 },
  );
});

test('fields that hold identities of other collections are told', async () => {
  await server.call('POST', '/collections', { name: 'lodges' });
  await server.call('POST', '/collections', { name: 'stays' });
  await server.call(
    'POST',
    '/collections/lodges/documents',
    Array.from({ length: 50 }, (_, i) => ({ id: `l-${i}`, next: `l-${(i + 1) % 50}` })),
  );
  const stays = Array.from({ length: 300 }, (_, i) => ({
    id: i,
    at: { lodge: `l-${i % 50}` },
    size: i % 7,
    also: [`l-${i % 9}`, `m-${i}`],
  }));
  await server.call('POST', '/collections/stays/documents', stays);
  const formats = async (name: string) => {
    const { body } = await server.call<{ fields: { path: string; formats?: { format: string; share: number }[] }[] }>(
      'GET',
      `/collections/${name}/shape`,
    );
    return Object.fromEntries(body.fields.flatMap(({ path, formats: found }) => (found ? [[path, found]] : [])));
  };
  expect(await formats('stays')).toEqual({
    '@.at.lodge': [{ format: 'identity of lodges', share: 1 }],
  });
  expect(await formats('lodges')).toEqual({ '@.next': [{ format: 'identity of lodges', share: 1 }] });
});
