import { expect, test } from './app.ts';

test('words are searched by what they say and mean, and each result tells why it stands where it does', async ({ page }) => {
  await page.goto('/search?in=reports');
  await page.getByRole('textbox', { name: 'Words' }).fill('broken footbridge the ic*');
  await page.keyboard.press('Enter');
  const results = page.getByRole('list').getByRole('listitem');
  await expect(results).toHaveCount(10);
  await expect(results.first().locator('mark').first()).toBeVisible();
  await expect(page.getByRole('img', { name: /^Places: 1: by words/ })).toBeVisible();
  await results.first().getByRole('button').click();
  const why = page.getByRole('region', { name: 'Why number 1' });
  await expect(why).toContainText('a stop word');
  await expect(why).toContainText(/footbridg\s*\d+\.\d\d/);
  // The shares add up to what is shown, in words and in the fusion.
  const told = await why.innerText();
  const total = Number(/by words (\d+\.\d\d)/.exec(told)![1]);
  const shares = /(\d+\.\d\d(?: \+ \d+\.\d\d)*) = (\d+\.\d\d)/.exec(told)!;
  expect(Number(shares[2])).toBe(total);
  expect(Math.abs(shares[1]!.split(' + ').reduce((sum, one) => sum + Number(one), 0) - total)).toBeLessThan(0.02);
  const fusion = /1\/\(60\+(\d+)\) \+ 1\/\(60\+(\d+)\) = (0\.\d+)/.exec(told)!;
  expect(Math.abs(1 / (60 + Number(fusion[1])) + 1 / (60 + Number(fusion[2])) - Number(fusion[3]))).toBeLessThan(0.0001);
  await why.getByRole('button', { name: 'What the index sees' }).click();
  await expect(why.getByLabel('What the index sees', { exact: true }).last()).toContainText('footbridg');
  await page.reload();
  // The address asks the same again.
  await expect(results).toHaveCount(10);
  await page.getByRole('button', { name: 'Open on the Bench' }).click();
  await expect(page.getByRole('textbox', { name: 'Pipeline' })).toContainText('best 10 by relevance([@.headline, @.text], :words, "english", [2, 1])');
  await expect(page.getByRole('textbox', { name: 'words' })).toHaveValue('broken footbridge the ic*');
}); // prettier-ignore

test('what is searched is changed: a condition, words alone, and nothing found is said so', async ({ page }) => {
  await page.goto('/search?in=reports&words=ibex');
  await expect(page.getByRole('list').getByRole('listitem')).toHaveCount(10);
  await page.getByRole('button', { name: 'Change' }).click();
  const form = page.getByRole('form', { name: 'What is searched' });
  await form.getByRole('combobox', { name: 'Vectors' }).click();
  await page.getByRole('option', { name: 'none: by words alone' }).click();
  await form.getByRole('textbox', { name: 'Only where' }).fill('@.severity >= 4');
  await form.getByRole('button', { name: 'Use these' }).click();
  await expect(page.getByText('only where @.severity >= 4')).toBeVisible();
  await expect(page.getByRole('img', { name: /^Places/ })).toHaveCount(0);
  await expect(page.getByLabel('What the search cost')).toContainText(/Read [\d,]+ index entries and \d+ documents to return 10/);
  await page.getByRole('textbox', { name: 'Words' }).fill('the of');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Nothing answers “the of”')).toBeVisible();
  await page.getByRole('combobox', { name: 'Collection' }).click();
  await page.getByRole('option', { name: 'huts' }).click();
  await expect(page.getByText(/huts has no texts of some length/)).toBeVisible();
}); // prettier-ignore

test('a slow mention is advised a text index, which is planned against, built and compared', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from reports\nwhere mentions_all(@.text, "lynx ermine")\nselect @.id');
  await bench.run();
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  const plan = page.getByLabel('Plan', { exact: true });
  await expect(plan).toContainText('a text index on @.text');
  await plan.getByRole('button', { name: 'Build and run again' }).first().click();
  await expect(plan).toContainText(/times? (faster|less)|With it|without/i);
  await expect(bench.cost).toContainText(/Read \d{1,3} documents? to return/);
  await page.goto('/indexes/reports');
  await page.getByRole('row').filter({ hasText: 'english' }).getByRole('button', { name: 'Values' }).click();
  await expect(page.getByRole('region', { name: 'Values of words' })).toContainText(/@\.text: 84,000 texts of \d+ words on average, [\d,]+ different terms/);
  await page.goto('/');
  await bench.write('from reports\nwhere mentions_any(@.text, "lynx", "english")\nbest 5 by relevance(@.text, "lynx ermine", "english") as score\njoin huts as hut on hut.id == @.hutId\nselect @.id, @.score, @.hut.name as hut');
  await bench.run();
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(plan).toContainText(/text index search/i);
  await page.getByRole('button', { name: 'Output · P' }).click();
  expect(await bench.column('hut')).toHaveLength(5);
}); // prettier-ignore

test('how near ones are found is a dial: measured on the documents, a point of it sets the effort, and what is approximate says so', async ({ page }) => {
  await page.goto('/search?in=reports');
  // Vectors like those that the words typed are made into: a few of them, so that the index is there at once.
  await page.evaluate(async () => {
    const call = (path: string, body: object) => fetch(`/api${path}`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });
    await call('/collections', { name: 'scenes' });
    const asked = await call('/query', { pipeline: 'from reports\nlimit 400\nselect @.id, @.headline, @.text, @.textVector', pageSize: 400 });
    await call('/collections/scenes/documents', ((await asked.json()) as { documents: object[] }).documents);
    await call('/collections/scenes/indexes', { name: 'meanings', kind: 'vector', keys: ['@.textVector'] });
  });
  await page.goto('/search?in=scenes&words=broken+footbridge');
  await expect(page.getByRole('list').getByRole('listitem')).toHaveCount(10);
  await page.getByRole('button', { name: 'Change' }).click();
  const form = page.getByRole('form', { name: 'What is searched' });
  await form.getByLabel('about, with an effort of').click();
  await expect(form).toContainText('Not measured yet');
  await form.getByRole('button', { name: 'Measure the recall' }).click();
  await expect(form.getByRole('img', { name: /^Recall of the best 10 against time, effort 10: \d/ })).toBeVisible();
  await form.getByRole('button', { name: '200', exact: true }).click();
  await expect(form.getByRole('spinbutton', { name: 'Effort' })).toHaveValue('200');
  for (const path of ['@.headline', '@.text']) await form.getByRole('checkbox', { name: path }).uncheck();
  await form.getByRole('button', { name: 'Use these' }).click();
  await expect(page.getByLabel('What the search cost')).toContainText(/approximate: the best of 200 candidates, recall \d+(\.\d)?\s%/);
  // What was found is shown, though no words were looked for.
  await expect(page.getByRole('list').getByRole('listitem').first()).toContainText(/[a-z]{3,} [a-z]{3,}/i);
  await page.getByRole('button', { name: 'Open on the Bench' }).click();
  await expect(page.locator('.cm-content')).toContainText('effort 200');
  await page.goto('/indexes/scenes');
  await page.getByRole('row').filter({ hasText: 'vector' }).getByRole('button', { name: 'Values' }).click();
  const values = page.getByRole('region', { name: 'Values of meanings' });
  await expect(values).toContainText(/400 vectors of 64 numbers/);
  await expect(values.getByRole('img', { name: /^Recall of the best 10/ })).toBeVisible();
  // Each kind of index is asked for in its own way, and tells beforehand what it would take.
  for (const kind of ['Ordered', 'Text', 'Place', 'Vector']) {
    await page.getByRole('combobox', { name: 'Kind' }).click();
    await page.getByRole('option', { name: kind, exact: true }).click();
  }
  await page.getByLabel('Path').fill('@.textVector');
  await page.getByRole('button', { name: 'What if?' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'in memory' })).toContainText(/About 400 entries/);
}); // prettier-ignore
