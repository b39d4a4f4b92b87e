import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from './app.ts';

test('a file of 200,000 lines with three broken ones is loaded, and the three are told', async ({ page, app }) => {
  const broken = new Set([1_234, 77_777, 150_001]);
  const lines = Array.from({ length: 200_000 }, (_, i) =>
    broken.has(i + 1) ? '{"id": "broken' : JSON.stringify({ id: `e${i}`, kind: i % 3 ? 'walk' : 'climb', value: i % 1_000 }),
  );
  const file = join(app.folder, 'events.ndjson');
  writeFileSync(file, lines.join('\n') + '\n');

  await page.goto('/data');
  await page.getByRole('button', { name: 'New collection' }).click();
  await page.getByLabel('Name').fill('2nd');
  await expect(page.getByText('A name is a letter')).toBeVisible();
  await page.getByLabel('Name').fill('events');
  await page.getByRole('button', { name: 'Make it' }).click();
  await page.getByLabel('File to load').setInputFiles(file);
  await expect(page.getByRole('table', { name: 'Shape of the first documents' })).toContainText('@.kind');
  await page.getByRole('button', { name: 'Load it' }).click();

  const progress = page.getByRole('progressbar', { name: 'Loading' });
  await expect.poll(async () => Number(await progress.getAttribute('aria-valuenow').catch(() => 100))).toBeGreaterThan(0);
  // The page answers while the file is on its way.
  await page.getByRole('button', { name: 'Fields' }).click();
  await expect(page.getByLabel('Find a field')).toBeVisible();
  await page.getByRole('button', { name: 'Load', exact: true }).click();
  await expect(page.getByRole('link', { name: /events/ })).toContainText('199,997 documents', { timeout: 60_000 });
});

test('rejected lines are listed with their numbers; a collection is removed by its name', async ({ page }) => {
  await page.goto('/data');
  await page.getByRole('button', { name: 'New collection' }).click();
  await page.getByLabel('Name').fill('notes');
  await page.getByRole('button', { name: 'Make it' }).click();
  const text = '{"id": 1, "at": "2026-01-02"}\n{"id": 1}\nnot json\n{"id": 2, "at": "2026-01-03"}\n';
  await page
    .getByLabel('File to load')
    .setInputFiles({ name: 'notes.ndjson', mimeType: 'application/x-ndjson', buffer: Buffer.from(text) });
  await page.getByRole('button', { name: 'Load it' }).click();
  const done = page.getByRole('status').filter({ hasText: 'stored' });
  await expect(done).toContainText('2 documents stored, 2 lines rejected');
  await expect(done.getByRole('row')).toHaveText([/line 2.*the identity "1" is taken/, /line 3.*it is no JSON/]);
  await page.getByRole('button', { name: 'Documents', exact: true }).click();
  await expect(page.getByLabel('Documents', { exact: true })).toContainText('"2026-01-03"');
  await page.getByRole('button', { name: 'Fields' }).click();
  await expect(page.getByRole('table', { name: 'Fields' })).toContainText('2026-01-02 to 2026-01-03');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Remove the collection' }).click();
  const remove = page.getByRole('button', { name: 'Remove 2 documents' });
  await expect(remove).toBeDisabled();
  await page.getByLabel('Name of the collection').fill('notes');
  await remove.click();
  await expect(page.getByRole('link', { name: /notes/ })).toHaveCount(0);
});
