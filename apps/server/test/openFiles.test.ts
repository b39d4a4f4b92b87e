import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ZestySieve } from '@zesty-sieve/client';

/** `npm start -- FILE…`: files as scratch collections, and the Bench on them; asked by the typed client. */

const root = join(__dirname, '../../..');
const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-files-'));
const lines = Array.from({ length: 2_500 }, (_, id) => JSON.stringify({ id, n: id % 7 })).join('\n');
const file = (name: string, content: string | Uint8Array) => {
  writeFileSync(join(folder, name), content);
  return join(folder, name);
};
const environment = {
  ...process.env,
  HOST: '127.0.0.1',
  PORT: '0',
  ZESTY_SIEVE_DB: join(folder, 'files.db'),
  ZESTY_SIEVE_DATABASES: folder,
};
let child: ChildProcess | undefined;
afterAll(() => {
  child?.kill('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
});

test('files of each kind are opened, the Bench on the first; the client reads all rows of them', async () => {
  const files = [file('stays 2026.ndjson.gz', gzipSync(lines)), file('huts.csv', 'id,name\n1,Fern\n2,Tarn\n'), file('members.json', '[{"name": "Vera"}]')]; // prettier-ignore
  child = spawn(process.execPath, ['scripts/start.mjs', ...files], { cwd: root, env: environment, stdio: ['ignore', 'pipe', 'inherit'] });
  let said = '';
  const bench = await new Promise<string>((resolve) => {
    child!.stdout!.on('data', (piece: Buffer) => {
      said += piece.toString();
      const open = /^Open (http\S+)$/m.exec(said);
      if (open?.[1] !== undefined) resolve(open[1]);
    });
  });
  expect(new URL(bench).searchParams.get('text')).toBe('from stays_2026\n');
  expect(said).toMatch(/2,500 documents in stays_2026 .*gone when this ends/);
  const client = new ZestySieve(new URL(bench).origin);
  expect((await client.collections()).map(({ name, count, scratch }) => [name, count, scratch]).sort()).toEqual([['huts', 2, true], ['members', 1, true], ['stays_2026', 2_500, true]]); // prettier-ignore
  const rows = [];
  for await (const row of client.rows('from stays_2026\nwhere @.n < 5')) rows.push(row);
  expect(rows).toHaveLength(lines.split('\n').filter((line) => (JSON.parse(line) as { n: number }).n < 5).length);
  await expect(client.query('from nowhere')).rejects.toMatchObject({ name: 'ZestySieveProblem', status: 422 });
  // What is published is read by its pages.
  await client.savePipeline('some', { pipeline: 'from stays_2026\nselect @.id' });
  await client.call('PUT', '/publications/some', { pipeline: 'some', maxRows: 1_000 });
  let published = 0;
  for await (const _ of client.published('some')) published++;
  expect(published).toBe(2_500);
});

test.each([
  [['nowhere.csv'], 'There is no file nowhere.csv.'],
  [['package.json', '--wide'], '--wide means nothing here'],
  [['README.md'], 'README.md is none that can be opened'],
])('%p is refused before anything is started', (given, words) => {
  const { status, stderr } = spawnSync(process.execPath, ['scripts/start.mjs', ...given], { cwd: root, env: environment });
  expect([status, stderr.toString()]).toEqual([2, expect.stringContaining(words) as string]);
});
