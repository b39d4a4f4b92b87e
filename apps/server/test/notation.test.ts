import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { TestServer } from './server.ts';

const root = join(__dirname, '../../..');
const text = readFileSync(join(root, 'docs/notation.md'), 'utf8');
const stageWords =
  /^(?:from|where|select|omit|compute|order by|offset|limit|sample|unnest|join|left join|gather join|group by|group all|rank|dense rank|row number) /;
const examples = [...text.matchAll(/(?<!`)`((?:[^`])+)`(?!`)/g)]
  .map(([, code]) => code.replaceAll('\\|', '|'))
  .filter((code) => stageWords.test(code) && !/\b(?:NAME|COND|ITEM|EXPR|PATH|N|AGG|KEY|late_parties)\b/.test(code));

describe('the reference of the notation', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await new TestServer().start();
    const loaded = spawnSync(process.execPath, [join(root, 'demo/dist/main.js'), server.address, '0.01']);
    expect(loaded.status).toBe(0);
  });
  afterAll(() => server.remove());

  test('has examples of every kind', () => expect(examples.length).toBeGreaterThan(50));

  test.each(examples)('%s', async (example) => {
    const pipeline = example.startsWith('from') ? example : `from huts\n${example}`;
    const { status, body } = await server.call<{ rowsReturned: number; detail?: string }>('POST', '/query', { pipeline });
    expect(body.detail).toBeUndefined();
    expect(status).toBe(200);
    // What asks for fields that are there in no hut, or for a rare one, may find nothing; all else finds some.
    if (!example.includes('fold(')) expect(body.rowsReturned).toBeGreaterThan(0);
  });

  test('forms that stand side by side find the same huts', async () => {
    const rows = [...text.matchAll(/^\|[^|]*\| `(where [^`]*)` \| `(where [^`]*)` \|$/gm)];
    expect(rows.length).toBe(8);
    for (const [, first, second] of rows) {
      const { body } = await server.call('POST', '/compare', {
        first: { pipeline: `from huts\n${first}` },
        second: { pipeline: `from huts\n${second}` },
      });
      expect({ second, ...body }).toMatchObject({ sameSet: true, sameOrder: true });
    }
  });
});
