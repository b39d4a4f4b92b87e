import { readFileSync } from 'node:fs';
import { expect, test } from './app.ts';

test('a saved pipeline is published, tried out, given a key, asked by its page from elsewhere with two conditions, and downloaded', async ({
  page,
  bench,
  browser,
  app,
}) => {
  await page.goto('/bench');
  await bench.write(
    'from huts\nwhere @.altitudeM <= :highest && :filter\norder by @.name\nselect @.name, @.region, @.altitudeM, @.fee.night as night',
  );
  const parameters = page.getByRole('group', { name: 'Parameters' });
  await parameters.getByRole('textbox', { name: 'highest' }).fill('2500');
  // A condition that is not given holds; one is made of rows.
  await parameters.getByRole('button', { name: 'As rows' }).click();
  const rows = page.getByRole('dialog', { name: 'The condition :filter' });
  await rows.getByRole('button', { name: '+ condition' }).click();
  await rows.getByRole('combobox', { name: 'Field' }).fill('@.region');
  await rows.getByRole('combobox', { name: 'Field' }).press('Enter');
  await rows.getByRole('combobox', { name: 'Value' }).fill('Low Tarn');
  await rows.getByRole('combobox', { name: 'Value' }).press('Tab');
  await page.keyboard.press('Escape');
  await expect(parameters.getByRole('textbox', { name: 'filter' })).toHaveValue('@.region == "Low Tarn"');
  await expect(page.getByRole('cell', { name: 'Low Tarn' }).first()).toBeVisible();
  await page.keyboard.press('Control+s');
  const save = page.getByRole('dialog', { name: 'Save the pipeline' });
  await save.getByRole('textbox', { name: 'Name' }).fill('Quiet huts');
  await save.getByRole('button', { name: 'Save' }).click();
  await expect(save).toBeHidden();

  // Published from its own menu, where the Bench has it.
  await page.getByRole('button', { name: 'More about this pipeline' }).click();
  await page.getByRole('menuitem', { name: 'Publish Quiet huts' }).click();
  const dialog = page.getByRole('dialog', { name: 'Publish a saved pipeline' });
  await expect(dialog.getByRole('textbox', { name: 'Name in the address' })).toHaveValue('quiet-huts');
  await dialog.getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByRole('heading', { name: 'Quiet huts' })).toBeVisible();

  await page.getByRole('button', { name: 'Ask', exact: true }).click();
  await expect(page.getByText('It was worked out for this call, and is kept now.')).toBeVisible();
  await page.getByRole('button', { name: 'Ask', exact: true }).click();
  await expect(page.getByText(/It was kept, and not worked out/)).toBeVisible();
  await page.getByRole('button', { name: 'Ask whether it has changed' }).click();
  await expect(page.getByText(/Nothing has changed since/)).toBeVisible();

  // Whoever has no key is let in no longer.
  await page.getByRole('tab', { name: 'How it is answered' }).click();
  await page.getByLabel('Who may ask').click();
  await page.getByRole('option', { name: 'whoever has a key' }).click();
  const filter = page.getByRole('group', { name: 'Parameter filter' });
  await filter.getByLabel('Fields that may be asked about').fill('@.region, @.altitudeM');
  await filter.getByLabel('Label').fill('Only huts where');
  await page.getByRole('button', { name: 'Save how it is answered' }).click();
  await expect(page.getByText('to whoever has a key').first()).toBeVisible();
  await page.getByRole('tab', { name: 'Keys' }).click();
  await page.getByLabel('Who the key is for').fill('the valley office');
  await page.getByRole('button', { name: 'Make a key' }).click();
  const key = await page.getByTestId('made-key').innerText();
  await expect(page.getByRole('list', { name: 'Keys' })).toContainText('the valley office');

  // In another browser, by its page alone, on a narrow screen.
  const elsewhere = await browser.newContext({ viewport: { width: 360, height: 740 } });
  const visitor = await elsewhere.newPage();
  const asked: string[] = [];
  visitor.on('request', (request) => asked.push(new URL(request.url()).pathname));
  await visitor.goto(`${app.address}/p/quiet-huts`);
  await visitor.getByLabel('Its key').fill(key);
  await visitor.getByRole('button', { name: 'Open' }).click();
  const form = visitor.getByRole('form', { name: 'What is asked' });
  await form.getByRole('button', { name: '+ condition' }).click();
  await form.getByLabel('Value of condition 1').fill('Low Tarn');
  await form.getByRole('button', { name: '+ condition' }).press('Enter');
  await form.getByLabel('Field of condition 2').selectOption('altitudeM');
  await form.getByLabel('Test of condition 2').selectOption('below');
  await form.getByLabel('Value of condition 2').fill('2000');
  await form.getByRole('button', { name: 'Apply' }).press('Enter');
  await expect(visitor).toHaveURL(/filter=/);
  // The head alone says nothing of it.
  await expect(visitor.getByRole('row').filter({ hasNotText: 'Low Tarn' })).toHaveCount(1);
  const shown = await visitor.getByRole('row').count();
  // The address holds what is asked, and nothing of the page is wider than the screen.
  await visitor.reload();
  await expect(visitor.getByRole('row')).toHaveCount(shown);
  await expect(form.getByLabel('Value of condition 2')).toHaveValue('2000');
  expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  const [download] = await Promise.all([visitor.waitForEvent('download'), visitor.getByRole('button', { name: 'Download CSV' }).click()]);
  expect(
    readFileSync(await download.path(), 'utf8')
      .trim()
      .split('\n'),
  ).toHaveLength(shown);
  for (const path of asked) expect(path).toMatch(/^\/(p\/|published-files\/|api\/published\/)/);

  // What is wrong is told at its place.
  await visitor.goto(`${app.address}/p/quiet-huts?highest=high`);
  await expect(visitor.getByRole('alert')).toContainText('highest is a number');
  // What was asked is counted.
  await page.reload();
  await expect(page.getByRole('navigation', { name: 'Publications' })).toContainText(/calls?, \d+\s%\skept/);
});

test('a page asks for one question at a time, chooses among values by clicks, and saves all rows of what is shown', async ({
  browser,
  app,
}) => {
  const put = (path: string, body: unknown) =>
    fetch(`${app.address}/api${path}`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  await put('/pipelines/by_region', {
    pipeline:
      'from huts\nwhere @.region in :regions && @.altitudeM >= :least && :filter\norder by @.name\nselect @.name, @.region, @.altitudeM as height, "=1+1" as note, {"night fee": @.fee.night} as odd',
  });
  const regions = ['Low Tarn', 'Upper Sill', 'Larch Ridge'];
  await put('/publications/by-region', {
    pipeline: 'by_region',
    maxRows: 5,
    parameters: [
      { name: 'regions', kind: 'list', choices: [...regions, 'Nowhere, at all'] },
      { name: 'least', kind: 'number', default: 0 },
      { name: 'filter', kind: 'condition', fields: [{ path: '@.region', choices: [...regions, 'Nowhere, at all'] }] },
    ],
    columns: [{ path: '@.name', label: 'Hut' }, { path: '@.region' }, { path: '@.odd["night fee"]', label: 'A night' }],
  });
  const { documents: all } = (await (
    await fetch(`${app.address}/api/query`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ pipeline: 'from huts\nwhere @.region in ["Low Tarn", "Larch Ridge"]\norder by @.name', pageSize: 1_000 }),
    })
  ).json()) as { documents: { name: string; fee: { night: number } }[] };
  expect(all.length).toBeGreaterThan(10);

  const visitor = await (await browser.newContext({ viewport: { width: 1_000, height: 740 } })).newPage();
  await visitor.goto(`${app.address}/p/by-region`);
  await expect(visitor.getByText('Fill in what is wanted')).toBeVisible();
  await visitor.getByRole('group', { name: 'regions' }).last().getByLabel('Low Tarn').check();
  await visitor.getByRole('group', { name: 'regions' }).last().getByLabel('Larch Ridge').check();
  await visitor.getByRole('button', { name: 'Apply' }).click();
  await expect(visitor.getByText('5 rows, and more')).toBeVisible();
  await expect(visitor.getByRole('columnheader')).toHaveText(['Hut', 'region', 'A night']);
  await expect(visitor.getByRole('row').nth(1).getByRole('cell').first()).toHaveText(all[0]!.name);
  await expect(visitor.getByRole('row').nth(1).getByRole('cell').last()).toHaveText(String(all[0]!.fee.night));

  // What is filled in and not asked yet changes nothing of what is saved; a text that is a formula elsewhere is none.
  await visitor.getByLabel('least').fill('9000');
  const [download] = await Promise.all([visitor.waitForEvent('download'), visitor.getByRole('button', { name: 'Download CSV' }).click()]);
  const [head, ...lines] = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(head).toBe('name,region,height,note,odd.night fee');
  expect(lines).toHaveLength(all.length);
  for (const line of lines) expect(line).toContain(",'=1+1,");

  // More is asked for, and before it comes another question: it is that one's rows that stand there.
  let letGo = (): void => undefined;
  const held = new Promise<void>((resolve) => (letGo = resolve));
  await visitor.route('**/*offset=5*', async (route) => {
    await held;
    await route.continue().catch(() => undefined);
  });
  await visitor.getByRole('button', { name: 'Show more' }).click();
  await visitor.getByLabel('least').fill('100000');
  await visitor.getByRole('button', { name: /Apply|Asking/ }).click();
  await expect(visitor.getByText('No row is so.')).toBeVisible();
  letGo();
  await expect(visitor.getByText('No row is so.')).toBeVisible();
  await expect(visitor.getByText('0 rows')).toBeVisible();
  await visitor.unroute('**/*offset=5*');

  // A choice that holds a comma is one, also within a condition; where a question is refused, no rows of another stand there.
  await visitor.getByLabel('least').fill('0');
  await visitor.getByRole('button', { name: '+ condition' }).click();
  await visitor.getByLabel('Test of condition 1').selectOption('one of');
  const chosen = visitor.getByRole('group', { name: 'Value of condition 1' });
  await chosen.getByLabel('Nowhere, at all').check();
  await chosen.getByLabel('Larch Ridge').press('Space');
  await visitor.getByRole('button', { name: 'Apply' }).click();
  await expect(visitor).toHaveURL(/filter=/);
  await expect(visitor.getByRole('row').nth(1)).toContainText('Larch Ridge');
  expect(new URL(visitor.url()).searchParams.get('filter')).toBe('@.region in ["Larch Ridge", "Nowhere, at all"]');
  await visitor.getByLabel('Test of condition 1').selectOption('is');
  await expect(visitor.getByLabel('Value of condition 1')).toHaveValue('Larch Ridge');
  await visitor.goto(`${app.address}/p/by-region?regions=Larch Ridge&least=high`);
  await expect(visitor.getByRole('alert')).toContainText('least is a number');
  await expect(visitor.getByRole('table')).toHaveCount(0);
});
