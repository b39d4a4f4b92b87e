/*
 * `npm run package`: one package of all that is built, so that whoever has Node starts it with npx, without this folder.
 * `-- --built` takes what is built already; `-- --into=FOLDER` puts the file there; `-- --try` installs it in an empty folder, and starts it.
 */
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { build, install, root, run, say } from './steps.mjs';

const given = process.argv.slice(2);
const into = resolve(given.find((one) => one.startsWith('--into='))?.slice(7) ?? '.');
const read = (path) => JSON.parse(readFileSync(join(root, path, 'package.json'), 'utf8'));

/** Packages of this project that the server needs: they go along. */
const own = ['packages/core', 'packages/contract'];
/** What is copied as it is built; neither types nor maps are needed to run it. */
const built = ['apps/server/dist', 'apps/web/dist', 'packages/client/dist'];
const scripts = ['bin.mjs', 'start.mjs', 'openFiles.mjs', 'steps.mjs'];
const isNeeded = (path) => !/\.(d\.ts|map|tsbuildinfo)$/.test(path);

/** Lays the package out in a folder. */
function layOut(folder) {
  const copy = (from, to = from) => cpSync(join(root, from), join(folder, to), { recursive: true, filter: isNeeded });
  for (const path of built) copy(path);
  for (const name of scripts) copy(`scripts/${name}`);
  for (const name of ['README.md', 'CHANGELOG.md']) copy(name);
  const whole = read('.');
  const dependencies = { ...read('apps/server').dependencies };
  const bundled = own.map((path) => {
    const { name, version, type, exports, dependencies: needed = {} } = read(path);
    const place = `node_modules/${name}`;
    copy(`${path}/dist`, `${place}/dist`);
    writeFileSync(join(folder, place, 'package.json'), JSON.stringify({ name, version, type, exports }, null, 2));
    Object.assign(dependencies, needed);
    return [name, version];
  });
  const { name, version, description, license, type, engines } = whole;
  const manifest = {
    name,
    version,
    description,
    license,
    type,
    engines,
    bin: { [name]: 'scripts/bin.mjs' },
    // Those of this project are in the file itself; npm fetches the others.
    dependencies: { ...dependencies, ...Object.fromEntries(bundled) },
    bundleDependencies: bundled.map(([one]) => one),
    files: [...built, 'scripts', 'CHANGELOG.md'],
  };
  writeFileSync(join(folder, 'package.json'), JSON.stringify(manifest, null, 2));
}

/** Installs the file in an empty folder, starts it there, and asks it something. */
async function tryOut(file) {
  const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-try-'));
  writeFileSync(join(folder, 'huts.json'), '[{"id": 1, "name": "Fern"}]');
  writeFileSync(join(folder, 'package.json'), '{"private": true, "allowScripts": {"sqlite3": true}}');
  run('npm', ['install', '--no-audit', '--no-fund', file], { cwd: folder });
  const child = spawn(process.execPath, [join(folder, 'node_modules/zesty-sieve/scripts/bin.mjs'), 'huts.json'], { cwd: folder, env: { ...process.env, PORT: '0' }, stdio: ['ignore', 'pipe', 'inherit'] }); // prettier-ignore
  const address = await new Promise((found, failed) => {
    child.stdout.on('data', (piece) => {
      const open = /^Open (http:\/\/[^/]+)/m.exec(String(piece));
      if (open) found(open[1]);
    });
    child.on('exit', () => failed(new Error('it does not start')));
  });
  const response = await fetch(`${address}/api/query`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"pipeline": "from huts"}' }); // prettier-ignore
  const { documents } = await response.json();
  const page = await (await fetch(`${address}/bench`)).text();
  child.kill();
  rmSync(folder, { recursive: true, force: true });
  if (documents?.[0]?.name !== 'Fern' || !page.includes('<div id="root">')) throw new Error('it does not answer as it should');
  say('Installed in an empty folder, it starts, opens a file, answers, and has its pages.');
}

if (!given.includes('--built')) {
  install();
  build();
}
const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-package-'));
layOut(folder);
mkdirSync(into, { recursive: true });
const packed = spawnSync('npm', ['pack', '--json', '--pack-destination', into], { cwd: folder, encoding: 'utf8' });
if (packed.status !== 0) {
  process.stderr.write(packed.stderr);
  process.exit(1);
}
const [told] = Object.values(JSON.parse(packed.stdout));
rmSync(folder, { recursive: true, force: true });
const file = join(into, told.filename);
say(`${file}: ${(told.size / 1e6).toFixed(1)} MB, ${told.entryCount} files. Start it anywhere with: npx ${file}`);
if (given.includes('--try')) await tryOut(file);
