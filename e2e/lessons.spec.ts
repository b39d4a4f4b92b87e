import { expect, test } from './app.ts';

test('a first visit begins with a lesson, which goes on by itself as its steps are done, over a reload; then the next', async ({
  page,
  bench,
}) => {
  await page.goto('/bench');
  const ways = page.getByRole('region', { name: 'Ways to begin' });
  await expect(ways.getByRole('button')).toHaveText(['First lesson', 'A file of my own', 'An empty pipeline', 'Not now']);
  await ways.getByRole('button', { name: 'First lesson' }).click();
  const lesson = page.getByRole('region', { name: 'Lesson' });
  await expect(lesson).toContainText('Look at documents, 1 of 3');
  // By the keyboard, in one's own words.
  await bench.write('from huts\norder by @.altitudeM desc');
  await expect(lesson).toContainText('2 of 3');
  await page.reload();
  await expect(lesson).toContainText('2 of 3');
  await lesson.getByRole('button', { name: 'Show me' }).click();
  await expect(bench.editor).toContainText('limit 5');
  await expect(lesson).toContainText('3 of 3');
  await page.getByRole('button', { name: 'Shape', exact: true }).click();
  await expect(lesson).toContainText('Look at documents: done.');
  await lesson.getByRole('button', { name: 'Next: Ask with conditions' }).click();
  await expect(lesson).toContainText('Ask with conditions, 1 of 3');
  // What somebody writes in another tab meanwhile is theirs: the step is shown beside it.
  await page.getByRole('button', { name: 'New pipeline in a tab' }).click();
  await bench.write('from routes\nlimit 77');
  await lesson.getByRole('button', { name: 'Show me' }).click();
  await expect(bench.editor).not.toContainText('limit 77');
  await page.getByRole('list', { name: 'Open pipelines' }).getByRole('button', { name: 'from routes', exact: true }).click();
  await expect(bench.editor).toContainText('limit 77');
  await lesson.getByRole('button', { name: 'End' }).click();
  // Whoever has been told is not told again; the panel knows what is done.
  await expect(ways).toHaveCount(0);
  await page.keyboard.press('Control+o');
  const panel = page.getByRole('dialog', { name: 'Saved pipelines' });
  await expect(panel.getByRole('region', { name: 'Lessons' })).toContainText('1 of 8 done');
  await expect(panel.getByRole('button', { name: '✓ Look at documents' })).toBeVisible();
});

test('saved pipelines are looked for by their words and opened by the keyboard; what is kept and published is marked', async ({
  page,
  bench,
}) => {
  await page.goto('/bench');
  await page.getByRole('button', { name: 'Not now' }).click();
  await page.keyboard.press('Control+o');
  const panel = page.getByRole('dialog', { name: 'Saved pipelines' });
  await expect(panel.getByRole('menuitem', { name: /^Where to stay/ })).toContainText('published');
  await expect(panel.getByRole('menuitem', { name: /^fees_by_hut_and_month/ })).toContainText(/kept view/);
  await page.keyboard.type('drying stove');
  await expect(panel.getByRole('menuitem')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(panel).toBeHidden();
  await expect(bench.editor).toContainText('includes_all');
  // The one used last comes first, where that order is chosen; the choice stays.
  await page.keyboard.press('Control+o');
  await panel.getByRole('button', { name: 'used last' }).click();
  await page.keyboard.press('Escape');
  await page.reload();
  await page.getByRole('button', { name: 'Pipelines' }).click();
  await expect(panel.getByRole('menuitem').first()).toHaveText(/^Huts with a stove/);
});

test('a file of one’s own, and an empty pipeline', async ({ page, bench }) => {
  await page.goto('/bench');
  await page.getByRole('button', { name: 'An empty pipeline' }).click();
  await expect(bench.editor).toHaveText(/^from a collection …/);
  await page.evaluate(() => localStorage.clear());
  await page.goto('/bench');
  await page.getByRole('button', { name: 'A file of my own' }).click();
  await expect(page.getByRole('dialog', { name: 'New collection' })).toBeVisible();
});

test('all lessons are gone through by what they show and by what they say to press', async ({ page }) => {
  test.setTimeout(240_000);
  await page.goto('/bench');
  await page.getByRole('button', { name: 'First lesson' }).click();
  const lesson = page.getByRole('region', { name: 'Lesson' });
  for (let number = 1; number <= 8; number++) {
    await expect(lesson).toContainText(/, 1 of \d/);
    for (let text = await lesson.innerText(); !text.includes(': done.');) {
      const [, press] = /press (Shape|Plan|Chart|SQL|Notation|Build and run again)/i.exec(text) ?? [];
      const button = press === undefined ? lesson.getByRole('button', { name: 'Show me' }) : page.getByRole('button', { name: press, exact: true }).first(); // prettier-ignore
      await button.click();
      const before = text;
      await expect(async () => {
        text = await lesson.innerText();
        expect(text).not.toBe(before);
      }).toPass();
    }
    if (number < 8) await lesson.getByRole('button', { name: /^Next: / }).click();
  }
  await expect(lesson).toContainText('That was the last lesson');
  // Others find the collection as it was.
  expect((await page.request.delete('/api/collections/bookings/indexes/hutId_party_size')).status()).toBe(204);
});
