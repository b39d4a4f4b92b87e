import { expect, test } from './app.ts';

test('a long pipeline folds away below its comments; a stage is filled in by a template; the text is made larger, and stays so', async ({
  page,
  bench,
}) => {
  await page.goto('/');
  await bench.write('# Which huts\nfrom huts\nwhere @.bunks > 20\n# What they have\nunnest @.fittings as fitting');
  await page
    .getByTitle(/^Fold away/)
    .filter({ visible: true })
    .first()
    .click();
  await expect(bench.editor).not.toContainText('where @.bunks');
  await expect(bench.editor).toContainText('# What they have');
  // Folding changes nothing of what is asked.
  await bench.run();
  await expect(page.getByText(/^Read 120 documents/)).toBeVisible();
  await bench.editor.press('Control+End');
  await page.keyboard.type('\ngro');
  await page.getByRole('option', { name: /group by @\.field/ }).click();
  await page.keyboard.type('@.fitting');
  await page.keyboard.press('Tab');
  await page.keyboard.type('huts');
  await expect(bench.editor).toContainText('group by @.fitting');
  await expect(bench.editor).toContainText('measure huts = count()');
  const size = () => bench.editor.evaluate((element) => getComputedStyle(element).fontSize);
  const usual = await size();
  await page.keyboard.press('Alt+=');
  const larger = await size();
  expect(parseFloat(larger)).toBeGreaterThan(parseFloat(usual));
  await page.reload();
  expect(await size()).toBe(larger);
});
