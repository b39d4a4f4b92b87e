import { expect, test } from './app.ts';

test('the example of the notation is built by forms alone, from nothing', async ({ page, bench }) => {
  test.setTimeout(120_000);
  await page.goto('/');
  await bench.write('');
  const form = page.getByRole('region', { name: 'Form of the stage' });
  const add = (word: string) => form.getByRole('button', { name: word, exact: true }).click();
  const fill = async (label: string, value: string, nth = 0) => {
    const input = form.getByLabel(label, { exact: true }).nth(nth);
    await input.fill(value);
    await input.press('Enter');
    await input.blur();
  };
  await add('from');
  await expect(bench.editor).toContainText('from bookings');
  await add('where');
  await fill('Field', '@.status');
  const choose = async (nth: number, name: string) => {
    const box = form.getByRole('combobox', { name: 'Test' }).nth(nth);
    // Figures that come in meanwhile may draw the list anew under the pointer.
    await expect(async () => {
      if ((await page.getByRole('listbox').count()) === 0) await box.click({ timeout: 3_000 });
      await page.getByRole('option', { name, exact: true }).click({ timeout: 3_000 });
      await expect(box).toHaveText(name, { timeout: 3_000 });
    }).toPass();
  };
  await choose(0, 'is');
  await fill('Value', 'late');
  await form.getByRole('button', { name: '+ condition' }).click();
  await fill('Field', '@.party.size', 1);
  await choose(1, 'is at least');
  await fill('Value', '4', 1);
  await expect(bench.editor).toContainText('where @.status == "late" && @.party.size >= 4');

  await add('join');
  await fill('Name of the partner', 'hut');
  await form.getByRole('group', { name: 'Fields of the row' }).getByRole('button', { name: '@.hutId' }).click();
  await form.getByRole('group', { name: 'Fields of the partner' }).getByRole('button', { name: 'id', exact: true }).click();
  await form.getByRole('button', { name: 'Remove the pair' }).first().click();
  await expect(bench.editor).toContainText('left join huts as hut on hut.id == @.hutId');
  await expect(form.getByLabel('Rows and their partners')).toContainText(/[\d,]+ rows met one partner, 0 none, 0 several/);

  await add('unnest');
  await expect(form).toContainText(/It has \d+ to \d+ elements/);
  await expect(bench.editor).toContainText('unnest @.nights as night');
  await add('compute');
  await fill('Name', 'fee');
  await fill('Value', '@.night.fee * @.party.size');
  await add('group by');
  await fill('Key', '@.hut.name');
  await fill('Name of the key', 'hut');
  await fill('Name of the measure', 'parties');
  await form.getByRole('button', { name: '+ measure' }).click();
  await fill('Name of the measure', 'fees', 1);
  await fill('Of what', '@.fee');
  await expect(bench.editor).toContainText('measure parties = count(), fees = sum(@.fee)');
  await add('order by');
  await fill('Key', '@.fees');
  await form.getByRole('button', { name: 'desc', exact: true }).click();
  await add('limit');
  await fill('Rows', '15');
  await bench.run();
  const fees = (await bench.column('fees')).map((text) => Number(text));
  expect(fees.length).toBe(15);
  expect([...fees].sort((a, b) => b - a)).toEqual(fees);
  const margin = (await bench.marginRows().allInnerTexts()).map((text) => Number(text.replaceAll(',', '')));
  expect(margin[0]).toBe(50_000);
  expect(margin[3]).toBeGreaterThan(margin[2]);
  expect(margin[margin.length - 1]).toBe(15);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByLabel('Plan', { exact: true })).toContainText('Unnest joined to group');
  await expect(page.getByLabel('Plan', { exact: true })).toContainText('Hash join');
});

test('the three best rated huts of each region, and fees by region and month as a chart', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write(
    'from huts\ncompute score = avg_of(@.ratings[*].score)\nrank as place partition by @.region order by @.score desc\nwhere @.place <= 3\norder by @.region, @.place\nselect @.region, @.place, @.name, @.score',
  );
  await bench.run();
  const places = (await bench.column('place')).map(Number);
  expect(Math.max(...places)).toBe(3);
  expect(places.filter((place) => place === 1).length).toBeGreaterThan(4);

  await page.getByRole('button', { name: 'Pipelines' }).click();
  await page.getByRole('menuitem', { name: /^Fees by hut and month/ }).click();
  await bench.editor.click();
  await bench.run();
  await page.getByRole('button', { name: 'Chart' }).click();
  await expect(page.getByRole('img', { name: /fees over month, \d+ points/ })).toBeVisible();
});

test('lines are pulled out as a view that another pipeline reads; a result is kept as a collection', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from bookings\nwhere @.status == "lost"\nselect @.id, @.hutId, @.party.size\nlimit 5');
  await page.keyboard.press('ArrowUp');
  await page.getByRole('button', { name: 'pull out as a view' }).click();
  await page.getByLabel('Name of the view').fill('lost_ones');
  await page.getByRole('button', { name: 'Pull out' }).click();
  await expect(bench.editor).toContainText('from lost_ones');
  await bench.write(
    'from huts\nwhere @.region != null\njoin lost_ones as l on l.hutId == @.id\ngroup by @.region measure lost = count()\norder by @.lost desc',
  );
  await bench.run();
  await expect(page.getByRole('table', { name: 'Output' })).toContainText(/\d/);
  await page.getByRole('button', { name: 'Keep the rows' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('lost_by_region');
  await dialog.getByLabel('Identity').fill('@.region');
  await dialog.getByRole('button', { name: 'Store them' }).click();
  await expect(page.getByText(/documents stored in lost_by_region/)).toBeVisible();
  await bench.write('from lost_by_region\nwhere @.lost > 0');
  await bench.run();
  await expect(page.getByRole('table', { name: 'Output' })).toContainText('Amber Saddle');
});

test('a pipeline is drafted on one document; a document is followed to its group; a field to where it begins', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from bookings\nwhere @.status == "late"');
  await bench.run();
  await expect(bench.cost).toContainText('Read 50,000 documents');
  const table = page.getByRole('table', { name: 'Output' });
  const id = await table.getByRole('row').nth(1).getByRole('cell').first().innerText();
  await table.getByRole('row').nth(1).getByRole('cell').first().click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Draft on this document alone' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Drafting on' })).toContainText(`Drafting on ${id} alone`);
  await bench.write('from bookings\nwhere @.status == "late"\nunnest @.nights as night\ngroup by @.hutId measure fees = sum(@.night.fee)');
  await bench.run();
  expect((await bench.column('hutId')).length).toBe(1);
  await page.getByRole('button', { name: 'Back to all documents' }).click();
  await bench.editor.click();
  await bench.run();
  await expect.poll(async () => (await bench.column('hutId')).length).toBeGreaterThan(5);
  await table.getByRole('button', { name: 'fees' }).click();
  await page.getByRole('menuitem', { name: 'Where it comes from' }).click();
  await expect(page.getByRole('dialog')).toContainText('It begins with bookings @.nights');
  await page.keyboard.press('Escape');
  await bench.editor.click();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('ArrowDown');
  await page.getByRole('button', { name: 'Trace it' }).click();
  await page.getByLabel('Its identity').fill(id);
  await page.getByRole('button', { name: 'Follow it' }).click();
  const trace = page.getByRole('region', { name: 'Trace' });
  await expect(trace).toContainText('It is in the result.');
  await expect(trace).toContainText('group by @.hutId');
});

test('code that was copied out is pasted back as the pipeline', async ({ page, bench, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto('/');
  await bench.write('from huts\nwhere @.bunks >= :least');
  await page.getByRole('textbox', { name: 'least' }).fill('60');
  await page.getByRole('button', { name: 'More about this pipeline' }).click();
  await page.getByRole('menuitem', { name: 'Copy as curl' }).click();
  await expect(page.getByText('Copied.')).toBeVisible();
  await page.getByRole('button', { name: 'New pipeline in a tab' }).click();
  await bench.editor.click();
  await page.keyboard.press('Control+v');
  await expect(bench.editor).toContainText('where @.bunks >= :least');
  await expect(page.getByRole('textbox', { name: 'least' })).toHaveValue('60');
});

test('a line is dragged in the margin to another place; the rows that met no partner open as a list', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write(
    'from huts\nleft join routes as r on r.legs[?@.fromHutId == $.id] && r.grade == "T4"\nwhere @.altitudeM > 2900\norder by @.name',
  );
  await bench.run();
  const margin = page.locator('.zs-margin-row');
  const [from, to] = [
    await margin
      .filter({ has: page.locator('b') })
      .nth(2)
      .boundingBox(),
    await margin
      .filter({ has: page.locator('b') })
      .nth(1)
      .boundingBox(),
  ];
  if (from === null || to === null) throw new Error('not in sight');
  await page.mouse.move(from.x + 80, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + 80, to.y + to.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect
    .poll(async () => (await bench.editor.innerText()).replaceAll('\n\n', '\n'))
    .toContain('from huts\nwhere @.altitudeM > 2900\nleft join routes');
  await bench.editor.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.press('ArrowUp');
  await bench.run();
  const partners = page.getByLabel('Rows and their partners');
  await expect(partners).toContainText(/[1-9]\d* none/);
  await partners.getByRole('button', { name: /none$/ }).click();
  await expect(bench.editor).toContainText('where length(@.r) == 0');
  await expect(page.getByRole('table', { name: 'Output' })).toContainText('h-');
});

test('fields of the partner that are not wanted are left out by the form; the heads tell what a line did; a view is renamed with its readers', async ({
  page,
  bench,
  request,
}) => {
  await page.goto('/');
  await bench.write('from bookings\nleft join huts as hut on hut.id == @.hutId');
  const bring = page.getByRole('group', { name: 'Fields to bring over' });
  await expect(bring).toContainText('bring over all fields of the partner');
  for (const name of ['ratings', 'wardens']) await bring.getByLabel(name, { exact: true }).uncheck();
  await expect(bench.editor).toContainText('omit @.hut.ratings, @.hut.wardens');
  await bring.getByLabel('wardens', { exact: true }).check();
  await expect(bench.editor).not.toContainText('@.hut.wardens');
  await bring.getByLabel('ratings', { exact: true }).check();
  await expect(bench.editor).not.toContainText('omit');

  await bench.write('from huts\ncompute bunks = number(@.bunks), beds = @.bunks');
  const output = page.getByRole('table', { name: 'Output' });
  await expect(output.getByRole('button', { name: '+ beds', exact: true })).toHaveAttribute('title', /added by this line/);
  await expect(output.getByRole('button', { name: '≠ bunks', exact: true })).toHaveAttribute('title', /given another value by this line/);
  const fields = page.getByRole('note', { name: 'Fields of this line' });
  await expect(fields).toContainText('changed @.bunks');
  // What it added stands beside the identity, until it is put back into its order.
  const heads = output.getByRole('columnheader');
  await expect(heads.nth(1)).toContainText('beds');
  await fields.getByRole('button', { name: 'columns in their own order' }).click();
  await expect(heads.nth(1)).toContainText('name');
  await fields.getByRole('button', { name: 'added columns first' }).click();
  await expect(heads.nth(1)).toContainText('beds');
  await page.getByRole('button', { name: 'Shape', exact: true }).click();
  const shape = page.getByRole('table', { name: 'Shape of the output' });
  await expect(shape.getByRole('row').filter({ hasText: '@.beds' }).getByLabel('added by this line')).toBeVisible();
  await expect(shape.getByRole('row').filter({ hasText: '@.bunks' }).getByLabel('given another value by this line')).toBeVisible();

  await request.put('/api/pipelines/high_huts', { data: { pipeline: 'from huts\nwhere @.altitudeM > 2000\n', view: true } });
  await request.put('/api/pipelines/Counted%20high', { data: { pipeline: 'from high_huts\ngroup all measure n = count()\n' } });
  await page.reload();
  await page.getByRole('button', { name: 'Pipelines' }).click();
  await page.getByRole('menuitem', { name: /^high_huts/ }).click();
  await page.getByRole('button', { name: 'More about this pipeline' }).click();
  await page.getByRole('menuitem', { name: 'Rename high_huts' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Counted high read it, and will be rewritten.');
  await dialog.getByRole('textbox', { name: 'Name' }).fill('upper_huts');
  await dialog.getByRole('button', { name: 'Rename' }).click();
  await expect(page.getByText('high_huts is called upper_huts now. Counted high read it under its new name.')).toBeVisible();
});
