import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The package that `npm run package` makes, with what npm would fetch for it linked from here. `npm run package -- --try` fetches it. */

const root = join(__dirname, '../../..');
const place = mkdtempSync(join(tmpdir(), 'zesty-sieve-packed-'));
const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-package-'));
let child: ChildProcess | undefined;
afterAll(() => {
  child?.kill('SIGTERM');
  for (const one of [place, folder]) rmSync(one, { recursive: true, force: true });
});

/** What its manifest asks for and is not in the file, from where it is installed here. */
function linkFetched(): void {
  const { dependencies, bundleDependencies } = JSON.parse(readFileSync(join(place, 'package/package.json'), 'utf8')) as { dependencies: Record<string, string>; bundleDependencies: string[] }; // prettier-ignore
  for (const name of Object.keys(dependencies).filter((one) => !bundleDependencies.includes(one))) {
    const from = ['apps/server', 'packages/core', 'packages/contract', '.'].map((one) => join(root, one, 'node_modules', name)).find((one) => existsSync(one)); // prettier-ignore
    symlinkSync(from ?? '', join(place, 'package/node_modules', name));
  }
}

test('packed, it starts from an empty folder, opens a file, answers, has its pages, and keeps its data there', async () => {
  const made = spawnSync(process.execPath, ['scripts/pack.mjs', '--built', `--into=${place}`], { cwd: root, encoding: 'utf8' });
  expect([made.status, made.stdout]).toEqual([0, expect.stringMatching(/zesty-sieve-.*\.tgz: [\d.]+ MB/)]);
  const [file = ''] = readdirSync(place).filter((name) => name.endsWith('.tgz'));
  expect(spawnSync('tar', ['xzf', file], { cwd: place }).status).toBe(0);
  linkFetched();
  writeFileSync(join(folder, 'huts.csv'), 'id,name\n1,Fern\n2,Tarn\n');
  const environment: NodeJS.ProcessEnv = { ...process.env, HOST: '127.0.0.1', PORT: '0' };
  delete environment['ZESTY_SIEVE_DB'];
  child = spawn(process.execPath, [join(place, 'package/scripts/bin.mjs'), 'huts.csv'], { cwd: folder, env: environment, stdio: ['ignore', 'pipe', 'inherit'] }); // prettier-ignore
  let said = '';
  const address = await new Promise<string>((resolve, reject) => {
    child!.on('exit', () => reject(new Error(`it ended: ${said}`)));
    child!.stdout!.on('data', (piece: Buffer) => {
      said += piece.toString();
      const open = /^Open (http:\/\/[^/]+)/m.exec(said)?.[1];
      if (open !== undefined) resolve(open);
    });
  });
  const asked = await fetch(`${address}/api/query`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"pipeline": "from huts\\norder by @.name desc"}' }); // prettier-ignore
  expect((await asked.json()) as unknown).toMatchObject({ documents: [{ name: 'Tarn' }, { name: 'Fern' }] });
  expect(await (await fetch(`${address}/bench`)).text()).toContain('<div id="root">');
  expect(readdirSync(join(folder, 'zesty-sieve-data'))).toContain('zesty-sieve.db');
}, 60_000);
