import { availableParallelism } from 'node:os';
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, statSync, utimesSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const npm = process.platform === 'win32' ? 'npm.cmd' : 'npm';

export function say(line) {
  process.stdout.write(`${line}\n`);
}

/** Runs a command to its end, showing what it prints; ends this process where it fails. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', shell: process.platform === 'win32', ...options });
  if (status !== 0) {
    process.stderr.write(`\n${[command, ...args].join(' ')} failed.\n`);
    process.exit(status ?? 1);
  }
}

function works(command, args = ['--version']) {
  return spawnSync(command, args, { stdio: 'ignore' }).status === 0;
}

/** Installs Debian packages where that may be done here, and says which ones are needed where not. */
function needPackages(packages, what) {
  const isRoot = process.getuid?.() === 0;
  if (isRoot && works('apt-get')) {
    say(`Installing ${packages.join(', ')} (${what})`);
    const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    run('apt-get', ['update', '-q'], { env: environment });
    run('apt-get', ['install', '-q', '-y', ...packages], { env: environment });
    return;
  }
  process.stderr.write(`${what} is missing. Install it first, on Debian: sudo apt-get install ${packages.join(' ')}\n`);
  process.exit(1);
}

function sqliteIsBuilt() {
  return existsSync(join(root, 'node_modules/sqlite3/build/Release/node_sqlite3.node'));
}

/** Node's own version is the one thing that cannot be mended from here. */
function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  process.stderr.write(`Zesty Sieve needs Node 20.19 or later; this is ${process.version}.\n`);
  process.exit(1);
}

/** Installs what package-lock.json names, where it is not installed yet. */
export function install() {
  checkNode();
  const lock = join(root, 'package-lock.json');
  const done = join(root, 'node_modules/.package-lock.json');
  if (existsSync(done) && statSync(done).mtimeMs >= statSync(lock).mtimeMs && sqliteIsBuilt()) return;
  if (!works('python3') || !works('make') || !works('g++')) needPackages(['python3', 'make', 'g++'], 'A compiler for SQLite');
  say('Installing packages; SQLite is compiled, which takes about two minutes');
  // Not `npm ci`: that would compile SQLite again whenever the lock file changes.
  run(npm, ['install', '--no-save', '--no-audit', '--no-fund']);
  const now = new Date();
  utimesSync(done, now, now);
  if (!sqliteIsBuilt()) run(npm, ['rebuild', 'sqlite3', '--foreground-scripts']);
}

export function build() {
  say('Building');
  run(process.execPath, ['node_modules/typescript/bin/tsc', '-b']);
  run(npm, ['run', 'build', '--workspace', 'apps/web', '--silent']);
}

export const chromium = '/usr/bin/chromium';

export function needChromium() {
  if (!existsSync(chromium)) needPackages(['chromium'], 'Chromium');
}

/** Threads that collect memory: Node has four of them even where there are two processors, which they take from whoever answers. */
const collectors = `--v8-pool-size=${Math.min(4, Math.max(1, availableParallelism() - 1))}`;

/** Starts the built server and waits for its address. */
export function startServer(environment = {}) {
  const child = spawn(process.execPath, [collectors, 'apps/server/dist/main.js'], {
    cwd: root,
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const address = new Promise((resolve, reject) => {
    let text = '';
    child.stdout.on('data', (piece) => {
      text += piece;
      const found = /http:\/\/\S+/.exec(text);
      if (found) resolve(found[0]);
    });
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return { child, address };
}

/** One that ends again so soon would not stay if it were started again. */
const stayedMs = 10_000;

/**
 * Keeps the built server running until this process is told to end. What was acknowledged is on disk, so that a server that was
 * brought down, by the system or by the code that it is built on, can be started again at once, at the address that it had.
 * @returns the address at which it is
 */
export async function keepServer(environment = {}) {
  let isEnding = false;
  let running;
  const begin = async (more) => {
    const began = Date.now();
    const { child, address } = startServer({ ...environment, ...more });
    running = child;
    child.on('exit', (code, signal) => {
      const isBroughtDown = signal !== null || code > 1;
      if (isEnding || !isBroughtDown || Date.now() - began < stayedMs) process.exit(code ?? 1);
      say(`The server was brought down (${signal ?? code}), and is started again. Nothing that it acknowledged is lost.`);
      begin(kept).catch(() => undefined);
    });
    return address;
  };
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.on(signal, () => {
      isEnding = true;
      running.kill(signal);
    });
  const kept = {};
  const at = await begin({});
  kept.PORT = new URL(at).port;
  return at;
}
