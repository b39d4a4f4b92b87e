import type { Locator } from '@playwright/test';
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

test('from a file on disk to a published page, by keys alone', async ({ page, bench, context }) => {
  test.setTimeout(180_000);
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key);
  };
  /** Goes on by Tab until something has the focus, as whoever has no pointer does: what cannot be reached fails. */
  const reach = async (wanted: Locator, most = 70) => {
    await expect(wanted).toBeVisible();
    for (let times = 0; times < most; times++) {
      if (await wanted.evaluate((element) => element === document.activeElement)) return;
      await press('Tab');
    }
    throw new Error(`Tab does not lead to ${wanted.toString()}`);
  };
  const jump = async (words: string) => {
    await press('Control+K');
    await expect(page.getByRole('combobox', { name: 'Jump to' })).toBeFocused();
    await page.keyboard.type(words);
    await expect(page.getByRole('option').first()).toContainText(words);
    await press('Enter');
  };

  // A file is brought in.
  await page.goto('/bench');
  await expect(bench.editor).toBeFocused();
  await jump('Data');
  await reach(page.getByRole('button', { name: 'New collection' }));
  await press('Enter');
  await expect(page.getByRole('dialog').getByLabel('Name')).toBeFocused();
  await page.keyboard.type('bridges');
  await press('Enter');
  const choosing = page.waitForEvent('filechooser');
  await reach(page.getByRole('button', { name: 'Choose a file' }));
  await press('Enter');
  const lines = Array.from({ length: 60 }, (_, id) =>
    JSON.stringify({ id, state: id % 4 === 0 ? 'broken' : 'sound', valley: `v${id % 3}` }),
  );
  await (await choosing).setFiles({ name: 'bridges.ndjson', mimeType: 'application/x-ndjson', buffer: Buffer.from(lines.join('\n')) });
  await reach(page.getByRole('button', { name: 'Load it' }));
  await press('Enter');
  await expect(page.getByRole('status').filter({ hasText: '60 documents stored' })).toBeVisible();

  // It is asked about, and the question is saved.
  await reach(page.getByRole('button', { name: 'Ask on the Bench' }));
  await press('Enter');
  await expect(bench.editor).toBeFocused();
  await expect(bench.editor).toContainText('from bridges');
  await press('Control+End');
  await page.keyboard.insertText('where @.state == "broken"\ngroup by @.valley measure bridges = count()\norder by @.valley');
  await press('Escape');
  await bench.run();
  await expect(bench.cost).toContainText('to return 3');
  await press('Control+S');
  const save = page.getByRole('dialog', { name: 'Save the pipeline' });
  await expect(save.getByRole('textbox', { name: 'Name' })).toBeFocused();
  await page.keyboard.type('Broken bridges');
  await press('Enter');
  await expect(save).toBeHidden();

  // It is published, and its page is opened.
  await jump('Publish Broken');
  const publishing = page.getByRole('dialog', { name: 'Publish a saved pipeline' });
  await reach(publishing.getByRole('button', { name: 'Publish' }));
  await press('Enter');
  await expect(page.getByRole('heading', { name: 'Broken bridges' })).toBeVisible();
  const opening = context.waitForEvent('page');
  await reach(page.getByRole('link', { name: /page/i }));
  await press('Enter');
  const published = await opening;
  await expect(published.getByRole('row')).toHaveCount(4);
  await expect(published.getByRole('row').nth(1)).toContainText('v0');
});
