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
