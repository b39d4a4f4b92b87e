import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { TestServer } from '../../server/test/server.ts';
import { isComplete, readStatement, statementsIn } from '../src/question.ts';

const main = join(__dirname, '../dist/main.js');
const home = mkdtempSync(join(tmpdir(), 'zesty-sieve-ask-'));
let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
  await server.call('POST', '/collections', { name: 'huts' });
  await server.call('POST', '/collections/huts/documents', Array.from({ length: 1_300 }, (_, i) => ({ id: i, name: `hut "${i}"`, region: i % 3 ? `r${i % 3}` : null }))); // prettier-ignore
});
afterAll(() => server.remove());
let onTestEnd: (() => void) | undefined;
afterEach(() => onTestEnd?.());

/** Runs the prompt's own process to its end. */
function ask(given: readonly string[], input?: string) {
  const done = spawnSync(process.execPath, [main, '--at', server.address, ...given], { input: input ?? '', encoding: 'utf8', env: { ...process.env, HOME: home } }); // prettier-ignore
  return { out: done.stdout, err: done.stderr, code: done.status };
}

test('a question is answered once, in each format, and rows stream beyond a page', () => {
  expect(ask(['SELECT id, region FROM huts WHERE id < 2']).out).toMatch(/│ id │ region │[^]*│ 0 {2}│ null {3}│/);
  expect(ask(['SELECT id, name FROM huts WHERE id = 7', '--format', 'csv']).out).toBe('id,name\n7,"hut ""7"""\n');
  expect(JSON.parse(ask(['SELECT id FROM huts LIMIT 2', '--format', 'json']).out)).toEqual([{ id: 0 }, { id: 1 }]);
  expect(ask(['from huts', '--format', 'ndjson']).out.trim().split('\n')).toHaveLength(1_300);
  expect(ask(['SELECT id FROM huts']).out.match(/│ 1299 │/g)).toHaveLength(1);
  expect(ask(['DESCRIBE huts', '--format', 'csv']).out).toContain('region,"null, text",1,');
});

test('a file is answered too, statement by statement, in SQL and in the notation', () => {
  const file = 'format ndjson;\nSELECT id\nFROM huts\nWHERE id = 3;\n\nfrom huts\nwhere @.id == 4\nselect @.id;\nplan;\n';
  const { out, err, code } = ask([], file);
  expect([out, code]).toEqual(['{"id":3}\n{"id":4}\n', 0]);
  expect(err).toContain('by identity');
});

test('faults go to standard error with a mark under their place, and an exit code', () => {
  const { out, err, code } = ask(['SELECT id,\n  nmae FROM hut']);
  expect([out, code]).toEqual(['', 1]);
  expect(err).toContain('  nmae FROM hut\n              ^^^\n  Write huts');
  expect(ask(['SELECT 1 FROM huts', '--format', 'xml']).code).toBe(2);
  const away = spawnSync(process.execPath, [main, '--at', 'http://127.0.0.1:1', 'SELECT 1 FROM huts'], { encoding: 'utf8' });
  expect([away.status, away.stderr]).toEqual([1, expect.stringContaining('No server answers at')]);
});

test('whoever has read enough closes the pipe, and that is no fault', async () => {
  const child = spawn(process.execPath, [main, '--at', server.address, 'SELECT * FROM huts', '--format', 'ndjson'], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  child.stdout.once('data', () => child.stdout.destroy());
  expect(await new Promise((resolve) => child.once('exit', resolve))).toBe(0);
});

test('at a terminal it prompts, completes a name with Tab, takes several lines, and quits', async () => {
  // A pseudo-terminal of util-linux; where there is none, the rest stands for it.
  if (spawnSync('script', ['--version']).status !== 0) return;
  writeFileSync(join(home, '.zesty-sieve-history'), '');
  const child = spawn('script', ['-qec', `${process.execPath} ${main} --at ${server.address}`, '/dev/null'], { env: { ...process.env, HOME: home, TERM: 'xterm' } });
  let shown = '';
  onTestEnd = () => child.kill('SIGKILL');
  child.stdout.on('data', (piece: Buffer) => (shown += piece.toString()));
  const until = async (text: string) => {
    for (let i = 0; i < 400 && !shown.includes(text); i++) await new Promise((resolve) => setTimeout(resolve, 25));
    expect(shown).toContain(text);
  };
  await until('ask>');
  child.stdin.write('select reg\t');
  await until('reg');
  child.stdin.write('\u0015select count(*) as n\n');
  await until('...>');
  child.stdin.write('from hu\t');
  await until('from huts');
  child.stdin.write('\n\n');
  await until('1300');
  child.stdin.write('plan;\n');
  await until('project:');
  // Ctrl+C ends a run that would go on for long, and takes back what is being written.
  child.stdin.write('select count(*) as many from huts as a cross join huts as b cross join huts as c;\n');
  await new Promise((resolve) => setTimeout(resolve, 500));
  child.stdin.write('\u0003');
  await until('The run was ended.');
  child.stdin.write('select oops\u0003');
  await until('select oops');
  child.stdin.write('select max(id) as most from huts;\n');
  await until('1299');
  child.stdin.write('quit;\n');
  expect(await new Promise((resolve) => child.once('exit', resolve))).toBe(0);
}); // prettier-ignore

test('the first word tells which language it is', () => {
  expect(readStatement('SELECT 1 FROM x;')).toEqual({ kind: 'question', question: { sql: 'SELECT 1 FROM x' } });
  expect(readStatement('# late\nfrom x')).toEqual({ kind: 'question', question: { pipeline: '# late\nfrom x' } });
  expect(readStatement('with late\n  from x\nfrom late').kind === 'question' && 'pipeline' in (readStatement('with late\n  from x\nfrom late') as { question: object }).question).toBe(true); // prettier-ignore
  expect(readStatement('WITH late AS (SELECT 1 FROM x) SELECT 1 FROM late')).toMatchObject({
    question: { sql: expect.any(String) as unknown },
  });
  expect([isComplete('select 1'), isComplete('select 1;'), isComplete('quit')]).toEqual([false, true, true]);
  expect(statementsIn('a;\nb\nc;\nd')).toEqual(['a;\n', 'b\nc;\n', 'd\n']);
});
