import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(import.meta.dirname, '..');

interface Running {
  readonly address: string;
  readonly folder: string;
  readonly restart: () => Promise<void>;
  /** Ends the server at once, as a power cut would; `begin` starts it again where it was. */
  readonly kill: () => Promise<void>;
  readonly begin: () => Promise<void>;
}

/** The application on the demo data, once for each worker. */
export const test = base.extend<{ bench: Bench; mayThrow: RegExp | undefined }, { app: Running }>({
  app: [
    // eslint-disable-next-line no-empty-pattern -- the fixture needs no other, and this is how that is said
    async ({}, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-e2e-'));
      let child: ChildProcess | undefined;
      const start = async (port: string) => {
        const started = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
          env: {
            ...process.env,
            HOST: '127.0.0.1',
            PORT: port,
            ZESTY_SIEVE_DB: join(folder, 'demo.db'),
            ZESTY_SIEVE_DATABASES: join(folder, 'databases'),
          },
          stdio: ['ignore', 'pipe', 'inherit'],
        });
        child = started;
        return new Promise<string>((resolve) => {
          started.stdout.on('data', (piece: Buffer) => {
            const found = /http:\/\/\S+/.exec(piece.toString());
            if (found) resolve(found[0]);
          });
        });
      };
      const address = await start('0');
      const loaded = spawnSync(process.execPath, [join(root, 'demo/dist/main.js'), address, '1', '--plain'], {
        stdio: ['ignore', 'ignore', 'inherit'],
      });
      expect(loaded.status).toBe(0);
      const stop = (signal?: NodeJS.Signals) => new Promise<void>((resolve) => (child?.once('exit', () => resolve()), child?.kill(signal)));
      const begin = async () => void (await start(new URL(address).port));
      await use({
        address,
        folder,
        restart: async () => {
          await stop();
          await begin();
        },
        kill: () => stop('SIGKILL'),
        begin,
      });
      await stop();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: async ({ app }, use) => use(app.address),
  /** What a test makes the page throw on purpose. */
  mayThrow: [undefined, { option: true }],
  // What the page throws and nobody catches may break nothing that a test looks at: it is a fault all the same.
  page: async ({ page, mayThrow }, use, { title, errors }) => {
    const thrown: string[] = [];
    page.on('pageerror', ({ stack, message }) => void thrown.push(stack ?? message));
    await use(page);
    // Where the picture of a failure cannot be looked at, what stands on the page tells most of it.
    if (errors.length > 0) console.error(`${title}: ${page.url()}\n${await page.locator('body').innerText()}`.slice(0, 3_000));
    expect(
      thrown.filter((one) => mayThrow?.test(one) !== true),
      'what the page threw',
    ).toEqual([]);
  },
  bench: async ({ page }, use) => use(new Bench(page)),
});

export { expect };

/** Puts a text in place of what stands in an editor, line by line; what is offered on the way is passed over. */
export async function writeLines(page: Page, editor: Locator, text: string): Promise<void> {
  await editor.click();
  await page.keyboard.press('Control+A');
  await page.keyboard.press('Delete');
  for (const [i, line] of text.split('\n').entries()) {
    if (i > 0) await page.keyboard.press('Enter');
    await page.keyboard.insertText(line);
    await page.keyboard.press('Escape');
  }
}

/** The Bench as a person uses it. */
export class Bench {
  readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }

  get editor() {
    return this.page.getByRole('textbox', { name: 'Pipeline' });
  }

  /** Puts a pipeline in place of what stands there, line by line. */
  async write(text: string): Promise<void> {
    await writeLines(this.page, this.editor, text);
  }

  async run(): Promise<void> {
    const answered = this.page.waitForResponse(
      (response) => response.url().endsWith('/api/query') && !(response.request().postData() ?? '').includes('readAtMost'),
    );
    await this.page.keyboard.press('Control+Enter');
    await answered;
  }

  /** The rows that the margin shows, line by line. */
  marginRows() {
    return this.page.locator('.zs-margin-row b');
  }

  get cost() {
    return this.page.getByTestId('cost-sentence');
  }

  /** The texts of a column of the output, as far as they are in sight. */
  async column(name: string): Promise<string[]> {
    const table = this.page.getByRole('table', { name: 'Output' });
    // Rows are drawn a moment after the table; where there are none, none come.
    await table
      .getByRole('row')
      .nth(1)
      .waitFor({ timeout: 2_000 })
      .catch(() => undefined);
    const headers = await table.getByRole('columnheader').allInnerTexts();
    const at = headers.indexOf(name);
    const rows = await table.getByRole('row').all();
    const cells = await Promise.all(rows.slice(1).map((row) => row.getByRole('cell').nth(at).innerText()));
    return cells;
  }
}
