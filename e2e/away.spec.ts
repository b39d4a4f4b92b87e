import type { Page } from '@playwright/test';
import { expect, test } from './app.ts';

test('a server that is killed and started again under a half-typed pipeline loses nothing', async ({ page, bench, app }) => {
  await page.goto('/bench');
  await bench.write('from bookings\nwhere @.party.size >= 3');
  await app.kill();
  const banner = page.getByRole('alert').filter({ hasText: 'The server is away' });
  await expect(banner).toBeVisible();
  await bench.editor.press('Control+End');
  await page.keyboard.insertText(' && @.party.size < 9');
  await page.reload().catch(() => undefined);
  await app.begin();
  // Made while nobody was listening.
  expect((await page.request.put(`${app.address}/api/pipelines/made-meanwhile`, { data: { pipeline: 'from huts' } })).status()).toBe(200);
  await page.goto('/bench');
  await expect(banner).toBeHidden();
  await expect(bench.editor).toContainText('where @.party.size >= 3 && @.party.size < 9');
  await bench.run();
  await expect(bench.cost).toContainText('documents');

  // The same with the page staying open all along.
  await app.kill();
  await expect(banner).toBeVisible();
  await page.keyboard.press('Control+End');
  await page.keyboard.press('Enter');
  await page.keyboard.insertText('limit 7');
  await app.begin();
  expect((await page.request.put(`${app.address}/api/pipelines/made-again`, { data: { pipeline: 'from huts' } })).status()).toBe(200);
  await expect(banner).toBeHidden();
  await expect(bench.editor).toContainText('limit 7');
  await bench.run();
  await expect(page.getByRole('table', { name: 'Output' })).toBeVisible();
  await page.getByRole('button', { name: 'Pipelines' }).click();
  await expect(page.getByText('made-again')).toBeVisible();
  await page.keyboard.press('Escape');
  for (const name of ['made-meanwhile', 'made-again']) await page.request.delete(`${app.address}/api/pipelines/${name}`);
});

test('a screen that throws says so, and the others go on', async ({ page, bench }) => {
  await page.goto('/bench');
  await bench.write('from huts\nlimit 3');
  await page.route('**/api/collections/*/indexes', (route) => route.fulfill({ json: { indexes: [null], building: [] } }));
  await page.getByRole('link', { name: 'Indexes' }).click();
  const failed = page.getByRole('alert').filter({ hasText: 'This screen failed' });
  await expect(failed).toContainText('the pipelines that you are writing are kept');
  await page.getByRole('button', { name: 'Copy details' }).isEnabled();
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(bench.editor).toContainText('limit 3');
  await page.getByRole('link', { name: 'Indexes' }).click();
  await page.unroute('**/api/collections/*/indexes');
  if (await failed.isVisible()) await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('table').first()).toBeVisible();
});

test('eight windows use up no connections, and each hears of what happens; when one goes, the others go on', async ({ context, app }) => {
  const pages: Page[] = [];
  for (let i = 0; i < 8; i++) {
    const page = await context.newPage();
    await page.goto('/data/huts');
    await expect(page.getByRole('link', { name: /huts/ }).first()).toBeVisible();
    pages.push(page);
  }
  const make = (name: string) => pages[7].request.post(`${app.address}/api/collections`, { data: { name, identity: '@.id' } });
  await make('seen-by-all');
  for (const page of pages) await expect(page.getByText('seen-by-all').first()).toBeVisible();
  // The first has held the stream.
  await pages[0].close();
  await expect(async () => {
    const name = `later-${Date.now()}`;
    await make(name);
    for (const page of pages.slice(1)) await expect(page.getByText(name).first()).toBeVisible({ timeout: 2_000 });
    await pages[7].request.delete(`${app.address}/api/collections/${name}`);
  }).toPass();
  for (const { name } of (await (await pages[7].request.get(`${app.address}/api/collections`)).json()).collections)
    if (/^(seen|later)-/.test(name)) await pages[7].request.delete(`${app.address}/api/collections/${name}`);
});

test.describe('an upgrade meanwhile', () => {
  test.use({ mayThrow: /dynamically imported module/ });

  test('a part that is missing after an upgrade loads the page anew, once', async ({ page, bench }) => {
    await page.goto('/bench');
    await bench.write('from huts\nlimit 2');
    let missing = 0;
    await page.route('**/assets/RunsScreen*.js', async (route) => {
      if (missing++ === 0) await route.fulfill({ status: 404, body: 'gone' });
      else await route.continue();
    });
    await page.getByRole('link', { name: 'Runs' }).click();
    await expect(page.getByRole('heading', { name: 'Runs' }).first()).toBeAttached();
    await expect(async () => {
      await page.getByRole('link', { name: 'Runs' }).click();
      await expect(page.getByText(/runs? kept/).first()).toBeVisible({ timeout: 3_000 });
    }).toPass();
    expect(missing).toBeGreaterThan(1);
    await page.getByRole('link', { name: 'Bench' }).click();
    await expect(bench.editor).toContainText('limit 2');
  });
});

test('a file that is on its way when the server is killed is stored once, when it is back', async ({ page, app }) => {
  const name = `killed-${Date.now()}`;
  await page.request.post(`${app.address}/api/collections`, { data: { name, identity: '@.id' } });
  await page.goto(`/data/${name}`);
  // No identities: what is stored twice would be there twice.
  const lines = Array.from({ length: 60_000 }, (_, n) => JSON.stringify({ n, text: 'words '.repeat(30) })).join('\n');
  const answered = page.waitForResponse((response) => response.url().includes('/import?') && response.status() === 200, {
    timeout: 90_000,
  });
  await page.getByRole('button', { name: 'Load', exact: true }).click();
  await page
    .getByLabel('File to load')
    .setInputFiles({ name: 'lines.ndjson', mimeType: 'application/x-ndjson', buffer: Buffer.from(lines) });
  await page.getByRole('button', { name: 'Load it' }).click();
  await page.waitForTimeout(150);
  await app.kill();
  await app.begin();
  await answered;
  const { count } = (await (await page.request.get(`${app.address}/api/collections/${name}`)).json()) as { count: number };
  expect(count).toBe(60_000);
  await page.request.delete(`${app.address}/api/collections/${name}`);
});
