import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { TestServer } from './server.ts';

const root = join(__dirname, '../../..');
const text = readFileSync(join(root, 'docs/sql.md'), 'utf8');
const codeIn = (cell: string): string => [...cell.matchAll(/`([^`]+)`/g)].map(([, code]) => code!.replaceAll('\\|', '|')).join('\n');
const rows = [...text.matchAll(/^\| (.+) \| (`.+`) \|$/gm)].map(([, first, second]) => [first!, codeIn(second!)] as const);
const examples = rows.filter(([first]) => !first.startsWith('`')).map(([, sql]) => sql);
const pairs = rows.filter(([first]) => first.startsWith('`')).map(([first, sql]) => [codeIn(first), sql] as const);

describe('what is said of SQL', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await new TestServer().start();
    const loaded = spawnSync(process.execPath, [join(root, 'demo/dist/main.js'), server.address, '0.05']);
    expect(loaded.status).toBe(0);
  });
  afterAll(() => server.remove());

  test('has an example of each part', () => expect([examples.length > 40, pairs.length]).toEqual([true, 8]));

  test.each(examples.map((sql) => ({ sql })))('$sql', async ({ sql }) => {
    const asked = { sql, parameters: { region: 'Larch Ridge' } };
    const { status, body } = await server.call<{ rowsReturned: number; detail?: string; diagnostics: object[] }>('POST', '/sql', asked);
    expect({ status, detail: body.detail, warnings: body.diagnostics }).toEqual({ status: 200, detail: undefined, warnings: [] });
    expect(body.rowsReturned).toBeGreaterThan(0);
  });

  test.each(pairs.map(([pipeline, sql]) => ({ pipeline, sql })))('$sql is that pipeline', async ({ pipeline, sql }) => {
    const { body } = await server.call<{ pipeline: string }>('POST', '/sql/translate', { sql });
    const compared = await server.call('POST', '/compare', { first: { pipeline }, second: { pipeline: body.pipeline } });
    expect(compared.body).toMatchObject({ sameSet: true, counts: { differing: 0 } });
  });
});
