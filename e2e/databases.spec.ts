import { Bench, expect, test } from './app.ts';

test('another database is made, filled by a copy, and left and found again with its own tabs', async ({ page, bench }) => {
  // Databases are made, copied, renamed and removed: each waits for a disk.
  test.setTimeout(180_000);
  await page.goto('/bench');
  await bench.write('from huts\nlimit 3');
  const menu = page.getByRole('button', { name: /^Database / });
  await menu.click();
  await expect(page.getByText(/^It lies in /)).toBeVisible();
  await page.getByRole('menuitem', { name: 'New database' }).click();
  await page.getByRole('dialog', { name: 'New database' }).getByLabel('Name').fill('archive');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page).toHaveURL(/\/d\/archive\/bench/);
  await expect(menu).toHaveAccessibleName('Database archive');
  await bench.write('# the archive');

  // Back where it was, the tab is as it was left; a collection is copied over.
  await menu.click();
  await page.getByRole('menuitem', { name: /the one that the server was started on/ }).click();
  await expect(page).toHaveURL(/^[^/]+\/\/[^/]+\/bench/);
  await expect(page.getByRole('textbox', { name: 'Pipeline' })).toContainText('from huts');
  await page.goto('/data/huts');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Copy into another database' }).click();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByText(/120 documents and .* copied into archive/)).toBeVisible();

  await menu.click();
  await page.getByRole('menuitem', { name: /^archive/ }).click();
  await expect(page.getByRole('textbox', { name: 'Pipeline' })).toContainText('# the archive');
  await page.getByRole('link', { name: 'Data' }).click();
  await expect(page).toHaveURL(/\/d\/archive\/data/);
  await expect(page.getByRole('link', { name: /huts/ })).toBeVisible();

  // Renamed here, another window that has it open follows, and what was written there is there.
  const other = await page.context().newPage();
  await page.getByRole('link', { name: 'Bench' }).click();
  await other.goto('/d/archive/bench');
  await new Bench(other).write('# beside it');
  await menu.click();
  await page.getByRole('menuitem', { name: 'Rename archive' }).click();
  await page.getByRole('dialog', { name: 'Rename archive' }).getByLabel('Name').fill('attic');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  for (const [window, written] of [
    [page, '# the archive'],
    [other, '# beside it'],
  ] as const) {
    await expect(window).toHaveURL(/\/d\/attic\/bench/);
    await expect(window.getByRole('textbox', { name: 'Pipeline' })).toContainText(written);
  }
  await other.close();

  // Gone once its name has been typed.
  await menu.click();
  await page.getByRole('menuitem', { name: 'Remove attic' }).click();
  const sure = page.getByRole('dialog', { name: 'Remove attic' });
  await expect(sure.getByRole('button', { name: 'Remove it for good' })).toBeDisabled();
  await sure.getByLabel('Type attic').fill('attic');
  await sure.getByRole('button', { name: 'Remove it for good' }).click();
  await expect(page).toHaveURL(/^[^/]+\/\/[^/]+\/bench/);
  await menu.click();
  await expect(page.getByRole('menuitem', { name: /^attic/ })).toHaveCount(0);
});

test('what takes long is seen in one place from another window, also when it is loaded anew, and ended there', async ({
  page,
  context,
}) => {
  await page.goto('/indexes/reports');
  await page.getByRole('combobox', { name: 'Kind' }).click();
  await page.getByRole('option', { name: 'Vector', exact: true }).click();
  await page.getByLabel('Path', { exact: true }).fill('@.textVector');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const other = await context.newPage();
  await other.goto('/data');
  await other.getByRole('button', { name: 'Work: 1 under way' }).click();
  const list = other.getByRole('dialog', { name: 'Under way' });
  await expect(list).toContainText(/Building the index \w+ of reports/);
  await expect(list).toContainText(/since \d\d:\d\d/);
  await other.reload();
  await other.getByRole('button', { name: 'Work: 1 under way' }).click();
  await list.getByRole('button', { name: 'Cancel' }).click();
  await expect(list).toContainText('Nothing that takes long is being done');
  await expect(page.getByRole('region', { name: 'Being built' })).toBeHidden();
  await expect(page.getByRole('row').filter({ hasText: '@.textVector' })).toHaveCount(0);
});
