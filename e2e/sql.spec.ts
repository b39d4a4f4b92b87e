import { expect, test, writeLines } from './app.ts';
import type { Page } from '@playwright/test';

/** The SQL face of the Bench as a person uses it. */
class SqlFace {
  readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }
  get editor() {
    return this.page.getByRole('textbox', { name: 'SQL' });
  }
  get became() {
    return this.page.getByRole('region', { name: 'What this became' });
  }
  get output() {
    return this.page.getByRole('table', { name: 'Output' });
  }
  async open(): Promise<void> {
    await this.page.goto('/?');
    await this.page.getByRole('button', { name: 'New pipeline in a tab' }).click();
    await this.page.getByRole('button', { name: 'SQL', exact: true }).click();
    await expect(this.editor).toBeVisible();
  }
  async write(text: string): Promise<void> {
    await writeLines(this.page, this.editor, text);
  }
  async run(): Promise<void> {
    const answered = this.page.waitForResponse((response) => response.url().endsWith('/api/sql') && !(response.request().postData() ?? '').includes('workAtMostMs')); // prettier-ignore
    await this.page.keyboard.press('Control+Enter');
    await answered;
  }
}

test('SQL asks what there is, reads columns, ranks within groups, takes arrays apart, and answers as one JSON', async ({ page, bench }) => {
  const face = new SqlFace(page);
  await face.open();
  await face.write('DESCRIBE reports');
  await expect(face.output).toContainText('hazards[*].severity');
  await expect(face.became).toContainText('it asks about tables');

  await face.write("SELECT name, altitudeM\nFROM huts\nWHERE region = 'Larch Ridge'\nORDER BY altitudeM DESC\nLIMIT 5");
  await face.run();
  const heights = (await bench.column('altitudeM')).map(Number);
  expect(heights).toHaveLength(5);
  expect([...heights].sort((a, b) => b - a)).toEqual(heights);
  await expect(face.became).toContainText('where @.region == "Larch Ridge"');
  // The clauses are numbered in the order in which they run.
  await expect(page.locator('.zs-ordered i')).toHaveText(['5', '1', '2', '3', '4']);

  await face.write(
    "WITH ranked AS (\n  SELECT region, name, RANK() OVER (PARTITION BY region ORDER BY altitudeM DESC) AS place\n  FROM huts\n)\nSELECT JSON_ARRAYAGG(JSON_OBJECT('region': region, 'hut': name) ORDER BY region, place, name) AS answer\nFROM ranked\nWHERE place <= 3 AND region IS NOT NULL",
  ); // prettier-ignore
  await face.run();
  await expect(bench.cost).toContainText('to return 1');
  await page.getByRole('button', { name: 'Documents', exact: true }).click();
  await expect(page.getByText('Amber Saddle').first()).toBeVisible();
  await page.getByRole('button', { name: 'Table', exact: true }).click();

  await face.write("SELECT SUBSTRING(b.arrivesOn FROM 1 FOR 7) AS month, SUM(n.fee) AS fees\nFROM bookings AS b\nCROSS JOIN UNNEST(b.nights) AS n\nGROUP BY month\nORDER BY month"); // prettier-ignore
  await face.run();
  const months = await bench.column('month');
  expect(months.length).toBeGreaterThan(5);
  expect(months.every((month) => /^\d{4}-\d{2}$/.test(month))).toBe(true);
  expect([...months].sort()).toEqual(months);
});

test('an error is mended by its button, and names are completed from what documents hold', async ({ page }) => {
  const face = new SqlFace(page);
  await face.open();
  await face.write('SELECT lenght(name) AS letters\nFROM huts');
  await page.getByRole('button', { name: 'Write CHAR_LENGTH' }).click();
  await expect(face.editor).toContainText('SELECT CHAR_LENGTH(name) AS letters');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await face.write('SELECT b.party.');
  await page.keyboard.press('End');
  await page.keyboard.insertText('x FROM bookings AS b');
  for (let i = 0; i < 'x FROM bookings AS b'.length; i++) await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Delete');
  await page.keyboard.press('Control+Space');
  await expect(page.getByRole('option', { name: /^size/ })).toBeVisible();
  await page.keyboard.press('Escape');
});

test('the plan’s advice builds an index for a question in SQL, and the two are compared', async ({ page, bench }) => {
  const face = new SqlFace(page);
  await face.open();
  await face.write("SELECT id, hutId\nFROM bookings\nWHERE memberId = 'm-00797'");
  await face.run();
  await expect(bench.cost).toContainText('Read 50,000 documents');
  await page.getByRole('button', { name: /^Plan/ }).first().click();
  await page
    .getByRole('button', { name: /^Build/ })
    .first()
    .click();
  await expect(bench.cost).not.toContainText('50,000', { timeout: 60_000 });
  await expect(page.getByLabel('Plan', { exact: true })).toContainText('the same rows in the same order');
});

test('a question crosses to the notation and back as it was; what SQL cannot say is told first', async ({ page, bench }) => {
  const face = new SqlFace(page);
  await face.open();
  const sql =
    "SELECT h.region, COUNT(*) AS late\nFROM bookings AS b\nJOIN huts AS h ON h.id = b.hutId\nWHERE b.status = 'late'\nGROUP BY h.region";
  await face.write(sql);
  await expect(face.became).toContainText('group by');
  await page.getByRole('button', { name: 'Notation', exact: true }).click();
  await expect(bench.editor).toContainText('join huts as h on h.id == @.hutId');
  await page.getByRole('button', { name: 'SQL', exact: true }).click();
  await expect(face.editor).toContainText('JOIN huts AS h ON h.id = b.hutId');
  await page.getByRole('button', { name: 'Notation', exact: true }).click();
  await bench.write('from huts\nsample 3 seed 1');
  await page.getByRole('button', { name: 'SQL', exact: true }).click();
  await expect(page.getByRole('dialog')).toContainText('Line 2');
  await page.getByRole('button', { name: 'Stay with the notation' }).click();
  await expect(bench.editor).toContainText('sample 3 seed 1');
});

test('a question in SQL is saved with its face, opened again, and read as a view', async ({ page, bench }) => {
  const face = new SqlFace(page);
  await face.open();
  await face.write('SELECT hutId, COUNT(*) AS n\nFROM bookings\nGROUP BY hutId');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: /^Name/ }).fill('by_hut');
  await dialog.getByLabel(/A view/).check();
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);
  await page.reload();
  await expect(face.editor).toContainText('GROUP BY hutId');
  await page.getByRole('button', { name: 'New pipeline in a tab' }).click();
  await page.getByRole('button', { name: 'SQL', exact: true }).click();
  await face.write('SELECT h.name, v.n\nFROM huts AS h\nJOIN by_hut AS v ON v.hutId = h.id\nORDER BY v.n DESC\nLIMIT 3');
  await face.run();
  expect(await bench.column('n')).toHaveLength(3);
  await page.getByRole('link', { name: 'Runs' }).click();
  await expect(page.getByText(/SELECT h\.name, v\.n/).first()).toBeVisible();
});
