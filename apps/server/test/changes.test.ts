import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { changeInfo, changeList, changedDocumentPage, changeResult, previewResult, type ChangeInfo } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start({ ZESTY_SIEVE_UNDO_MB: '1' });
});
afterAll(() => server.remove());

let made = 0;
const huts = () =>
  Array.from({ length: 60 }, (_, i) => ({ id: `h${i}`, altitudeM: 1_000 + i * 30, fee: { night: 40 + (i % 5) }, fittings: ['stove'] }));
async function collection(documents: unknown[] = huts()): Promise<string> {
  const name = `k${++made}`;
  await server.call('POST', '/collections', { name });
  await server.call('POST', `/collections/${name}/documents`, documents);
  return name;
}
const exported = async (name: string) => (await server.call<string>('GET', `/collections/${name}/export`)).body;
const count = async (pipeline: string) => (await server.call<{ rowsReturned: number }>('POST', '/query', { pipeline })).body.rowsReturned;
const apply = async (change: string) => changeResult.parse((await server.call('POST', '/changes', { change })).body);

test('a change is previewed without writing, made, told of, and taken back', async () => {
  const name = await collection();
  const before = await exported(name);
  await server.call('POST', `/collections/${name}/indexes`, { keys: ['@.fee.night'] });
  const change = `from ${name}\nwhere @.altitudeM > 2400\nset @.fee.night = @.fee.night + 100\nappend "lamp" to @.fittings`;
  const preview = previewResult.parse((await server.call('POST', '/changes/preview', { change, size: 2 })).body);
  expect([preview.matched, preview.changed, preview.repeats, preview.keeps, preview.hasMore]).toEqual([13, 13, 13, true, true]);
  expect(preview.sample[1]).toMatchObject({
    identity: 'h48',
    before: { fee: { night: 43 } },
    after: { fee: { night: 143 }, fittings: ['stove', 'lamp'] },
  });
  expect([preview.plan.step, preview.plan.rows, preview.plan.inputs[0].step]).toEqual(['change', preview.changed, 'full scan']);
  expect(await exported(name)).toBe(before);

  const done = await apply(change);
  expect([done.matched, done.changed, done.identities.length, done.kept]).toEqual([13, 13, 13, true]);
  expect(await count(`from ${name}\nwhere @.fee.night > 100`)).toBe(13);
  const [listed] = changeList.parse((await server.call('GET', `/changes?collection=${name}`)).body).changes;
  expect(listed).toMatchObject({ id: done.changeId, change, changed: 13, changedSince: 0, kept: true });
  const page = changedDocumentPage.parse((await server.call('GET', `/changes/${done.changeId}/documents?size=1`)).body);
  expect(page).toMatchObject({
    hasMore: true,
    documents: [{ identity: 'h47', before: { fee: { night: 42 } }, after: { fee: { night: 142 } } }],
  });

  expect((await server.call('POST', `/changes/${done.changeId}/undo`)).body).toEqual({ restored: 13 });
  expect(await exported(name)).toBe(before);
  expect(await count(`from ${name}\nwhere @.fee.night > 100`)).toBe(0);
  expect((await server.call('POST', `/changes/${done.changeId}/undo`)).status).toBe(409);
});

test('deleted documents come back in their places; what was changed since is not overwritten', async () => {
  const name = await collection();
  const before = await exported(name);
  const deletion = await apply(`from ${name}\nwhere @.altitudeM < 1100\ndelete`);
  expect(await count(`from ${name}`)).toBe(56);
  await server.call('POST', `/collections/${name}/documents`, { id: 'h2', again: true });
  const refused = await server.call<{ identities: string[] }>('POST', `/changes/${deletion.changeId}/undo`);
  expect([refused.status, refused.body.identities]).toEqual([409, ['h2']]);
  expect(changeInfo.parse((await server.call('GET', `/changes/${deletion.changeId}`)).body).changedSince).toBe(1);
  await server.call('DELETE', `/collections/${name}/documents/h2`);
  expect((await server.call('POST', `/changes/${deletion.changeId}/undo`)).status).toBe(200);
  expect(await exported(name)).toBe(before);

  const raised = await apply(`from ${name}\nwhere @.id == "h7"\nset @.fee.night = 1`);
  await server.call('PATCH', `/collections/${name}/documents/h7`, '{"fee": {"night": 2}}', {
    'content-type': 'application/merge-patch+json',
  });
  expect((await server.call('POST', `/changes/${raised.changeId}/undo`)).status).toBe(409);
  expect((await server.call<{ fee: object }>('GET', `/collections/${name}/documents/h7`)).body.fee).toEqual({ night: 2 });
});

test('a unique index refuses the whole change and names the values', async () => {
  const name = await collection();
  await server.call('POST', `/collections/${name}/indexes`, { keys: ['@.altitudeM'], unique: true });
  const before = await exported(name);
  const refused = await server.call('POST', '/changes', { change: `from ${name}\nwhere @.altitudeM < 1090\nset @.altitudeM = 7` });
  expect(refused).toMatchObject({ status: 422, body: { type: '/problems/unique', values: [7] } });
  expect(await exported(name)).toBe(before);
  expect((await apply(`from ${name}\nset @.altitudeM = @.altitudeM + 30`)).changed).toBe(60);
});

test('errors of a change are told with their place, and a change of nothing is none', async () => {
  const name = await collection();
  const wrong = await server.call('POST', '/changes', { change: `from ${name}\nlimit 3\nset @.a = 1` });
  expect(wrong).toMatchObject({
    status: 422,
    body: { type: '/problems/pipeline', diagnostics: [{ code: 'not-in-change', line: 2 }] },
  });
  expect(await server.call('POST', '/changes/preview', { change: 'from nowhere\ndelete' })).toMatchObject({
    status: 422,
    body: { diagnostics: [{ code: 'unknown-collection' }, { code: 'changes-all' }] },
  });
  expect(await apply(`from ${name}\nwhere @.altitudeM < 0\nset @.a = 1`)).toMatchObject({ matched: 0, changed: 0, identities: [] });
  expect((await server.call('POST', '/changes', { change: `from ${name}\nset @.a = :p` })).status).toBe(422);
  expect((await server.call('POST', '/changes', { change: `from ${name}\nset @.a = :p`, parameters: { p: [1] } })).body).toMatchObject({
    changed: 60,
  });
});

test('what is too large to be kept is changed, and said to be for good', async () => {
  const name = await collection(Array.from({ length: 900 }, (_, i) => ({ id: i, text: 'x'.repeat(1_000) })));
  const preview = previewResult.parse((await server.call('POST', '/changes/preview', { change: `from ${name}\nset @.n = 1` })).body);
  expect(preview.keeps).toBe(false);
  const done = await apply(`from ${name}\nset @.n = 1`);
  expect([done.changed, done.kept]).toEqual([900, false]);
  expect((await server.call('POST', `/changes/${done.changeId}/undo`)).status).toBe(410);
  // Smaller ones are kept until others have taken their room.
  const small = await apply(`from ${name}\nwhere @.id < 200\nset @.n = 2`);
  expect(small.kept).toBe(true);
  await apply(`from ${name}\nwhere @.id < 400\nset @.n = 3`);
  const kept = (await server.call<{ changes: ChangeInfo[] }>('GET', `/changes?collection=${name}`)).body.changes.map(
    (change) => change.kept,
  );
  expect(kept).toEqual([true, false, false]);
});

test('a collection is renamed and emptied; a scratch collection is gone with the server', async () => {
  const name = await collection();
  await server.call('POST', '/collections', { name: 'scratched', scratch: true });
  await server.call('POST', '/collections/scratched/import', '{"id":1}\n{"id":2}', { 'content-type': 'application/x-ndjson' });
  expect(await count('from scratched')).toBe(2);
  expect((await server.call('PATCH', `/collections/${name}`, { name: 'scratched' })).status).toBe(409);
  expect((await server.call('PATCH', `/collections/${name}`, { name: 'renamed' })).body).toMatchObject({ name: 'renamed', count: 60 });
  expect(await count('from renamed')).toBe(60);
  expect((await server.call('GET', `/collections/${name}`)).status).toBe(404);
  await server.kill('SIGTERM');
  await server.start({ ZESTY_SIEVE_UNDO_MB: '1' });
  expect((await server.call('GET', '/collections/scratched')).status).toBe(404);
  expect(await count('from renamed')).toBe(60);
  expect((await server.call('DELETE', '/collections/renamed/documents')).body).toEqual({ removed: 60 });
  expect(await count('from renamed')).toBe(0);
  await server.call('POST', '/collections/renamed/documents', { id: 'h1' });
  expect(await count('from renamed')).toBe(1);
});

test('a change that is cancelled half way leaves nothing changed', async () => {
  const name = await collection(Array.from({ length: 40_000 }, (_, i) => ({ id: i, n: 0, text: 'x'.repeat(200) })));
  const before = await exported(name);
  const abort = new AbortController();
  const making = fetch(`${server.address}/api/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ change: `from ${name}\nset @.n = 1`, track: 'half' }),
    signal: abort.signal,
  });
  for (;;) {
    const { status, body } = await server.call<{ documents: number; of: number }>('GET', '/changes/progress/half');
    if (status === 200 && body.documents > 0) {
      expect(body.documents).toBeLessThan(body.of);
      break;
    }
  }
  abort.abort();
  await expect(making).rejects.toThrow();
  // What comes after it waits for its end.
  expect((await server.call('POST', `/collections/${name}/documents`, { id: 'after' })).status).toBe(201);
  expect((await exported(name)).trimEnd()).toBe(`${before.trimEnd()}\n{"id":"after"}`);
  expect(await count(`from ${name}\nwhere @.n == 1`)).toBe(0);
  expect((await server.call<{ changes: unknown[] }>('GET', `/changes?collection=${name}`)).body.changes).toEqual([]);
});

test('what changes is told to whoever listens', async () => {
  const name = await collection();
  const response = await fetch(`${server.address}/api/events`);
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let heard = '';
  const listening = (async () => {
    while (!heard.includes(`"documents","collection":"${name}"`)) heard += (await reader?.read())?.value ?? '';
  })();
  await apply(`from ${name}\nset @.n = 1`);
  await listening;
  await reader?.cancel();
});

test('a backup taken while the server runs is a database that another server starts on; a damaged one is told of', async () => {
  const name = await collection();
  const bytes = new Uint8Array(await (await fetch(`${server.address}/api/backup`)).arrayBuffer());
  const other = new TestServer();
  writeFileSync(join(other.folder, 'test.db'), bytes);
  try {
    await other.start();
    expect((await other.call('GET', `/collections/${name}`)).body).toMatchObject({ count: 60 });
  } finally {
    await other.remove();
  }
  const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-damaged-'));
  try {
    const file = join(folder, 'test.db');
    writeFileSync(file, 'this is no database, and long enough not to be empty '.repeat(50));
    await expect(new TestServer().start({ ZESTY_SIEVE_DB: file })).rejects.toThrow('ended with 1');
    expect(readFileSync(file, 'utf8')).toContain('this is no database');
  } finally {
    rmSync(folder, { recursive: true });
  }
});
