import { expect, test } from './app.ts';

test('the job is done by keys alone: jump, write, move, switch off, run, plan, save', async ({ page, bench }) => {
  await page.goto('/bench');
  await expect(bench.editor).toBeFocused();
  const lines = page.locator('.cm-line');
  // What the Bench begins with has come.
  await expect(lines.first()).toHaveText('from bookings');
  const press = (...keys: string[]) => keys.reduce((before, key) => before.then(() => page.keyboard.press(key)), Promise.resolve());
  const line = async (text: string) => {
    await page.keyboard.insertText(text);
    await press('Escape', 'Enter');
  };
  await press('Control+A', 'Delete');
  await line('from huts');
  await line('limit 5');
  await line('where @.altitudeM > 2500');
  await page.keyboard.insertText('order by @.altitudeM desc');
  await press('Escape');

  // The stage at the cursor goes up past its neighbours, with undo.
  await press('Alt+ArrowUp', 'Alt+ArrowUp');
  await expect(lines.nth(1)).toHaveText('order by @.altitudeM desc');
  await press('Control+Z', 'Control+Y');
  await press('ArrowDown', 'ArrowDown', 'Alt+ArrowUp', 'Alt+ArrowUp');
  await expect(lines).toHaveText(['from huts', 'where @.altitudeM > 2500', 'order by @.altitudeM desc', 'limit 5']);
  await bench.run();
  await expect(bench.marginRows()).toHaveText(['120', /\d+/, /\d+/, '5']);
  const kept = await bench.marginRows().nth(1).innerText();

  // Switched off, its line does nothing; switched on again, it does what it did.
  await press('Control+/');
  await expect(lines.nth(1)).toHaveText('off where @.altitudeM > 2500');
  await bench.run();
  await expect(bench.cost).toContainText('Read 120 documents to return 5');
  await expect(bench.marginRows()).toHaveCount(3);
  await press('Control+/');
  await bench.run();
  await expect(bench.marginRows().nth(1)).toHaveText(kept);

  // A line is reached by its text, a screen by its name.
  await press('Control+K');
  await page.getByRole('combobox', { name: 'Jump to' }).fill('order by');
  await press('Enter');
  await expect(page.getByRole('heading', { name: 'After line 3' })).toBeVisible();
  await press('Control+K');
  await page.getByRole('combobox', { name: 'Jump to' }).fill('bookings indexes');
  await press('Enter');
  await expect(page.getByRole('heading', { name: 'Indexes of bookings' })).toBeVisible();
  await page.goBack();
  await expect(bench.editor).toContainText('order by @.altitudeM desc');

  // Outside the editor a letter turns from output to plan and back, and a sign opens the keys.
  await page.getByRole('button', { name: 'Table', exact: true }).focus();
  await press('p');
  await expect(page.getByRole('heading', { name: 'Plan of this run' })).toBeVisible();
  await press('p');
  await expect(page.getByRole('table', { name: 'Output' })).toBeVisible();
  await press('?');
  const reference = page.getByRole('complementary', { name: 'Reference' });
  await expect(reference).toContainText('switch the stage off, or on');
  await page.getByRole('button', { name: 'Close the reference' }).press('Enter');

  await bench.editor.focus();
  await press('Control+S');
  const saving = page.getByRole('dialog');
  await saving.getByRole('textbox', { name: 'Name' }).fill('High huts');
  await press('Enter');
  await expect(page.getByRole('listitem').filter({ hasText: 'High huts' })).toBeVisible();
  await expect(saving).toHaveCount(0);
});

test('runs are listed each question once, the most wasteful first', async ({ page, request }) => {
  const ask = (pipeline: string) => request.post('/api/query', { data: { pipeline } });
  for (let i = 0; i < 3; i++) await ask('from routes\nwhere @.grade == "none such"');
  await ask('from routes\nwhere @.id != "x"');
  await page.goto('/runs?text=from routes');
  const runs = page.getByRole('table', { name: 'Runs' });
  await expect(runs.getByRole('row')).toHaveCount(1 + 4);
  const once = page.getByRole('checkbox', { name: 'Each question once' });
  await once.click();
  await expect(once).toBeChecked();
  await expect(runs.getByRole('row')).toHaveCount(1 + 2);
  await expect(page).toHaveURL(/once=true/);
  await page.getByRole('button', { name: 'Lowest yield' }).click();
  await expect(runs.getByRole('row').nth(1)).toContainText('asked 3 times');
  await expect(page.getByText(/2 questions asked that are like this/)).toBeVisible();
  await page.reload();
  await expect(runs.getByRole('row')).toHaveCount(1 + 2);
});
