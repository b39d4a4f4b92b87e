import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, install, needChromium, root, say } from './steps.mjs';

install();
needChromium();
build();

const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-tests-'));
let passed = 0;
let failed = 0;

/** Runs a tool; gives whether it ended well. */
function tool(title, args, environment = {}) {
  say(`\n${title}`);
  return spawnSync(process.execPath, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...environment } }).status === 0;
}

function check(title, args) {
  if (tool(title, args)) passed++;
  else failed++;
}

function read(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return undefined;
  }
}

check('Types of the tests', ['node_modules/typescript/bin/tsc', '-p', 'tsconfig.tests.json']);
check('Types of the tests of the interface', ['node_modules/typescript/bin/tsc', '-p', 'apps/web/tsconfig.tests.json']);
check('Types of the interface', ['node_modules/typescript/bin/tsc', '-p', 'apps/web']);
check('Types of the browser tests', ['node_modules/typescript/bin/tsc', '-p', 'e2e']);
check('Faults that can be planted', ['scripts/mutations.mjs', '--check']);
check('Lint', ['node_modules/eslint/bin/eslint.js', '.']);
check('Layout', ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.']);

const skipped = [];

/** Runs some of the unit tests, and counts them. What starts servers is run by itself, since it looks at how long they take. */
function unitTests(title, projects, workers) {
  const file = join(folder, `${projects[0]}.json`);
  const args = [
    'node_modules/jest/bin/jest.js',
    '--silent',
    `--maxWorkers=${workers}`,
    '--json',
    `--outputFile=${file}`,
    '--selectProjects',
  ];
  const ended = tool(title, [...args, ...projects]);
  const unit = read(file);
  const wrong = unit ? unit.numFailedTests + unit.numRuntimeErrorTestSuites : 1;
  passed += unit?.numPassedTests ?? 0;
  failed += wrong === 0 && !ended ? 1 : wrong;
  for (const { assertionResults } of unit?.testResults ?? [])
    for (const { status, fullName } of assertionResults) if (status === 'pending' || status === 'todo') skipped.push(fullName);
}

unitTests('Unit tests', ['core', 'web', 'torture', 'sql'], 2);
unitTests('Server tests', ['server', 'ask'], 1);

const e2eFile = join(folder, 'e2e.json');
const e2eEnded = tool(
  'The interface, in a browser',
  ['node_modules/@playwright/test/cli.js', 'test', '--config', 'e2e/playwright.config.ts'],
  {
    PLAYWRIGHT_JSON_OUTPUT_NAME: e2eFile,
  },
);
const report = read(e2eFile);
const e2e = report?.stats;
const visit = ({ suites = [], specs = [] }) => {
  for (const { title, tests } of specs) if (tests.some(({ status }) => status === 'skipped')) skipped.push(title);
  suites.forEach(visit);
};
visit(report ?? {});
passed += (e2e?.expected ?? 0) + (e2e?.flaky ?? 0);
failed += e2e ? e2e.unexpected : 1;
if (!e2eEnded && e2e?.unexpected === 0) failed++;

rmSync(folder, { recursive: true, force: true });
// One that is skipped says nothing of what it is for, so it is named.
if (skipped.length > 0) say(`\nSkipped: ${skipped.join('; ')}`);
say(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
