import { expect, test } from './app.ts';

test('a slow question is made faster by the index that its plan suggests', async ({ page, bench, app }) => {
  await page.goto('/');
  await bench.write('from bookings\nwhere @.status == "late" && @.party.size >= 4\norder by @.arrivesOn desc\nlimit 20');
  await bench.run();
  await expect(bench.cost).toHaveText('Read 50,000 documents to return 20: one in 2,500.');
  await expect(bench.marginRows()).toHaveText(['50,000', '1,128', '1,128', '20']);
  const before = await bench.column('id');
  expect(before).toHaveLength(20);
  const dates = await bench.column('status');
  expect(new Set(dates)).toEqual(new Set(['late']));

  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  const plan = page.getByLabel('Plan', { exact: true });
  await expect(plan.getByRole('table', { name: 'Steps' })).toContainText('Full scan');
  await expect(plan).toContainText('read 50,000 documents');
  await expect(plan).toContainText('If you had @.status, @.arrivesOn desc');
  await plan.getByRole('button', { name: 'Show the generated loop' }).click();
  await expect(plan.getByLabel('The generated loop', { exact: true })).toContainText('t4 === "late"');
  await plan.getByRole('button', { name: 'Build and run again' }).click();

  const comparison = page.getByRole('region', { name: 'Before and after' });
  await expect(comparison).toContainText('20 rows: the same rows in the same order');
  await expect(comparison).toContainText(/50,000 → \d{2,3}(?!,)/);
  await expect(comparison).toContainText('median of 9');
  await expect(plan.getByRole('table', { name: 'Steps' })).toContainText('Index range scan');
  await expect(bench.cost).toHaveText(/^Read \d{2,3} documents to return 20/);
  await page.getByRole('button', { name: 'Table' }).click();
  // The table draws its rows a moment after it is turned to.
  await expect.poll(() => bench.column('id')).toEqual(before);

  // Everything is there after a reload, and after the server was started again.
  await app.restart();
  await page.reload();
  await expect(bench.editor).toContainText('order by @.arrivesOn desc');
  await bench.editor.click();
  await bench.run();
  await expect(bench.cost).toHaveText(/^Read \d{2,3} documents to return 20/);
  await page.getByRole('link', { name: 'Indexes' }).click();
  const indexes = page.getByRole('table', { name: 'Indexes' });
  await expect(indexes).toContainText('@.status, @.arrivesOn desc');
  const drop = async () => {
    await indexes.getByRole('button', { name: 'Drop' }).click();
    await expect(page.getByRole('dialog')).toContainText('Without it these would read more:');
    await page.getByRole('dialog').getByRole('button', { name: 'Drop it' }).click();
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await expect(indexes).not.toContainText('@.arrivesOn');
  };
  await drop();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(indexes).toContainText('@.arrivesOn desc');
  await drop();
});

test('typing brings an answer at once, help at the cursor, and what is wrong with its mend', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from bookings\nwhere @.status == "late"');
  // So much can be read while one types.
  await expect(page.getByText(/^3,693 rows ·/)).toBeVisible();
  await page.keyboard.type(' && @.par');
  await expect(page.getByRole('option').first()).toContainText('party');
  await page.keyboard.press('Escape');
  await page.keyboard.type('ty.sise >= 4');
  await page.keyboard.press('Escape');
  await expect(page.getByText('No document of bookings has @.party.sise.')).toBeVisible();
  await page.getByRole('button', { name: 'Write size' }).click();
  await expect(bench.editor).toContainText('@.party.size >= 4');
  await expect(page.getByText('No document of bookings')).toHaveCount(0);

  await bench.write('from bookings\nwhere @.status = "late"');
  await expect(page.getByRole('alert')).toContainText('Equality is written ==.');
  await page.getByRole('button', { name: 'Write ==' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await bench.run();
  await expect(bench.cost).toHaveText('Read 50,000 documents to return 3,693: one in 14.');
});

test('a stage that is begun on an indented line comes to the start of it, and where it does not it is mended', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from huts');
  await page.keyboard.press('Enter');
  await page.keyboard.type('group by @.region');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Enter');
  await page.keyboard.type('  measure n = count()');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Enter');
  await page.keyboard.type('  where @.bunks > 20');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Enter');
  await page.keyboard.type('order by @.n desc');
  await page.keyboard.press('Escape');
  const lines = page.locator('.cm-line');
  // The condition of the measure stays with it; the order is a line of its own.
  await expect(lines.nth(3)).toHaveText(/^ {2,}where @\.bunks > 20$/);
  await expect(lines.nth(4)).toHaveText('order by @.n desc');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.keyboard.press('Enter');
  await page.keyboard.insertText('  limit 3');
  await expect(page.getByRole('alert')).toContainText('limit begins a stage at the start of a line');
  await page.getByRole('button', { name: 'Begin limit here' }).click();
  await expect(lines.nth(5)).toHaveText('limit 3');
  await bench.editor.click();
  await bench.run();
  await expect(bench.cost).toContainText('to return 3');
});

test('the output follows the cursor, and pages as it is scrolled', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from huts\nwhere @.altitudeM > 2000\norder by @.altitudeM desc\nselect @.name, @.altitudeM\nlimit 3');
  await bench.run();
  await expect(page.getByRole('heading', { name: 'After line 5' })).toBeVisible();
  expect(await bench.column('altitudeM')).toHaveLength(3);
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('heading', { name: 'After line 2' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'region' })).toBeVisible();

  await bench.write('from bookings\nselect @.id');
  await bench.run();
  const output = page.getByRole('table', { name: 'Output' });
  await output.hover();
  // Further pages come as the rows are scrolled through.
  await expect(async () => {
    await page.mouse.wheel(0, 2_000);
    await expect(output).toContainText(/b-00[2-9]\d\d/, { timeout: 500 });
  }).toPass({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Documents', exact: true }).click();
  await expect(page.getByLabel('Documents')).toContainText('"b-00001"');
});

test('alternatives that ask for different fields are made faster by the indexes that they take together', async ({ page, bench }) => {
  await page.goto('/bench');
  await bench.write('from bookings\nwhere @.hutId == "h-022" || @.memberId == "m-00042"');
  await bench.run();
  await expect(bench.cost).toHaveText(/^Read 50,000 documents to return 498/);
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  const plan = page.getByLabel('Plan', { exact: true });
  await expect(plan).toContainText('Indexes on @.hutId and @.memberId would read about');
  await plan.getByRole('button', { name: 'Build and run again' }).click();
  const comparison = page.getByRole('region', { name: 'Before and after' });
  await expect(comparison).toContainText('With the indexes, against without');
  await expect(comparison).toContainText('498 rows: the same rows in the same order');
  await expect(comparison).toContainText('50,000 → 498');
  await expect(plan.getByRole('table', { name: 'Steps' })).toContainText('Index union');
  await expect(plan).toContainText('alone it serves some of the alternatives');
  // Others ask about these fields without an index.
  for (const name of ['hutId', 'memberId'])
    expect((await page.request.delete(`/api/collections/bookings/indexes/${name}`)).ok()).toBe(true);
});
