import { readFileSync } from 'node:fs';
import type { Download, Locator, Page } from '@playwright/test';
import { expect, test } from './app.ts';

interface SavedPlan {
  readonly pipeline: string;
  readonly plan: { readonly step: string; readonly rows: number; readonly inputs: readonly SavedPlan['plan'][] };
  readonly weighed: readonly { readonly way: string; readonly chosen: boolean }[];
  readonly cost: { readonly documentsRead: number };
}

async function savedFrom(page: Page, button: Locator): Promise<{ name: string; content: SavedPlan }> {
  const started: Promise<Download> = page.waitForEvent('download');
  await button.click();
  const download = await started;
  return { name: download.suggestedFilename(), content: JSON.parse(readFileSync(await download.path(), 'utf8')) as SavedPlan };
}

test('a build shows how far it is, is cancelled, and is built after all from the Bench', async ({ page, bench, request }) => {
  await request.post('/api/collections', { data: { name: 'stays', identity: '@.id' } });
  const lines = Array.from({ length: 150_000 }, (_, i) => JSON.stringify({ id: i, name: `Guest ${(i * 7_919) % 150_000}`, size: i % 13 }));
  await request.post('/api/collections/stays/import', { headers: { 'content-type': 'application/x-ndjson' }, data: lines.join('\n') });
  await page.goto('/indexes/stays');
  const indexes = page.getByRole('table', { name: 'Indexes' });
  await expect(indexes.getByRole('row')).toHaveCount(2);
  await page
    .getByLabel('Keys')
    .fill('fold(@.name), upper(@.name), lower(@.name), concat(@.name, "a"), concat(@.name, "b"), concat("c", @.name)');
  await page.getByLabel('Name (optional)').fill('slow');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const builds = page.getByRole('region', { name: 'Being built' });
  await expect(builds).toContainText(/Building slow: .*%/);
  await builds.getByRole('button', { name: 'Cancel building slow' }).click();
  await expect(page.getByText('The building of slow was cancelled.')).toBeVisible();
  await expect(builds).toHaveCount(0);
  await expect(indexes.getByRole('row')).toHaveCount(2);
  // What was asked for still stands in the form.
  await expect(page.getByLabel('Name (optional)')).toHaveValue('slow');

  await page.getByRole('link', { name: 'Bench' }).click();
  await bench.write('from stays\nwhere fold(@.name) == "guest 77"');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  const plan = page.getByLabel('Plan', { exact: true });
  await bench.editor.click();
  await bench.run();
  await plan.getByRole('button', { name: 'Build and run again' }).first().click();
  await expect(page.getByRole('region', { name: 'Before and after' })).toContainText(/150,000 → 1(?!\d)/);
});

test('the plan of a run is saved as JSON, and so is the plan of a kept run', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from members\nwhere @.joinedOn < "2019-01-01"\norder by @.name\nlimit 7');
  await bench.run();
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  const here = await savedFrom(page, page.getByRole('button', { name: 'Save as JSON' }));
  expect(here.name).toMatch(/\.json$/);
  expect(here.content.pipeline).toContain('order by @.name');
  expect([here.content.plan.step, here.content.plan.rows]).toEqual(['top-N sort', 7]);
  expect(here.content.plan.inputs[0].step).toBe('full scan');
  expect(here.content.weighed.filter(({ chosen }) => chosen)).toHaveLength(1);

  await page.getByRole('link', { name: 'Runs' }).click();
  await page.getByLabel('Part of the pipeline’s text').fill('"2019-01-01"');
  await page.getByLabel('Part of the pipeline’s text').press('Enter');
  await page.getByRole('table', { name: 'Runs' }).getByRole('row').nth(1).click();
  const run = page.getByRole('region', { name: 'Run', exact: true });
  const kept = await savedFrom(page, run.getByRole('button', { name: 'Save as JSON' }));
  expect(kept.content.cost.documentsRead).toBe(8_000);
  expect(kept.content.plan.step).toBe('top-N sort');
});
