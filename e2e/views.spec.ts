import { expect, test } from './app.ts';

const summary =
  'from bookings\nwhere @.status == "late"\ngroup by @.hutId, @.channel measure parties = count(), people = sum(@.party.size)';

test('a slow group is kept; the same question reads its rows and says why; a booking that changes elsewhere is in it; it has an index', async ({
  page,
  bench,
  context,
  app,
}) => {
  await page.goto('/bench');
  await bench.write(summary);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByTestId('cost-sentence')).toContainText('Read 50,000 documents');
  // Saved as a view whose rows are kept.
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Save the pipeline' });
  await dialog.getByRole('textbox', { name: 'Name' }).fill('late_by_hut');
  await dialog.getByLabel(/^A view/).check();
  await dialog.getByLabel('Its rows').click();
  await page.getByRole('option', { name: 'kept, and brought up with each change' }).click();
  // What that takes is told before it is chosen.
  await expect(
    dialog.getByText(/worked out in [\d.]+ m?s\. They can follow each change, .* for a changed document of bookings/),
  ).toBeVisible();
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  // The same question, with a line more.
  await bench.write(`${summary}\norder by @.people desc, @.hutId\nlimit 5`);
  await expect(async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByTestId('cost-sentence')).toContainText('from the kept view late_by_hut', { timeout: 1_500 });
  }).toPass();
  await expect(page.getByTestId('cost-sentence')).not.toContainText('50,000');
  await page.getByRole('button', { name: 'Plan · P' }).click();
  await expect(page.getByText('Materialized view scan').first()).toBeVisible();
  await expect(page.getByText('chosen: it has kept what the question begins with')).toBeVisible();
  await expect(page.getByText('would work it out anew from bookings')).toBeVisible();

  // In another window a booking is added; the view has it without being told to.
  const other = await context.newPage();
  await other.goto(`${app.address}/data/late_by_hut`);
  const state = other.getByRole('region', { name: 'How it stands' });
  await expect(state.getByTestId('view-state')).toHaveText('Up to date');
  const added = await other.evaluate(async () => {
    const booking = { id: 'b-new', hutId: 'h-001', status: 'late', channel: 'by pigeon', party: { size: 999, lead: 'Vera' }, nights: [] };
    const answer = await fetch('/api/collections/bookings/documents', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(booking) }); // prettier-ignore
    return answer.status;
  });
  expect(added).toBe(201);
  await page.getByRole('button', { name: 'Output · P' }).click();
  await expect(async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByTestId('cost-sentence')).toContainText('from the kept view late_by_hut', { timeout: 1_500 });
    await expect(page.getByRole('cell', { name: 'by pigeon' })).toBeVisible({ timeout: 1_500 });
  }).toPass();
  await expect(state.getByText(/documents that need not be read/)).toBeVisible({ timeout: 15_000 });

  // It has indexes, and can be made anew when one says so.
  await other.getByRole('button', { name: 'Make it anew now' }).click();
  await expect(state.getByTestId('view-state')).toHaveText('Up to date');
  await other.getByRole('link', { name: 'Its indexes' }).click();
  await other.getByLabel('Keys').fill('@.channel');
  await other.getByRole('button', { name: 'Build' }).click();
  await expect(other.getByRole('cell', { name: '@.channel' })).toBeVisible();
  await bench.write('from late_by_hut\nwhere @.channel == "by pigeon"');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByTestId('cost-sentence')).toContainText('Read 1 document to return 1');

  // A kept row tells the documents that it comes from, and one goes on from them.
  await page.getByRole('cell', { name: 'by pigeon' }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Documents behind this row' }).click();
  const behind = page.getByRole('dialog', { name: 'Documents behind the row' });
  await expect(behind.getByText('It comes from 1 document of bookings.')).toBeVisible();
  await expect(behind.getByText('"b-new"')).toBeVisible();
  await behind.getByRole('button', { name: 'Ask about them' }).click();
  await expect(bench.editor).toContainText('where @.id in ["b-new"]');
});

test('rows that are kept on demand grow old and say so; let go of, the view is worked out when it is read', async ({ page, bench }) => {
  await page.goto('/data/late_parties');
  await page.getByRole('button', { name: 'Keep its rows' }).click();
  const dialog = page.getByRole('dialog', { name: 'The rows of late_parties' });
  await dialog.getByLabel('Its rows').click();
  await page.getByRole('option', { name: 'kept, and made anew when I say so' }).click();
  await dialog.getByRole('button', { name: 'Save' }).click();
  const state = page.getByTestId('view-state');
  await expect(state).toHaveText('Up to date');
  await page.evaluate(async () => {
    const document = { id: 'b-later', hutId: 'h-002', status: 'late', party: { size: 7, lead: 'Ida' }, nights: [] };
    await fetch('/api/collections/bookings/documents', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(document) }); // prettier-ignore
  });
  await expect(state).toHaveText('Out of date');
  await page.goto('/bench');
  await bench.write('from late_parties\nlimit 3');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByTestId('cost-sentence')).toContainText('from late_parties, which is out of date');
  await page.goto('/data/late_parties');
  await page.getByRole('button', { name: 'Make it anew now' }).click();
  await expect(state).toHaveText('Up to date');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await dialog.getByLabel('Its rows').click();
  await page.getByRole('option', { name: 'worked out each time that it is read' }).click();
  await dialog.getByRole('button', { name: 'Let go of them' }).click();
  await expect(page.getByRole('button', { name: 'Keep its rows' })).toBeVisible();
});

test('lines that are asked again and again are advised as a view, with what that costs, and kept by a button', async ({
  page,
  bench,
  request,
}) => {
  const lines = 'from bookings\nwhere @.channel == "partner"\ngroup by @.hutId measure parties = count(), people = sum(@.party.size)';
  for (const by of ['@.people desc', '@.parties desc', '@.hutId']) {
    await request.post('/api/query', { data: { pipeline: `${lines}\norder by ${by}\nlimit 5` } });
  }
  await page.goto('/indexes/bookings');
  const advice = page.getByRole('region', { name: 'Advice' });
  const one = advice.getByLabel('Worth keeping').filter({ hasText: 'channel == "partner"' });
  await expect(one).toContainText(/kept, is [\d,]+ rows: 3 runs would have read [\d,]+ documents less/);
  await expect(one).toContainText(/follow each change before it is acknowledged: .* for a changed document of bookings/);
  await one.getByRole('button', { name: 'Keep its rows' }).click();
  const dialog = page.getByRole('dialog', { name: 'Keep the rows of these lines' });
  await dialog.getByLabel('Name of the view').fill('by_partner');
  await dialog.getByRole('button', { name: 'Keep them' }).click();
  await expect(dialog).toBeHidden();
  await expect(one).toBeHidden();
  await page.goto('/bench');
  await bench.write(`${lines}\norder by @.people desc\nlimit 5`);
  await expect(async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByTestId('cost-sentence')).toContainText('from the kept view by_partner', { timeout: 1_500 });
  }).toPass();
});
